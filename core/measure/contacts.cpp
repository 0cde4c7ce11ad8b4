#include "core/measure/contacts.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace punch {
namespace {

/// Half extent along the line (dx, dy) of length d: a round feature's radius, or where the line leaves a rectangle's
/// edge. It turns with the line, so its derivatives go through dx and dy too.
Expr halfAlong(const Feature& f, const Expr& dx, const Expr& dy, const Expr& d) {
    if (f.round) return f.halfX;
    const double ax = std::abs(dx.value());
    const double ay = std::abs(dy.value());
    if (ay < 1e-12) return f.halfX;
    if (ax < 1e-12) return f.halfY;
    const bool leavesAtSide = f.halfX.value() / ax < f.halfY.value() / ay;
    const Expr& along = leavesAtSide ? dx : dy;
    return (leavesAtSide ? f.halfX : f.halfY) * (d / (along.value() < 0 ? -along : along));
}

Expr coordinate(const Feature& f, Axis axis) { return axis == Axis::Across ? f.y : f.x; }
Expr half(const Feature& f, Axis axis) { return axis == Axis::Across ? f.halfY : f.halfX; }

bool isFaceContact(Contact c) { return c == Contact::FaceNear || c == Contact::FaceFar || c == Contact::FaceCentre; }

tl::unexpected<Problem> notThere(const Part& part, const Reading& r, std::string what) {
    return problem(std::move(what), readingWords(part, r), "Choose another contact");
}

Expr withHalves(Contact contact, const Expr& between, const Expr& ha, const Expr& hb) {
    if (contact == Contact::Outside) return between + ha + hb;
    if (contact == Contact::Inside) return between - ha - hb;
    return between;
}

}  // namespace

Result<Expr> contactExpr(const Part& part, const Reading& r, const std::map<FeatureId, Feature>& features,
                         const std::map<FeatureId, Feature>& drawn) {
    const auto a = features.find(r.a);
    const auto b = features.find(r.b);
    if (a == features.end() || (b == features.end() && r.contact != Contact::Size))
        return problem("it was taken on a feature that is no longer there", readingWords(part, r),
                       "Bring the feature back, or remove the reading");
    const Feature& fa = a->second;
    if (r.contact == Contact::Size) {
        if (fa.kind == FeatureKind::Face) return notThere(part, r, "a face has no size of its own");
        if (r.axis == Axis::Direct && !fa.round) return notThere(part, r, "only a round feature has a diameter");
        if (r.axis == Axis::Height)
            return fa.height ? Result<Expr>(*fa.height) : notThere(part, r, "this feature has no height");
        return 2.0 * half(fa, r.axis);
    }
    const Feature& fb = b->second;
    if (r.a == r.b) return notThere(part, r, "both ends are the same feature");
    if (r.axis == Axis::Height) return notThere(part, r, "a height is read across one feature");

    if (isFaceContact(r.contact)) {
        // The face may stand at either end of the reading; its distance to the other feature is inwards.
        const Feature& face = fa.kind == FeatureKind::Face ? fa : fb;
        const Feature& other = fa.kind == FeatureKind::Face ? fb : fa;
        if (face.kind != FeatureKind::Face || other.kind == FeatureKind::Face)
            return notThere(part, r, "one end must be a face, the other a pin or a peg");
        const Expr inwards =
            static_cast<double>(face.side) * (coordinate(face, face.faceAxis) - coordinate(other, face.faceAxis));
        const Expr h = half(other, face.faceAxis);
        if (r.contact == Contact::FaceNear) return inwards - h;
        if (r.contact == Contact::FaceFar) return inwards + h;
        return inwards;
    }
    if (fa.kind == FeatureKind::Face || fb.kind == FeatureKind::Face) {
        if (fa.kind != fb.kind || fa.faceAxis != fb.faceAxis)
            return notThere(part, r, "this contact needs two opposite faces, or two pins or pegs");
        const Feature& low = fa.side < 0 ? fa : fb;
        const Feature& high = fa.side < 0 ? fb : fa;
        return coordinate(high, fa.faceAxis) - coordinate(low, fa.faceAxis);
    }
    if (fa.kind == FeatureKind::Body || fb.kind == FeatureKind::Body)
        return notThere(part, r, "the body is read from one of its faces");
    if (r.axis == Axis::Direct) {
        const Expr dx = fb.x - fa.x;
        const Expr dy = fb.y - fa.y;
        const Expr d = hypot(dx, dy);
        return withHalves(r.contact, d, halfAlong(fa, dx, dy, d), halfAlong(fb, dx, dy, d));
    }
    const double drawnGap = coordinate(drawn.at(r.b), r.axis).value() - coordinate(drawn.at(r.a), r.axis).value();
    const double sign = drawnGap < 0 ? -1.0 : 1.0;
    return withHalves(r.contact, sign * (coordinate(fb, r.axis) - coordinate(fa, r.axis)), half(fa, r.axis),
                      half(fb, r.axis));
}

