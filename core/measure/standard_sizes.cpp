#include "core/measure/standard_sizes.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/measure/adjust.h"
#include "core/measure/instruments.h"

namespace punch {

PUNCH_VALUE_IS_HERE(SizeAdvice)

namespace {
constexpr double kExcluded = 3.3;  // in standard uncertainties
}

double makeTolerance(double mm) { return std::max(0.001 * std::abs(mm), 0.005); }

Fit fitOf(double k) { return k <= 2 ? Fit::Fits : k <= kExcluded ? Fit::Unlikely : Fit::Excluded; }

const std::vector<Length>& standardSizes(SizeKind kind) {
    const auto sorted = [](std::initializer_list<double> mm) {
        std::vector<Length> all;
        for (const double v : mm) all.push_back(Length::fromMm(v));
        std::sort(all.begin(), all.end());
        return all;
    };
    // Sizes people recognise, metric and inch. Pitches: the trade's catalogues; IEC 60807 for 2.77.
    static const std::vector<Length> pitches =
        sorted({0.5, 0.8, 1.0,  1.25, 1.5,  2.0,  2.5,  3.0,  3.5,  4.0,  4.2,   5.0,
                6.0, 7.5, 10.0, 1.27, 2.54, 3.81, 3.96, 5.08, 6.35, 7.62, 10.16, 2.77});
    // Row gaps: multiples of 1.27 and of 0.5 mm where packages have them (JEDEC 7.62, 10.16, 15.24; IEC 60807 2.84).
    static const std::vector<Length> gaps =
        sorted({1.27, 2.0,   2.5,   2.54, 2.84, 3.0,  3.81, 4.0,   5.0,  5.08,  6.0,  6.35,  7.5,  7.62,  8.0,  9.0,
                10.0, 10.16, 11.43, 12.0, 12.5, 12.7, 15.0, 15.24, 17.5, 17.78, 20.0, 20.32, 22.5, 22.86, 25.0, 25.4});
    // Leads: square posts 0.50, 0.635 (25 mil) and 1.0; strips of 0.25 to 1.2; round wire of IEC 60301 and inch sizes.
    static const std::vector<Length> leads = sorted({0.25, 0.3, 0.4,  0.45, 0.46, 0.5, 0.6, 0.635, 0.7, 0.76, 0.8, 0.9,
                                                     1.0,  1.1, 1.14, 1.2,  1.3,  1.4, 1.5, 2.0,   2.5, 2.8,  6.3});
    static const std::vector<Length> holes = sorted({0.8, 0.9, 1.0, 1.2,  1.3, 1.4, 1.5, 1.6, 1.75, 1.8, 2.0, 2.2,
                                                     2.5, 2.7, 3.0, 3.05, 3.2, 3.5, 4.0, 4.3, 4.5,  5.0, 5.3});
    switch (kind) {
        case SizeKind::RowGap: return gaps;
        case SizeKind::Lead: return leads;
        case SizeKind::Hole: return holes;
        case SizeKind::Pitch: break;
    }
    return pitches;
}

std::optional<int> pinsToTellApart(Length s1, Length s2, double u) {
    const double gap = std::abs(s1.mm() - s2.mm());
    for (int n = 2; n < 200; ++n)
        if ((n - 1) * gap > 6.6 * std::hypot(u, makeTolerance((n - 1) * s1.mm()))) return n;
    return {};
}

namespace {

/// Standard uncertainty of a span read over outer edges less one width, with the instrument used last.
double spanU(const Part& part) {
    const Instrument* i =
        instrumentByName(part, part.readings.empty() ? "caliper-0.01" : part.readings.back().instrument);
    if (i == nullptr || showsAngles(i->name)) i = &instruments().front();
    const double u2 = i->limit * i->limit / 3 + i->edge * i->edge + i->step * i->step / 12;
    return std::sqrt(2 * u2);
}

std::string judge(const SizeAdvice& a, SizeKind kind, const Part& part) {
    const auto& first = a.nearest[0];
    const auto& second = a.nearest[1];
    const double one = first.standard.mm();
    const double two = second.standard.mm();
    if (first.fit == Fit::Excluded)
        return fmt::format("No standard {} fits; {:g} mm is {:.1f} σ off.", a.name, one, first.k);
    if (second.fit == Fit::Excluded)
        return fmt::format("{:g} mm {} ({:.1f} σ). {:g} mm does not ({:.0f} σ).", one,
                           first.fit == Fit::Fits ? "fits" : "is unlikely", first.k, two, second.k);
    if (kind != SizeKind::Pitch)
        return fmt::format("{:g} and {:g} mm both fit ({:.1f} σ, {:.1f} σ): read it again to tell them apart.", one,
                           two, first.k, second.k);
    if (const auto n = pinsToTellApart(first.standard, second.standard, spanU(part)))
        return fmt::format(
            "{:g} and {:g} mm both fit ({:.1f} σ, {:.1f} σ): read across at least {} pins to tell them apart.", one,
            two, first.k, second.k, *n);
    return fmt::format("{:g} and {:g} mm both fit; no row is long enough to tell them apart.", one, two);
}

/// The make's tolerance of a parameter, where a drawing states it: the value's reading on this very size.
std::optional<double> drawnTolerance(const Part& part, const Adjustment& adjusted, const Expr& value) {
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const ReadingResult& r = adjusted.readings()[i];
        if (r.stats.specimens != 0 || r.stats.spread <= 0 || r.state == ReadingState::Orphan) continue;
        const auto f = adjusted.equation(part.readings[i]);
        if (f && f->gradient() == value.gradient()) return r.stats.spread;
    }
    return {};
}

std::vector<std::size_t> setAside(const Adjustment& a) {
    std::vector<std::size_t> aside;
    for (std::size_t i = 0; i < a.readings().size(); ++i)
        if (a.readings()[i].state == ReadingState::InDoubt) aside.push_back(i);
    return aside;
}

}  // namespace

