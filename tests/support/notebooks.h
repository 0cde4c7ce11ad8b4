#pragma once
// Simulated notebooks: random parts of every formation kind, read with errors drawn from the laws of docs/numbers.md.

#include <algorithm>
#include <random>

#include "core/measure/adjust.h"
#include "core/measure/instruments.h"
#include "core/measure/next_reading.h"
#include "tests/support/parts.h"

namespace punch::test {

enum class Kind { Row, TwoRows, UnlikeRows, Staggered, Grid, Ring, Arc, Single, Twin, MovedPin };
inline constexpr Kind kAllKinds[] = {Kind::Row,  Kind::TwoRows, Kind::UnlikeRows, Kind::Staggered, Kind::Grid,
                                     Kind::Ring, Kind::Arc,     Kind::Single,     Kind::Twin,      Kind::MovedPin};
inline const char* kindName(Kind kind) {
    static constexpr const char* names[] = {"row",  "two rows", "unlike rows", "staggered", "grid",
                                            "ring", "arc",      "single",      "twin",      "moved pin"};
    return names[static_cast<int>(kind)];
}

class Notebooks {
public:
    explicit Notebooks(unsigned seed) : random_(seed) {}

    double uniform(double a, double b) { return std::uniform_real_distribution<double>(a, b)(random_); }
    int whole(int a, int b) { return std::uniform_int_distribution<int>(a, b)(random_); }
    std::size_t index(std::size_t n) { return random_() % n; }
    std::mt19937& random() { return random_; }

    /// A part of this kind with nothing read, drawn near its truth, and the same part with every parameter known.
    struct Case {
        Part part, truth;
    };
    Case draw(Kind kind) {
        errors_.clear();
        FormationPlan plan;
        switch (kind) {
            case Kind::TwoRows:
                plan = {FormationKind::TwoRows, {whole(3, 6), whole(3, 6)}, {}, false, false, {}, {}};
                break;
            case Kind::UnlikeRows:
                plan = {FormationKind::TwoRows, {whole(3, 8), whole(2, 4)}, {}, false, false, {}, {}};
                break;
            case Kind::Staggered:
                plan = {FormationKind::Staggered, {whole(3, 6), whole(2, 5)}, {}, false, false, {}, {}};
                break;
            case Kind::Grid:
                plan = {FormationKind::Grid, {5, 5, 5}, {whole(1, 3), 7, whole(11, 13)}, false, false, {}, {}};
                break;
            case Kind::Ring: plan = {FormationKind::Ring, {whole(5, 9)}, {}, index(2) == 0, false, {}, {}}; break;
            case Kind::Arc: plan = {FormationKind::Ring, {whole(4, 6)}, {}, false, true, {}, {}}; break;
            default: plan = {FormationKind::Row, {whole(4, 7)}, {}, false, false, {}, {}}; break;
        }
        Part part = *newPart(plan);
        part.formations[0].lead = index(2) == 0 ? LeadShape::Round : LeadShape::Rectangular;
        if (kind == Kind::UnlikeRows) {
            part.formations[0].ownPitch = true;
            part.given.erase("rowShift");
        }
        if (kind == Kind::Single) part = *withFormation(part, {FormationKind::Single, {1}, {}, false, false, {}, {}});
        if (kind == Kind::Twin) {
            part =
                *withFormation(part, {FormationKind::Twin, {}, {}, false, false, part.formations[0].id, Axis::Across});
            part.given.clear();
        }
        if (kind == Kind::MovedPin) part = withMovedPin(part, part.formations[0].pins[2], true);
        Case c{part, part};
        const Model model(part);
        for (const Parameter& p : model.parameters()) {
            if (p.unknown < 0) continue;
            const double value = plausible(p.name);
            if (p.isAngle) {
                c.truth.given[p.name] = {fmt::format("{:.6f}", value), Unit::Mm};
                c.part.turned[p.name] = Angle::fromDegrees(value + uniform(-2, 2));
            } else {
                c.truth.taken[p.name] = Length::fromMm(value);
                // Sizes start where nobody has looked yet; places on the side where they are seen.
                if (!p.name.starts_with("lead.") && p.name != "pitch")
                    c.part.assumed[p.name] = Length::fromMm(value + uniform(-0.05, 0.05));
            }
        }
        return c;
    }

