#include "core/place/place.h"

#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/measure/fitted.h"
#include "core/part/numbering.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace punch {
namespace {

constexpr double kEllipse = 2.448;  // 95 % in two dimensions, in standard uncertainties

std::optional<Length> doubtOf(const Adjustment& adjustment, const Expr& e) {
    if (!adjustment.firm(e)) return {};
    return Length::fromMm(adjustment.doubt(e));
}

/// The 95 % ellipse of a place with these covariances; `reach` is how far the ways to explain the readings move it.
Ellipse ellipseOf(double xx, double xy, double yy, double reach) {
    const double middle = (xx + yy) / 2;
    const double apart = std::hypot((xx - yy) / 2, xy);
    const auto axis = [&](double variance) {
        return Length::fromMm(kEllipse * std::sqrt(std::max(variance, 0.0)) + reach);
    };
    return {axis(middle + apart), axis(middle - apart), Angle::fromRadians(std::atan2(2 * xy, xx - yy) / 2)};
}

/// Doubts against the best fit of all leads: what a hole feels.
void addFitted(const Fitted& fit, const Feature& f, PlaceDoubt& doubt) {
    const Fitted::Spread s = fit.of(f);
    if (!s.firm) return;
    doubt.fromFit = ellipseOf(s.xx, s.xy, s.yy, s.reach);
    doubt.fitted = Length::fromMm(kNinetyFive * std::sqrt(s.largest) + s.reach);
    doubt.fittedRead = Length::fromMm(kNinetyFive * std::sqrt(s.largestRead) + s.reach);
    doubt.reach = Length::fromMm(s.reach);
}

class Placer {
public:
    Placer(const Part& part, const Adjustment& adjustment, const ChainReadings& chains, Footprint& footprint)
        : adjustment_(adjustment),
          chains_(chains),
          footprint_(footprint),
          fit_(part, adjustment),
          datum_(datumOf(part, adjustment)) {
        // A taken or given value stands behind every place that it shapes, although no reading moves it any more.
        for (const Parameter& p : adjustment.model().parameters()) {
            if (p.isAngle) continue;
            const bool shapes = p.name.ends_with("pitch") || p.name.ends_with("Pitch") || p.name.ends_with("rowGap") ||
                                p.name.ends_with("circle");
            if (shapes && p.state == Parameter::State::Taken)
                fixed_.push_back({p.name + ", taken",
                                  "standard",
                                  {},
                                  Length::fromMm(p.fixed),
                                  ChainStep::Link::Parameter,
                                  p.name,
                                  0});
            else if (shapes && p.state == Parameter::State::Given)
                fixed_.push_back(
                    {p.name + ", given", p.typed, {}, Length::fromMm(p.fixed), ChainStep::Link::Parameter, p.name, 0});
            else if (p.state == Parameter::State::Formula)
                fixed_.push_back({p.name,
                                  "= " + p.typed,
                                  {},
                                  Length::fromMm(adjustment.parameter(p.name).value()),
                                  ChainStep::Link::Parameter,
                                  p.name,
                                  0});
        }
    }

    Point datum() const { return {Length::fromMm(datum_.first.value()), Length::fromMm(datum_.second.value())}; }

    /// True when nothing loose moves the place.
    bool place(const Feature& f, const std::string& words, PlaceDoubt& doubt, Point& at) {
        const Expr x = f.x - datum_.first;
        const Expr y = f.y - datum_.second;
        at = {Length::fromMm(x.value()), Length::fromMm(y.value())};
        doubt.x = doubtOf(adjustment_, x);
        doubt.y = doubtOf(adjustment_, y);
        if (doubt.x && doubt.y) {
            double reach = 0;
            for (const Way& way : adjustment_.ways())
                reach = std::max(reach, std::hypot(Adjustment::change(x, way), Adjustment::change(y, way)) + way.bend);
            doubt.fromDatum = ellipseOf(adjustment_.covariance(x, x), adjustment_.covariance(x, y),
                                        adjustment_.covariance(y, y), reach);
            doubt.span = Length::fromMm(std::max(adjustment_.span(x), adjustment_.span(y)));
        }
        addFitted(fit_, f, doubt);
        footprint_.chains["x:" + f.id] = chain(x, words + ", x from the datum", true);
        footprint_.chains["y:" + f.id] = chain(y, words + ", y from the datum", false);
        return doubt.x.has_value() && doubt.y.has_value() && doubt.fitted.has_value();
    }

    Chain chain(const Expr& e, std::string words, bool fixedToo) const {
        Chain all = chains_.behind(e, 6, 0.005);
        if (fixedToo) all.insert(all.end(), fixed_.begin(), fixed_.end());
        const auto doubt = doubtOf(adjustment_, e);
        all.push_back({std::move(words),
                       doubt ? "± {}" : "loose",
                       {doubt.value_or(Length())},
                       Length::fromMm(e.value()),
                       ChainStep::Link::None,
                       "",
                       0});
        return all;
    }

private:
    const Adjustment& adjustment_;
    const ChainReadings& chains_;
    Footprint& footprint_;
    Fitted fit_;
    std::pair<Expr, Expr> datum_;
    std::vector<ChainStep> fixed_;
};

}  // namespace

