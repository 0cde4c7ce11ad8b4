#include "core/measure/sides.h"

#include <fmt/format.h>

#include <cmath>
#include <optional>

#include "core/measure/adjust.h"
#include "core/part/formation_kinds.h"
#include "core/part/numbering.h"

namespace punch {

PUNCH_VALUE_IS_HERE(OpenSide)
namespace {

/// What gives a reading a side of its own.
bool hasSide(const Reading& r) {
    return r.isSigned || r.pick || r.contact == Contact::FaceNear || r.contact == Contact::FaceFar ||
           r.contact == Contact::FaceCentre || r.contact == Contact::Angle;
}

double slope(const Expr& e, int unknown) {
    for (const auto& [index, d] : e.gradient())
        if (index == unknown) return d;
    return 0;
}

bool isPlace(const Feature& f) { return f.kind == FeatureKind::Pin || f.kind == FeatureKind::Spot; }

struct Across {
    FeatureId from;
    double distance;  ///< from it to the feature, along the axis, with its sign
    double by;        ///< change of the parameter that mirrors it
    double doubt;     ///< 95 %, of the distance
};

/// The first reading without a sign that places the parameter; none when a side is said, or nothing places it.
std::optional<Across> mirrorOf(const Part& part, const Adjustment& a, const Parameter& p, bool along) {
    std::optional<Across> found;
    for (const int row : a.rows()) {
        if (row < 0) continue;
        const Reading& r = part.readings[static_cast<std::size_t>(row)];
        const auto f = a.equation(r);
        if (!f || std::abs(slope(*f, p.unknown)) < 1e-6) continue;
        if (hasSide(r) || r.contact == Contact::Quantity) return {};
        const auto fa = a.features().find(r.a);
        const auto fb = a.features().find(r.b);
        if (fa == a.features().end() || fb == a.features().end()) continue;
        if (!isPlace(fa->second) || !isPlace(fb->second)) return {};
        if (found) continue;
        const Expr d = along ? fb->second.x - fa->second.x : fb->second.y - fa->second.y;
        const double by = slope(d, p.unknown);
        if (std::abs(by) < 1e-6) continue;
        found = Across{by > 0 ? r.a : r.b, by > 0 ? d.value() : -d.value(), -2 * d.value() / by, a.doubt(d)};
    }
    return found;
}

/// Does the place stand within the body's faces, as far as they are known?
bool underBody(const Part& part, const Adjustment& a, const FeatureId& id) {
    if (!part.body.present) return false;
    const Feature& f = a.features().at(id);
    const auto within = [&](const FeatureId& low, const FeatureId& high, bool along) {
        const auto at = [&](const Feature& of) { return along ? of.x : of.y; };
        const Feature& l = a.features().at(low);
        const Feature& h = a.features().at(high);
        if (!a.firm(at(l)) || !a.firm(at(h))) return true;
        return at(f).value() > at(l).value() && at(f).value() < at(h).value();
    };
    return within(kLeftFace, kRightFace, true) && within(kFrontFace, kRearFace, false);
}

}  // namespace

std::vector<OpenSide> openSides(const Part& part, const Adjustment& a) {
    std::vector<OpenSide> all;
    const auto look = [&](const FeatureId& feature, const std::string& parameter, bool along) {
        if (!a.model().has(parameter)) return;
        const Parameter& p = a.model().parameter(parameter);
        if (p.unknown < 0 || p.isPositive || !a.firm(a.parameter(parameter))) return;
        const auto across = mirrorOf(part, a, p, along);
        constexpr double kLeast = 0.1;  // mm; what hardly leaves the line is found there either way
        if (!across || std::abs(across->distance) < kLeast) return;
        const double here = a.values()[static_cast<std::size_t>(p.unknown)];
        // Put there by hand, its side is said, if it was put clearly on the side where it is now.
        if (part.assumed.contains(parameter)) {
            const double put = across->distance * (1 - 2 * (p.assumed - here) / across->by);
            if (put * across->distance > 0 && std::abs(put) > across->doubt) return;
        }
        OpenSide side;
        side.other = side.asDrawn = part;
        side.asDrawn.assumed[parameter] = Length::fromMm(here);
        side.other.assumed[parameter] = Length::fromMm(here + across->by);
        const Adjustment trial(side.other);
        const double there = trial.parameter(parameter).value();
        bool worse = !trial.wholeTestHolds() || !trial.ways().empty() || !trial.impossible().empty();
        for (std::size_t i = 0; i < part.readings.size(); ++i)
            worse = worse || (trial.readings()[i].state != a.readings()[i].state);
        if (worse || std::abs(there - here) < kLeast) return;
        // Under the body it may stand on either side; beside the body nobody looks for it.
        if (underBody(part, a, feature) && !underBody(part, trial, feature)) return;
        side.feature = feature;
        side.parameter = parameter;
        const bool positive = across->distance > 0;
        side.here = along ? (positive ? "to the right" : "to the left") : (positive ? "behind" : "in front");
        side.there = along ? (positive ? "to the left" : "to the right") : (positive ? "in front" : "behind");
        side.words =
            fmt::format("{} is drawn {:.2f} mm {} of {}; {} fits as well: which is it?", featureWords(part, feature),
                        std::abs(across->distance), side.here, featureWords(part, across->from), side.there);
        all.push_back(std::move(side));
    };
    for (const Spot& spot : part.spots) {
        if (!spot.twinOf.empty() || !hasHole(spot)) continue;
        look(spot.id, spot.id + ".x", true);
        look(spot.id, spot.id + ".y", false);
    }
    for (std::size_t i = 1; i < part.formations.size(); ++i) {
        const Formation& f = part.formations[i];
        if (traitsOf(f).mirrors || f.pins.empty()) continue;
        look(f.pins.front(), f.id + ".x", true);
        look(f.pins.front(), f.id + ".y", false);
    }
    if (!part.formations.empty() && part.formations.front().kind == FormationKind::TwoRows &&
        !part.formations.front().rows.empty()) {
        const Formation& f = part.formations.front();
        const auto rear = static_cast<std::size_t>(f.rows.front());
        if (rear < f.pins.size()) look(f.pins[rear], "rowShift", true);
    }
    return all;
}

}  // namespace punch
