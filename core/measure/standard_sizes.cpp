#include "core/measure/standard_sizes.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/measure/adjust.h"

namespace punch {

double makeTolerance(double mm) { return std::max(0.001 * std::abs(mm), 0.005); }

Fit fitOf(double k) { return k <= 2 ? Fit::Fits : k <= 3.3 ? Fit::Unlikely : Fit::Excluded; }

const std::vector<Length>& standardPitches() {
    // Pitches people recognise: metric, then inch. Source: the trade's catalogues; IEC 60807 for 2.77.
    static const std::vector<Length> table = [] {
        std::vector<Length> all;
        for (const double mm : {0.5, 0.8, 1.0,  1.25, 1.5,  2.0,  2.5,  3.0,  3.5,  4.0,  4.2,   5.0,
                                6.0, 7.5, 10.0, 1.27, 2.54, 3.81, 3.96, 5.08, 6.35, 7.62, 10.16, 2.77})
            all.push_back(Length::fromMm(mm));
        std::sort(all.begin(), all.end());
        return all;
    }();
    return table;
}

SizeAdvice advicePitch(const Part& part, const Formation& formation) {
    SizeAdvice advice;
    advice.parameter = parameterPrefix(part, formation) + "pitch";
    if (const auto it = part.taken.find(advice.parameter); it != part.taken.end()) advice.taken = it->second;
    const Adjustment free(part, advice.parameter);
    const Expr pitch = free.parameters().expr(advice.parameter, free.values());
    advice.firm = free.firm(pitch);
    advice.asRead = pitch.value();
    advice.u = free.u(pitch);
    if (!advice.firm) return advice;
    for (const Length s : standardPitches()) {
        const double t = makeTolerance(s.mm());
        const double k = std::abs(advice.asRead - s.mm()) / std::hypot(advice.u, t);
        advice.nearest.push_back({s, k, fitOf(k)});
    }
    std::sort(advice.nearest.begin(), advice.nearest.end(), [](const auto& a, const auto& b) { return a.k < b.k; });
    advice.nearest.resize(3);
    const auto& first = advice.nearest[0];
    const auto& second = advice.nearest[1];
    if (first.fit == Fit::Excluded) {
        advice.words = fmt::format("No standard pitch fits; {:g} mm is {:.1f} σ off.", first.standard.mm(), first.k);
    } else if (second.fit != Fit::Excluded) {
        const double gap = std::abs(first.standard.mm() - second.standard.mm());
        // The span's own doubt hardly depends on its length: two outer edges, one width.
        const double span = std::max(advice.u, 0.0135);
        int n = 2;
        while (n < 200 && (n - 1) * gap <= 6.6 * std::hypot(span, makeTolerance((n - 1) * first.standard.mm()))) ++n;
        advice.words = fmt::format(
            "{:g} and {:g} mm both fit ({:.1f} σ, {:.1f} σ): read across at least {} pins to tell them apart.",
            first.standard.mm(), second.standard.mm(), first.k, second.k, n);
        if (n >= 200)
            advice.words = fmt::format("{:g} and {:g} mm both fit; no row is long enough to tell them apart.",
                                       first.standard.mm(), second.standard.mm());
    } else {
        advice.words =
            fmt::format("{:g} mm {} ({:.1f} σ). {:g} mm does not ({:.0f} σ).", first.standard.mm(),
                        first.fit == Fit::Fits ? "fits" : "is unlikely", first.k, second.standard.mm(), second.k);
    }
    return advice;
}

}  // namespace punch