std::pair<Expr, Expr> datumOf(const Part& part, const Adjustment& adjustment) {
    const auto& features = adjustment.features();
    const auto at = [&](const FeatureId& id) { return std::pair{features.at(id).x, features.at(id).y}; };
    if (part.datum.kind == DatumKind::PinOne && !allPins(part).empty()) return at(firstPin(part));
    if (part.datum.kind == DatumKind::Feature && features.count(part.datum.feature) > 0) {
        const Feature& f = features.at(part.datum.feature);
        // A face gives one coordinate; the other stays that of the pins' middle.
        if (f.kind != FeatureKind::Face) return {f.x, f.y};
        // A level gives none.
        Part middle = part;
        middle.datum = {};
        const auto [mx, my] = datumOf(middle, adjustment);
        if (f.faceAxis == Axis::Height) return {mx, my};
        return f.faceAxis == Axis::Along ? std::pair{f.x, my} : std::pair{mx, f.y};
    }
    if (part.datum.kind == DatumKind::Between && features.count(part.datum.feature) > 0 &&
        features.count(part.datum.second) > 0) {
        const auto half = [&](const FeatureId& id) {
            Part one = part;
            one.datum = {DatumKind::Feature, id, {}};
            return datumOf(one, adjustment);
        };
        const auto [ax, ay] = half(part.datum.feature);
        const auto [bx, by] = half(part.datum.second);
        return {0.5 * (ax + bx), 0.5 * (ay + by)};
    }
    const auto pins = allPins(part);
    if (pins.empty()) return {Expr(0), Expr(0)};
    // The middle of the field that the pins span, between the outermost centres.
    const auto extreme = [&](bool x, bool most) {
        const auto value = [&](const FeatureId& id) {
            return x ? features.at(id).x.value() : features.at(id).y.value();
        };
        const auto less = [&](const FeatureId& a, const FeatureId& b) { return value(a) < value(b); };
        const FeatureId& id = most ? *std::max_element(pins.begin(), pins.end(), less)
                                   : *std::min_element(pins.begin(), pins.end(), less);
        return x ? features.at(id).x : features.at(id).y;
    };
    return {(extreme(true, false) + extreme(true, true)) / 2, (extreme(false, false) + extreme(false, true)) / 2};
}

void addPlaces(const Part& part, const Adjustment& adjustment, const ChainReadings& chains, Footprint& footprint) {
    Placer placer(part, adjustment, chains, footprint);
    footprint.datum = placer.datum();
    const auto numbers = pinNumbers(part);
    FeatureId first;
    for (const auto& [id, number] : numbers)
        if (first.empty() || numberLess(number, numbers.at(first))) first = id;
    footprint.pads.reserve(numbers.size());
    for (std::size_t i = 0; i < part.formations.size(); ++i)
        for (const FeatureId& id : part.formations[i].pins) {
            const Feature& feature = adjustment.features().at(id);
            Pad pad;
            pad.id = id;
            pad.number = numbers.at(id);
            pad.formation = i;
            pad.first = id == first;
            pad.firm = placer.place(feature, "pin " + pad.number, pad.doubt, pad.at);
            pad.leadX = Length::fromMm(2 * feature.halfX.value());
            pad.leadY = Length::fromMm(2 * feature.halfY.value());
            if (feature.endX) {
                pad.endX = Length::fromMm(2 * feature.endX->value());
                pad.endY = Length::fromMm(2 * feature.endY->value());
            }
            pad.leadRound = feature.round;
            if (feature.turn) pad.leadTurn = Angle::fromDegrees(feature.turn->value());
            footprint.pads.push_back(std::move(pad));
        }
    std::stable_sort(footprint.pads.begin(), footprint.pads.end(),
                     [](const Pad& a, const Pad& b) { return numberLess(a.number, b.number); });
    for (BareHole& hole : footprint.bareHoles)
        hole.firm = placer.place(adjustment.features().at(hole.id), hole.name, hole.doubt, hole.at);
    for (const Spot& spot : part.spots) {
        if (hasHole(spot)) continue;
        MarkPoint mark{spot.id, spot.name, {}, {}, false};
        mark.firm = placer.place(adjustment.features().at(spot.id), spot.name, mark.doubt, mark.at);
        footprint.marks.push_back(std::move(mark));
    }
    const auto [dx, dy] = datumOf(part, adjustment);
    for (const Face& face : part.faces) {
        const Feature& f = adjustment.features().at(face.id);
        const Expr at = face.axis == Axis::Along ? f.x - dx : face.axis == Axis::Across ? f.y - dy : *f.z;
        footprint.faces.push_back(
            {face.id, face.name, face.axis, Length::fromMm(at.value()), doubtOf(adjustment, at), face.kind});
        footprint.chains["at:" + face.id] = placer.chain(at, face.name, false);
    }
    for (const Parameter& p : adjustment.model().parameters())
        if (!p.isAngle && (p.name.ends_with("itch") || p.name.ends_with("rowGap") || p.name.ends_with("circle")))
            footprint.chains[p.name] = placer.chain(adjustment.parameter(p.name), p.words, true);
    footprint.loose = looseMovements(part, adjustment);
}

}  // namespace punch
