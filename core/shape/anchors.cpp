#include "core/shape/anchors.h"

#include <fmt/format.h>

#include <charconv>
#include <cmath>

#include "core/base/quantity.h"
#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/place/place.h"

namespace punch {
namespace {

constexpr int kDeepest = 12;        // marks that hold on marks
constexpr double kFarthest = 2000;  // mm

/// "m7.2": the third place of a mark.
const Anchored* placeOf(const Part& part, const FeatureId& id) {
    const std::size_t dot = id.rfind('.');
    if (dot == std::string::npos) return nullptr;
    const Mark* mark = markById(part, id.substr(0, dot));
    if (mark == nullptr) return nullptr;
    std::size_t index = 0;
    const char* end = id.data() + id.size();
    const auto [at, error] = std::from_chars(id.data() + dot + 1, end, index);
    return error == std::errc{} && at == end && index < mark->points.size() ? &mark->points[index] : nullptr;
}

}  // namespace

Anchors::Anchors(const Part& part, const Adjustment& adjustment) : part_(part), adjustment_(adjustment) {
    std::tie(datumX_, datumY_) = datumOf(part, adjustment, part.datum);
}

Held Anchors::held(const Expr& e) const {
    const bool firm = adjustment_.firm(e);
    return {e, firm, firm ? Length::fromMm(adjustment_.doubt(e)) : Length()};
}

Result<Expr> Anchors::typedExpr(const std::string& typed, bool angle) const {
    if (typed.empty()) return Expr(0);
    const Model& model = adjustment_.model();
    std::string unknown;
    const auto wanted = angle ? Formula::Kind::Angle : Formula::Kind::Length;
    const auto formula = Formula::parse(typed, Unit::Mm, wanted, [&](const std::string& name) {
        const int index = model.parameterIndex(name);
        if (index < 0) {
            unknown = name;
            return wanted;
        }
        return model.parameters()[static_cast<std::size_t>(index)].isAngle ? Formula::Kind::Angle
                                                                           : Formula::Kind::Length;
    });
    if (!unknown.empty())
        return problem("the part has no “" + unknown + "”", typed, "Use a name of the parameter list");
    if (!formula) return tl::make_unexpected(formula.error());
    std::vector<Expr> of;
    std::vector<double> at;
    for (const std::string& name : formula->names()) {
        of.push_back(adjustment_.at().parameter(model.parameterIndex(name)));
        at.push_back(of.back().value());
    }
    const double value = formula->value(at);
    if (!std::isfinite(value) || std::abs(value) > kFarthest)
        return problem("“" + typed + "” gives no length that a part has", {}, "Type one below 2 m");
    std::vector<double> derivatives;
    for (std::size_t i = 0; i < of.size(); ++i) derivatives.push_back(formula->derivative(at, i));
    return Expr::chain(value, derivatives, of);
}

Result<Held> Anchors::length(const std::string& typed) const {
    const auto e = typedExpr(typed, false);
    if (!e) return tl::make_unexpected(e.error());
    return held(*e);
}

Result<double> Anchors::angle(const std::string& typed) const {
    const auto e = typedExpr(typed, true);
    if (!e) return tl::make_unexpected(e.error());
    return e->value();
}

Result<Expr> Anchors::coordinate(const Hold& hold, bool alongX, int depth) const {
    if (depth > kDeepest) return problem("a place holds on itself", {}, "Hold it on another feature");
    const auto off = typedExpr(hold.off, false);
    if (!off) return off;
    if (!hold.with.empty()) {
        // Half way between both, whatever holds either.
        const auto a = coordinate({hold.of, hold.at, {}, {}}, alongX, depth + 1);
        const auto b = coordinate({hold.with, hold.at, {}, {}}, alongX, depth + 1);
        if (!a || !b) return a ? b : a;
        return 0.5 * (*a + *b) + *off;
    }
    if (hold.of == kDatumFeature) return *off;
    if (hold.of == kOriginFeature) return *off - (alongX ? datumX_ : datumY_);
    if (const Anchored* other = placeOf(part_, hold.of)) {
        const auto at = coordinate(alongX ? other->x : other->y, alongX, depth + 1);
        if (!at) return at;
        return *at + *off;
    }
    const auto& features = adjustment_.features();
    const auto it = features.find(hold.of);
    if (it == features.end() || !featureExists(part_, hold.of))
        return problem("it holds on a feature that is no longer there", {}, "Hold it on another feature");
    const Feature& f = it->second;
    const Axis axis = alongX ? Axis::Along : Axis::Across;
    if (f.kind == FeatureKind::Face && f.faceAxis != axis)
        return problem(fmt::format("the {} has no place {}", featureWords(part_, hold.of),
                                   alongX ? "from left to right" : "from front to rear"),
                       {}, "Hold it on another feature");
    Expr at = f.coordinate(axis);
    if (hold.at == HoldAt::Low) at = at - f.half(axis);
    if (hold.at == HoldAt::High) at = at + f.half(axis);
    return at - (alongX ? datumX_ : datumY_) + *off;
}

Result<HeldPlace> Anchors::place(const Anchored& anchored) const {
    const auto x = coordinate(anchored.x, true, 0), y = coordinate(anchored.y, false, 0);
    if (!x) return tl::make_unexpected(x.error());
    if (!y) return tl::make_unexpected(y.error());
    const Held hx = held(*x), hy = held(*y);
    return HeldPlace{{hx.length(), hy.length()}, hx.firm && hy.firm, max(hx.doubt, hy.doubt), *x, *y};
}

Result<HeldPlace> Anchors::middle(const FeatureId& feature) const {
    Anchored a;
    a.x.of = a.y.of = feature;
    return place(a);
}

std::string holdWords(const Part& part, const FeatureId& of) {
    if (of == kDatumFeature) return "datum";
    return of == kOriginFeature ? "origin" : featureWords(part, of);
}

Chain Anchors::chain(const Anchored& anchored, bool alongX, const ChainReadings& readings) const {
    const Hold& hold = alongX ? anchored.x : anchored.y;
    Chain all;
    Hold bare = hold;
    bare.off.clear();
    const auto from = coordinate(bare, alongX, 0), whole = coordinate(hold, alongX, 0);
    if (!from || !whole) return all;
    if (hold.of != kDatumFeature) all = readings.behind(*from, 4, 0.02);
    std::string what = holdWords(part_, hold.of);
    if (!hold.with.empty()) what = "middle of " + what + " and " + holdWords(part_, hold.with);
    if (hold.at == HoldAt::Low) what += alongX ? ", its left edge" : ", its front edge";
    if (hold.at == HoldAt::High) what += alongX ? ", its right edge" : ", its rear edge";
    const Held base = held(*from);
    all.push_back({what,
                   base.firm ? "± {}" : "loose",
                   {base.doubt},
                   base.length(),
                   hold.of == kDatumFeature ? ChainStep::Link::None : ChainStep::Link::Feature,
                   hold.of,
                   0});
    if (!hold.off.empty())
        all.push_back({"away by", hold.off, {}, Length::fromMm(whole->value() - from->value()), {}, "", 0});
    const Held sum = held(*whole);
    all.push_back({alongX ? "x from the datum" : "y from the datum",
                   sum.firm ? "± {}" : "loose",
                   {sum.doubt},
                   sum.length(),
                   ChainStep::Link::None,
                   "",
                   0});
    return all;
}

Anchored heldOnBody(const Rect& body, Point at, Length snap) {
    const auto hold = [&](Length low, Length high, Length to) {
        Hold best{kBody};
        Length off = to - (low + high) / 2;
        for (const auto& [where, from] : {std::pair(HoldAt::Low, low), std::pair(HoldAt::High, high)})
            if (abs(to - from) < abs(off)) {
                best.at = where;
                off = to - from;
            }
        const double mm = std::nearbyint(off.mm() * 100) / 100;
        if (abs(off) >= snap && mm != 0) best.off = fmt::format("{:g}", mm);
        return best;
    };
    return {hold(body.left, body.right, at.x), hold(body.bottom, body.top, at.y)};
}

}  // namespace punch