    /// One reading of the truth: limit rectangular once, handling normal for each value, rounded to the step.
    Reading read(const Truth& truth, Reading r, const std::string& instrument, int values = 3) {
        const Instrument& i = *instrumentByName({}, instrument);
        r.instrument = instrument;
        r.raw.clear();
        const double mm = truth.shown(r);
        // The instrument errs alike each time that it is put on the same features in the same way.
        const std::string contact = fmt::format("{} {} {} {} {} {}", instrument, std::min(r.a, r.b), std::max(r.a, r.b),
                                                r.c, static_cast<int>(r.contact), static_cast<int>(r.axis));
        const double drawn = uniform(-1, 1);
        const double bias = errors_.emplace(contact, drawn).first->second * (mm > 100 ? i.limitLong : i.limit);
        std::normal_distribution<double> handling(0, startingHandling(i, handlingOf(r.contact)));
        for (int k = 0; k < values; ++k) {
            const double shown = std::round((mm + bias + handling(random_)) / i.step) * i.step;
            r.raw.push_back({Length::fromMm(shown), fmt::format("{:.3f}", shown), Unit::Mm, false, {}});
        }
        return r;
    }

    /// A notebook in which all pins are firm, with `extra` readings more than that takes.
    Part notebook(const Case& c, const std::string& instrument, int extra) {
        const Truth truth(c.truth);
        Part part = c.part;
        auto candidates = candidateReadings(part);
        std::shuffle(candidates.begin(), candidates.end(), random_);
        // Nobody reads heights here, between jaws that do not fit, or along over pins that stand beside each other.
        std::erase_if(candidates, [&](const Reading& r) {
            if (r.axis == Axis::Height || !(truth.shown(r) > 0.1)) return true;
            if (r.b.empty() || r.axis == Axis::Direct || isFace(part, r.a) || isFace(part, r.b)) return false;
            const Feature a = truth.feature(r.a);
            const Feature b = truth.feature(r.b);
            return std::abs(b.coordinate(r.axis).value() - a.coordinate(r.axis).value()) <
                   a.half(r.axis).value() + b.half(r.axis).value() + 0.3;
        });
        const auto take = [&](const Reading& r) { part = withReading(part, read(truth, r, instrument, whole(1, 4))); };
        std::size_t next = 0;
        for (; next < candidates.size() && static_cast<int>(next) < extra; ++next) take(candidates[next]);
        for (int guard = 0; guard < 40; ++guard) {
            const Adjustment a(part);
            if (pinsFirm(part, a)) break;
            const auto asked = nextReading(part, a, enoughFor(1e9)).reading;
            if (!asked) break;
            take(*asked);
        }
        return part;
    }

    static bool pinsFirm(const Part& part, const Adjustment& a) {
        for (const FeatureId& id : allPins(part)) {
            const Feature& f = a.features().at(id);
            if (!a.firm(f.x) || !a.firm(f.y) || !a.firm(f.halfX)) return false;
        }
        return true;
    }

    std::string instrument() {
        static constexpr const char* names[] = {"caliper-0.01", "vernier-0.02", "vernier-0.05"};
        return names[index(3)];
    }

private:
    double plausible(const std::string& name) {
        const auto is = [&](const char* end) { return name.ends_with(end); };
        if (is("pitch") || is("rearPitch")) return uniform(2.5, 6);
        if (is("rowGap")) return uniform(4, 12);
        if (is("rowShift")) return uniform(0.5, 4);
        if (is("circle")) return uniform(8, 20);
        if (is("start")) return uniform(20, 160);
        if (is("step")) return uniform(30, 45);
        if (is("lead.width")) return uniform(0.6, 1.2);
        if (is("lead.thickness")) return uniform(0.4, 0.8);
        if (is("lead.length")) return 3.2;
        if (is(".axis")) return uniform(5, 9);
        if (is(".dx") || is(".dy")) return uniform(0.2, 0.6);
        if (is(".x")) return uniform(2, 8);
        if (is(".y")) return uniform(6, 14);
        if (is("left")) return uniform(-14, -11);
        if (is("right")) return uniform(46, 50);
        if (is("front")) return uniform(-14, -11);
        if (is("rear")) return uniform(30, 34);
        return 10;
    }
    std::mt19937 random_;
    std::map<std::string, double> errors_;  ///< of the instrument, by contact, in parts of its limit
};

}  // namespace punch::test
