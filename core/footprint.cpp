#include "core/footprint.h"

namespace punch {

PUNCH_VALUE_IS_HERE(Results)
PUNCH_VALUE_IS_HERE(Footprint)

const Pad* Results::pad(const FeatureId& id) const {
    return findIn(pads, [&](const Pad& p) { return p.id == id; });
}
const BareHole* Results::bareHole(const FeatureId& id) const {
    return findIn(bareHoles, [&](const BareHole& h) { return h.id == id; });
}
const Gauge* Footprint::gauge(const std::string& wanted) const {
    return findIn(gauges, [&](const Gauge& g) { return g.name == wanted; });
}
const ParameterValue* Results::parameter(const std::string& wanted) const {
    return findIn(parameters, [&](const ParameterValue& p) { return p.name == wanted; });
}
const SizeAdvice* Results::size(const std::string& wanted) const {
    return findIn(sizes, [&](const SizeAdvice& s) { return s.parameter == wanted; });
}
const LeadFit* Results::leadOf(const Part& part, const FeatureId& pin) const {
    const Formation* f = formationOf(part, pin);
    return f == nullptr ? nullptr : findIn(leads, [&](const LeadFit& l) { return l.formation == f->id; });
}

std::optional<Point> Results::place(const FeatureId& id) const {
    if (const Pad* p = pad(id)) return p->at;
    if (const BareHole* h = bareHole(id)) return h->at;
    const Point middle = body ? body->rect.middle() : Point{};
    for (const MarkPoint& m : marks)
        if (m.id == id) return m.at;
    for (const FaceLine& f : faces)
        if (f.id == id && f.axis != Axis::Height)
            return f.axis == Axis::Along ? Point{f.at, middle.y} : Point{middle.x, f.at};
    if (!body) return {};
    const Rect& r = body->rect;
    if (id == kBody) return r.middle();
    if (id == kLeftFace) return Point{r.left, r.middle().y};
    if (id == kRightFace) return Point{r.right, r.middle().y};
    if (id == kFrontFace) return Point{r.middle().x, r.bottom};
    if (id == kRearFace) return Point{r.middle().x, r.top};
    return {};
}

}  // namespace punch