std::string readingWords(const Part& part, const Reading& r) {
    const std::string a = featureWords(part, r.a);
    if (r.contact == Contact::Size) {
        const Peg* peg = pegOf(part, r.a);
        const Formation* f = formationOf(part, r.a);
        if (r.axis == Axis::Height) return a + (r.a == kBody ? ", height" : ", length");
        if (peg != nullptr || (f != nullptr && f->lead == LeadShape::Round)) return a + ", diameter";
        if (r.a == kBody) return a + (r.axis == Axis::Across ? ", across" : ", along the row");
        return a + (r.axis == Axis::Across ? ", thickness" : ", width");
    }
    const std::string b = featureWords(part, r.b);
    if (r.contact == Contact::FaceNear) return fmt::format("{} to {}, near edge", a, b);
    if (r.contact == Contact::FaceFar) return fmt::format("{} to {}, far edge", a, b);
    if (r.contact == Contact::FaceCentre) return fmt::format("{} to {}, centre", a, b);
    const std::string both = a.starts_with("pin ") && b.starts_with("pin ")
                                 ? fmt::format("pins {} and {}", a.substr(4), b.substr(4))
                                 : fmt::format("{} and {}", a, b);
    const bool bothPins = formationOf(part, r.a) != nullptr && formationOf(part, r.a) == formationOf(part, r.b);
    const std::string way = r.axis == Axis::Direct ? ", direct" : r.axis == Axis::Across ? ", across" : ", along";
    const std::string contact = r.contact == Contact::Outside  ? "outside"
                                : r.contact == Contact::Inside ? "inside"
                                                               : "centres";
    // Pins of one row are read along it; saying so each time would only lengthen the line.
    return both + (bothPins && r.axis == Axis::Along ? "" : way) + ", " + contact;
}

std::string readingShortWords(const Part& part, const Reading& r) {
    if (r.contact == Contact::Size) return readingWords(part, r);
    const auto name = [&](const FeatureId& id) {
        const std::string number = pinNumber(part, id);
        return number.empty() ? featureWords(part, id) : number;
    };
    const std::string whole = readingWords(part, r);
    const bool face =
        r.contact == Contact::FaceNear || r.contact == Contact::FaceFar || r.contact == Contact::FaceCentre;
    return name(r.a) + (face ? " → " : " ↔ ") + name(r.b) + whole.substr(std::min(whole.find(','), whole.size()));
}

std::vector<ContactChoice> contactChoices(const Part& part, const FeatureId& a, const FeatureId& b) {
    const bool faceA = isFace(a);
    const bool faceB = isFace(b);
    if (b.empty()) {
        if (a == kBody)
            return {{Contact::Size, Axis::Along}, {Contact::Size, Axis::Across}, {Contact::Size, Axis::Height}};
        if (faceA) return {};
        if (pegOf(part, a) != nullptr) return {{Contact::Size, Axis::Along}};
        const Formation* f = formationOf(part, a);
        if (f != nullptr && f->lead != LeadShape::Rectangular)
            return {{Contact::Size, Axis::Along}, {Contact::Size, Axis::Height}};
        return {{Contact::Size, Axis::Along}, {Contact::Size, Axis::Across}, {Contact::Size, Axis::Height}};
    }
    if (a == kBody || b == kBody || a == b) return {};
    if (faceA && faceB) {
        const auto across = [](const FeatureId& id) { return id == kFrontFace || id == kRearFace; };
        if (across(a) != across(b)) return {};
        return {{Contact::Outside, across(a) ? Axis::Across : Axis::Along}};
    }
    if (faceA || faceB) {
        const FeatureId& face = faceA ? a : b;
        const Axis axis = face == kFrontFace || face == kRearFace ? Axis::Across : Axis::Along;
        return {{Contact::FaceNear, axis}, {Contact::FaceFar, axis}, {Contact::FaceCentre, axis}};
    }
    const bool sameRow = formationOf(part, a) != nullptr && formationOf(part, a) == formationOf(part, b);
    std::vector<ContactChoice> choices = {
        {Contact::Outside, Axis::Along}, {Contact::Inside, Axis::Along}, {Contact::Centres, Axis::Along}};
    if (sameRow) return choices;
    for (const Axis axis : {Axis::Across, Axis::Direct})
        for (const Contact contact : {Contact::Outside, Contact::Inside, Contact::Centres})
            choices.push_back({contact, axis});
    return choices;
}

}  // namespace punch