std::vector<SizeAdvice> sizeAdvice(const Part& part, const Adjustment& adjusted) {
    std::vector<SizeAdvice> all;
    const std::vector<std::size_t> aside = setAside(adjusted);
    const auto advise = [&](const std::string& parameter, const char* name, SizeKind kind) {
        if (!adjusted.model().has(parameter)) return;
        const Parameter::State state = adjusted.model().parameter(parameter).state;
        if (state == Parameter::State::Given || state == Parameter::State::Formula) return;
        SizeAdvice a;
        a.parameter = parameter;
        a.name = name;
        const auto it = part.taken.find(parameter);
        if (it != part.taken.end()) a.taken = it->second;
        std::optional<Adjustment> free;
        if (a.taken) {
            // With it taken, some readings may be in doubt. What it is as read leaves them out, if it is what the
            // others say, and the readings alone are not explained by leaving out fewer; else it is the taken value
            // that they speak against.
            free.emplace(part, parameter);
            const bool settled = free->ways().empty() && !free->unexplained() && setAside(*free).size() < aside.size();
            if (!aside.empty() && !settled) {
                free.emplace(part, parameter, aside);
                const Expr& left = free->parameter(parameter);
                const bool stands =
                    free->firm(left) && std::abs(left.value() - a.taken->mm()) <=
                                            kExcluded * std::hypot(free->u(left), makeTolerance(left.value()));
                if (!stands) free.emplace(part, parameter);
            }
        }
        const Adjustment& by = free ? *free : adjusted;
        const Expr& value = by.parameter(parameter);
        a.firm = by.firm(value);
        a.asRead = value.value();
        a.u = by.u(value);
        a.span = by.span(value);
        if (a.firm) {
            const auto drawn = drawnTolerance(part, by, value);
            const double reach = by.reach(value);
            const auto kOf = [&](Length s) {
                return std::max(std::abs(a.asRead - s.mm()) - reach, 0.0) /
                       std::hypot(a.u, drawn.value_or(makeTolerance(s.mm())));
            };
            for (const Length s : standardSizes(kind)) a.nearest.push_back({s, kOf(s), fitOf(kOf(s))});
            std::partial_sort(a.nearest.begin(), a.nearest.begin() + 3, a.nearest.end(),
                              [](const auto& x, const auto& y) { return x.k < y.k; });
            a.nearest.resize(3);
            a.contradict = !by.ways().empty() || by.unexplained();
            a.words = a.contradict
                          ? fmt::format("The readings contradict each other; {:g} mm is the nearest standard {}.",
                                        a.nearest.front().standard.mm(), a.name)
                          : judge(a, kind, part);
            if (a.taken) a.takenK = kOf(*a.taken);
        }
        all.push_back(std::move(a));
    };
    for (const Formation& f : part.formations) {
        const std::string prefix = parameterPrefix(part, f);
        advise(prefix + "pitch", "pitch", SizeKind::Pitch);
        advise(prefix + "rearPitch", "rear pitch", SizeKind::Pitch);
        advise(prefix + "rowGap", "row gap", SizeKind::RowGap);
        advise(prefix + "lead.width", f.lead == LeadShape::Round ? "lead diameter" : "lead width", SizeKind::Lead);
        advise(prefix + "lead.thickness", "lead thickness", SizeKind::Lead);
    }
    for (const Spot& s : part.spots) advise(s.id + ".diameter", "diameter", SizeKind::Hole);
    return all;
}

}  // namespace punch
