#include "core/place/place.h"

#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/model/best_fit.h"

#include <fmt/format.h>

#include <algorithm>

namespace punch {
namespace {

std::optional<Length> doubtOf(const Adjustment& adjustment, const Expr& e) {
    if (!adjustment.firm(e)) return {};
    return Length::fromMm(adjustment.doubt(e));
}

/// Largest 95 % doubt of a feature in any direction, after the fit of all leads. None while it is loose.
std::optional<Length> fittedDoubt(const Adjustment& adjustment, const BestFit& fit, const Feature& f) {
    const auto [x, y] = fit.remaining(f);
    if (!adjustment.firm(x) || !adjustment.firm(y)) return {};
    const double a = adjustment.covariance(x, x);
    const double b = adjustment.covariance(x, y);
    const double c = adjustment.covariance(y, y);
    const double largest = (a + c) / 2 + std::hypot((a - c) / 2, b);
    return Length::fromMm(kNinetyFive * std::sqrt(std::max(largest, 0.0)));
}

/// `byPitch`: a taken pitch stands behind the value too, although no reading moves it any more.
Chain placeChain(const Part& part, const Adjustment& adjustment, const Expr& e, const std::string& words,
                 bool byPitch) {
    Chain chain = readingsBehind(part, adjustment, e, 6, 0.005);
    const auto doubt = doubtOf(adjustment, e);
    for (const auto& [name, value] : part.taken)
        if (byPitch && adjustment.parameters().has(name) && name.ends_with("pitch"))
            chain.push_back({name + ", taken", "standard", {}, value, ChainStep::Link::Parameter, name, 0});
    chain.push_back({words,
                     doubt ? "± {}" : "loose",
                     {doubt.value_or(Length())},
                     Length::fromMm(e.value()),
                     ChainStep::Link::None,
                     "",
                     0});
    return chain;
}

void addLoose(const Part& part, const Adjustment& adjustment, Footprint& footprint) {
    const auto& features = adjustment.features();
    const auto loose = [&](const Expr& e) { return !adjustment.firm(e); };
    for (const Formation& f : part.formations) {
        const Feature& first = features.at(f.pins.front());
        if (f.pins.size() > 1 && loose(features.at(f.pins.back()).x))
            footprint.loose.push_back({f.pins, "pins are loose along the row: pitch not measured yet"});
        if (loose(first.halfX) || loose(first.halfY))
            footprint.loose.push_back(
                {f.pins, loose(first.halfX) ? "lead width not measured yet" : "lead thickness not measured yet"});
    }
    for (const Peg& peg : part.pegs) {
        const Feature& f = features.at(peg.id);
        const bool x = loose(f.x);
        const bool y = loose(f.y);
        if (x || y)
            footprint.loose.push_back({{peg.id},
                                       fmt::format("{} hole is loose: not measured {} the row yet", peg.name,
                                                   x && y ? "along and across"
                                                   : x    ? "along"
                                                          : "across")});
        else if (loose(f.halfX))
            footprint.loose.push_back({{peg.id}, fmt::format("{} diameter not measured yet", peg.name)});
    }
    if (!part.body.present) return;
    const Feature& body = features.at(kBody);
    for (const auto& [id, e] :
         {std::pair{kLeftFace, features.at(kLeftFace).x}, std::pair{kRightFace, features.at(kRightFace).x},
          std::pair{kFrontFace, features.at(kFrontFace).y}, std::pair{kRearFace, features.at(kRearFace).y}})
        if (loose(e)) footprint.loose.push_back({{id}, fmt::format("{} is loose", featureWords(part, id))});
    if (loose(*body.height)) footprint.loose.push_back({{kBody}, "body height not measured yet"});
}

}  // namespace

std::pair<Expr, Expr> datumOf(const Part& part, const Adjustment& adjustment) {
    const auto& features = adjustment.features();
    const auto at = [&](const FeatureId& id) { return std::pair{features.at(id).x, features.at(id).y}; };
    if (part.datum.kind == DatumKind::PinOne && !allPins(part).empty()) return at(firstPin(part));
    if (part.datum.kind == DatumKind::Feature && features.count(part.datum.feature) > 0) {
        const Feature& f = features.at(part.datum.feature);
        // A face gives one coordinate; the other stays that of the pins' middle.
        if (f.kind != FeatureKind::Face) return {f.x, f.y};
        Part middle = part;
        middle.datum = {};
        const auto [mx, my] = datumOf(middle, adjustment);
        return f.faceAxis == Axis::Along ? std::pair{f.x, my} : std::pair{mx, f.y};
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

void addPlaces(const Part& part, const Adjustment& adjustment, Footprint& footprint) {
    const auto [dx, dy] = datumOf(part, adjustment);
    footprint.datum = {Length::fromMm(dx.value()), Length::fromMm(dy.value())};
    const BestFit fit(part, adjustment.features());
    const FeatureId first = firstPin(part);
    const auto place = [&](const Feature& f, const std::string& words, PlaceDoubt& doubt, Point& at) {
        const Expr x = f.x - dx;
        const Expr y = f.y - dy;
        at = {Length::fromMm(x.value()), Length::fromMm(y.value())};
        doubt = {doubtOf(adjustment, x), doubtOf(adjustment, y), fittedDoubt(adjustment, fit, f)};
        footprint.chains["x:" + f.id] = placeChain(part, adjustment, x, words + ", x from the datum", true);
        footprint.chains["y:" + f.id] = placeChain(part, adjustment, y, words + ", y from the datum", false);
        return doubt.x.has_value() && doubt.y.has_value() && doubt.fitted.has_value();
    };
    for (const Formation& f : part.formations)
        for (const FeatureId& id : f.pins) {
            const Feature& feature = adjustment.features().at(id);
            Pad pad;
            pad.id = id;
            pad.number = pinNumber(part, id);
            pad.first = id == first;
            pad.shape = pad.first ? PadShape::Rectangle : PadShape::Round;
            pad.firm = place(feature, featureWords(part, id), pad.doubt, pad.at);
            pad.leadX = Length::fromMm(2 * feature.halfX.value());
            pad.leadY = Length::fromMm(2 * feature.halfY.value());
            pad.leadRound = feature.round;
            footprint.pads.push_back(pad);
        }
    std::stable_sort(footprint.pads.begin(), footprint.pads.end(),
                     [](const Pad& a, const Pad& b) { return std::stoi(a.number) < std::stoi(b.number); });
    for (BareHole& hole : footprint.bareHoles)
        hole.firm = place(adjustment.features().at(hole.id), hole.name, hole.doubt, hole.at);
    for (const Formation& f : part.formations) {
        const std::string name = parameterPrefix(part, f) + "pitch";
        footprint.chains[name] =
            placeChain(part, adjustment, adjustment.parameters().expr(name, adjustment.values()), "pitch", true);
    }
    addLoose(part, adjustment, footprint);
}

}  // namespace punch
