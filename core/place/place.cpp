#include "core/place/place.h"

#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/measure/fitted.h"
#include "core/part/numbering.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace punch {

PUNCH_VALUE_IS_HERE(PlacedPin)
PUNCH_VALUE_IS_HERE(Placed)
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
    Placer(const Part& part, const Adjustment& adjustment, const ChainReadings& chains, Chains& behind)
        : adjustment_(adjustment),
          chains_(chains),
          behind_(behind),
          fit_(part, adjustment),
          datum_(datumOf(part, adjustment, part.datum)) {
        // A taken or given value stands behind every place that it shapes, although no reading moves it any more.
        for (const Parameter& p : adjustment.model().parameters()) {
            if (p.isAngle) continue;
            const bool shapes = traitsOf(p.kind).pattern;
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

    PlacedSpot place(const Feature& f, const std::string& words) {
        PlacedSpot placed;
        PlaceDoubt& doubt = placed.doubt;
        const Expr x = f.x - datum_.first;
        const Expr y = f.y - datum_.second;
        placed.at = {Length::fromMm(x.value()), Length::fromMm(y.value())};
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
        behind_["x:" + f.id] = chain(x, words + ", x from the datum", true);
        behind_["y:" + f.id] = chain(y, words + ", y from the datum", false);
        placed.firm = doubt.x.has_value() && doubt.y.has_value() && doubt.fitted.has_value();
        return placed;
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
    Chains& behind_;
    Fitted fit_;
    std::pair<Expr, Expr> datum_;
    std::vector<ChainStep> fixed_;
};

}  // namespace

std::pair<Expr, Expr> datumOf(const Part& part, const Adjustment& adjustment, const Datum& datum) {
    const auto& features = adjustment.features();
    const auto at = [&](const FeatureId& id) { return std::pair{features.at(id).x, features.at(id).y}; };
    if (datum.kind == DatumKind::PinOne && !allPins(part).empty()) return at(firstPin(part));
    if (datum.kind == DatumKind::Feature && features.count(datum.feature) > 0) {
        const Feature& f = features.at(datum.feature);
        // A face gives one coordinate; the other stays that of the pins' middle.
        if (f.kind != FeatureKind::Face) return {f.x, f.y};
        // A level gives none.
        const auto [mx, my] = datumOf(part, adjustment, Datum{});
        if (f.faceAxis == Axis::Height) return {mx, my};
        return f.faceAxis == Axis::Along ? std::pair{f.x, my} : std::pair{mx, f.y};
    }
    if (datum.kind == DatumKind::Between && features.count(datum.feature) > 0 && features.count(datum.second) > 0) {
        const auto half = [&](const FeatureId& id) { return datumOf(part, adjustment, {DatumKind::Feature, id, {}}); };
        const auto [ax, ay] = half(datum.feature);
        const auto [bx, by] = half(datum.second);
        return {0.5 * (ax + bx), 0.5 * (ay + by)};
    }
    const auto pins = allPins(part);
    if (pins.empty()) {
        // Without pins: the first peg or hole, else the body's middle.
        if (!part.spots.empty()) return at(part.spots.front().id);
        return part.body.present ? at(kBody) : std::pair{Expr(0), Expr(0)};
    }
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

namespace {

PlacedPin pinOf(const Feature& feature, const std::string& number, std::size_t formation, const PlacedSpot& placed) {
    PlacedPin pin;
    static_cast<PlacedSpot&>(pin) = placed;
    pin.id = feature.id;
    pin.number = number;
    pin.formation = formation;
    pin.leadX = Length::fromMm(2 * feature.halfX.value());
    pin.leadY = Length::fromMm(2 * feature.halfY.value());
    if (feature.endX) {
        pin.endX = Length::fromMm(2 * feature.endX->value());
        pin.endY = Length::fromMm(2 * feature.endY->value());
    }
    pin.leadRound = feature.round;
    if (feature.turn) pin.leadTurn = Angle::fromDegrees(feature.turn->value());
    return pin;
}

}  // namespace

Places places(const Part& part, const Adjustment& adjustment, const ChainReadings& chains) {
    Places all;
    Placer placer(part, adjustment, chains, all.chains);
    all.datum = placer.datum();
    const auto numbers = pinNumbers(part);
    const auto featureOf = [&](const FeatureId& id) -> const Feature& { return adjustment.features().at(id); };
    all.pins.reserve(numbers.size());
    for (std::size_t i = 0; i < part.formations.size(); ++i)
        for (const FeatureId& id : part.formations[i].pins) {
            const std::string& number = numbers.at(id);
            all.pins.push_back(pinOf(featureOf(id), number, i, placer.place(featureOf(id), "pin " + number)));
        }
    std::stable_sort(all.pins.begin(), all.pins.end(),
                     [](const PlacedPin& a, const PlacedPin& b) { return numberLess(a.number, b.number); });
    if (!all.pins.empty()) all.pins.front().first = true;
    for (const Spot& spot : part.spots) {
        const PlacedSpot placed = placer.place(featureOf(spot.id), spot.name);
        if (hasHole(spot))
            all.holes[spot.id] = placed;
        else
            all.marks.push_back({spot.id, spot.name, placed.at, placed.doubt, placed.firm});
    }
    const auto [dx, dy] = datumOf(part, adjustment, part.datum);
    for (const Face& face : part.faces) {
        const Feature& f = featureOf(face.id);
        const Expr at = face.axis == Axis::Along ? f.x - dx : face.axis == Axis::Across ? f.y - dy : *f.z;
        all.faces.push_back(
            {face.id, face.name, face.axis, Length::fromMm(at.value()), doubtOf(adjustment, at), face.kind});
        all.chains["at:" + face.id] = placer.chain(at, face.name, false);
    }
    for (const Parameter& p : adjustment.model().parameters())
        if (!p.isAngle && traitsOf(p.kind).pattern)
            all.chains[p.name] = placer.chain(adjustment.parameter(p.name), p.words, true);
    return all;
}

}  // namespace punch
