#include "core/measure/impossible.h"

#include <fmt/format.h>

#include <cmath>

#include "core/measure/adjust.h"

namespace punch {
namespace {

bool isUsed(const ReadingResult& r) {
    return r.stats.usable && r.state != ReadingState::Orphan && r.state != ReadingState::Impossible &&
           std::isfinite(r.stats.mean);
}

bool isLength(const Reading& r) {
    return !r.pick && r.sameAs.empty() && !r.isSigned &&
           (r.contact == Contact::Outside || r.contact == Contact::Inside || r.contact == Contact::Centres ||
            r.contact == Contact::Size || r.contact == Contact::Rim);
}

std::string mm(double value) { return fmt::format("{:g} mm", std::round(value * 1e4) / 1e4); }

bool sameFeatures(const Reading& a, const Reading& b) {
    return ((a.a == b.a && a.b == b.b) || (a.a == b.b && a.b == b.a)) && a.axis == b.axis && a.specimen == b.specimen;
}

}  // namespace

std::vector<Impossible> negativeLengths(const Part& part, const std::vector<ReadingResult>& readings) {
    std::vector<Impossible> all;
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const Reading& r = part.readings[i];
        if (!isUsed(readings[i]) || !isLength(r)) continue;
        const double mean = readings[i].stats.mean;
        const bool size = r.contact != Contact::Inside && r.contact != Contact::Centres;
        if (mean > 0 || (mean == 0 && !size)) continue;
        all.push_back({{i},
                       mean < 0 ? fmt::format("{} cannot be: nothing gives this length a sign", mm(mean))
                                : fmt::format("{} cannot be: there would be nothing to read across", mm(mean))});
    }
    return all;
}

std::vector<Impossible> outsideBelowInside(const Part& part, const std::vector<ReadingResult>& readings) {
    std::vector<Impossible> all;
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const Reading& outside = part.readings[i];
        if (outside.contact != Contact::Outside || !isLength(outside) || !isUsed(readings[i])) continue;
        for (std::size_t k = 0; k < part.readings.size(); ++k) {
            const Reading& inside = part.readings[k];
            if (inside.contact != Contact::Inside || !isLength(inside) || !isUsed(readings[k]) ||
                !sameFeatures(outside, inside) || readings[i].stats.mean > readings[k].stats.mean)
                continue;
            all.push_back({{i, k},
                           fmt::format("outside {} is not more than inside {}", mm(readings[i].stats.mean),
                                       mm(readings[k].stats.mean))});
        }
    }
    return all;
}

std::vector<Impossible> sizesBelowNothing(const Part& part, const Adjustment& a) {
    std::vector<Impossible> all;
    const auto look = [&](const Expr& size, const std::string& words) {
        if (size.gradient().empty() || size.value() > 1e-9 || !a.firm(size)) return;
        Impossible what;
        what.words = fmt::format("{} would be {}", words, mm(size.value()));
        for (const auto& [reading, share] : a.weightsIn(size))
            if (share >= 0.02) what.readings.push_back(reading);
        // One of several ways to explain the readings may give it a size that can be: all that are in question go.
        for (const Way& way : a.ways())
            for (const std::size_t i : way.readings)
                if (std::find(what.readings.begin(), what.readings.end(), i) == what.readings.end())
                    what.readings.push_back(i);
        if (!what.readings.empty()) all.push_back(std::move(what));
    };
    for (const Parameter& p : a.model().parameters())
        if (!p.isAngle && p.unknown >= 0 && (p.isPositive || traitsOf(p.kind).size)) look(a.parameter(p.name), p.words);
    if (part.body.present && a.model().has("body.left")) {
        look(a.parameter("body.right") - a.parameter("body.left"), "body length");
        look(a.parameter("body.rear") - a.parameter("body.front"), "body width");
    }
    return all;
}

}  // namespace punch
