#include "core/measure/between.h"

#include "core/measure/adjust.h"

namespace punch {

std::optional<Between> between(const Part& part, const FeatureId& a, const FeatureId& b) {
    if (a == b || !featureExists(part, a) || !featureExists(part, b) || a == kBody || b == kBody) return {};
    const Adjustment adjustment(part);
    const auto length = [&](const Expr& e) {
        DoubtfulLength d{Length::fromMm(e.value()), {}};
        if (adjustment.firm(e)) d.doubt = Length::fromMm(adjustment.doubt(e));
        return d;
    };
    const Feature& fa = adjustment.features().at(a);
    const Feature& fb = adjustment.features().at(b);
    const bool faceA = fa.kind == FeatureKind::Face;
    const bool faceB = fb.kind == FeatureKind::Face;
    const auto hasAxis = [&](Axis axis) { return (!faceA || fa.faceAxis == axis) && (!faceB || fb.faceAxis == axis); };
    Between all;
    if (hasAxis(Axis::Along)) all.along = length(fb.x - fa.x);
    if (hasAxis(Axis::Across)) all.across = length(fb.y - fa.y);
    Reading r;
    r.a = a;
    r.b = b;
    const auto shown = [&](Contact contact, Axis axis) -> std::optional<DoubtfulLength> {
        r.contact = contact;
        r.axis = axis;
        const auto e = adjustment.equation(r);
        return e ? std::optional(length(*e)) : std::nullopt;
    };
    if (faceA && faceB) {
        all.direct = shown(Contact::Outside, fa.faceAxis);
    } else if (faceA || faceB) {
        const Axis axis = faceA ? fa.faceAxis : fb.faceAxis;
        all.direct = shown(Contact::FaceCentre, axis);
        all.inside = shown(Contact::FaceNear, axis);
        all.outside = shown(Contact::FaceFar, axis);
    } else {
        all.direct = shown(Contact::Centres, Axis::Direct);
        all.inside = shown(Contact::Inside, Axis::Direct);
        all.outside = shown(Contact::Outside, Axis::Direct);
    }
    return all;
}

}  // namespace punch
