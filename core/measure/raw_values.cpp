#include "core/measure/raw_values.h"

#include <fmt/format.h>

#include <algorithm>
#include <boost/container/small_vector.hpp>
#include <cmath>

#include "core/measure/drawn_range.h"
#include "core/measure/instruments.h"
#include "core/model/contacts.h"
#include "core/model/picture_scale.h"
#include "core/model/picture_terms.h"
#include "core/part/drawing_value.h"

namespace punch {
namespace {

constexpr double kPriorWeight = 8;  // how many degrees of freedom the table's s0 counts for
constexpr double kOddBySpread = 6;  // times s0
constexpr double kOddBySteps = 4;   // times the step

using Values = boost::container::small_vector<double, 8>;

double median(Values v) {
    std::sort(v.begin(), v.end());
    const std::size_t n = v.size();
    return n % 2 == 1 ? v[n / 2] : (v[n / 2 - 1] + v[n / 2]) / 2;
}

double meanOf(const Values& v) {
    double sum = 0;
    for (const double x : v) sum += x;
    return sum / static_cast<double>(v.size());
}

struct Pool {
    const Instrument* instrument;
    Handling handling;
    double sum = 0;      // of (n-1) s²
    double freedom = 0;  // of (n-1)
};

struct Working {
    const Instrument* instrument = nullptr;
    Values counted;
    std::size_t pool = 0;
};

std::size_t poolOf(std::vector<Pool>& pools, const Instrument* instrument, Handling handling) {
    for (std::size_t i = 0; i < pools.size(); ++i)
        if (pools[i].instrument == instrument && pools[i].handling == handling) return i;
    pools.push_back({instrument, handling, 0, 0});
    return pools.size() - 1;
}

void useDrawing(const DrawingValue& value, ReadingStats& s) {
    const DrawnRange range = drawnRange(value);
    s.usable = true;
    s.mean = range.middle();
    s.u = std::max(range.half() / std::sqrt(3.0), kLeastU);
    s.spread = range.half() / std::sqrt(3.0);
}

/// Marks what lies far from the median; puts the rest into `counted`.
void sortOut(const Reading& r, const Instrument& instrument, ReadingStats& s, Values& counted) {
    Values all;
    const bool angle = r.contact == Contact::Angle;
    for (const RawValue& raw : r.raw) all.push_back(angle ? raw.angle.degrees() : raw.value.mm());
    const double middle = median(all);
    const double far =
        std::max(kOddBySpread * startingHandling(instrument, handlingOf(r.contact)), kOddBySteps * instrument.step);
    const char* unit = angle ? "°" : " mm";
    std::vector<std::size_t> odd;
    for (std::size_t k = 0; k < all.size(); ++k) {
        // The tolerance keeps a value exactly at the bound on the side that decimals mean.
        s.asked[k] = std::abs(all[k] - middle) > far + 1e-9 && !r.raw[k].meant;
        if (s.asked[k])
            odd.push_back(k);
        else
            counted.push_back(all[k]);
    }
    if (odd.empty()) return;
    if (all.size() == 2) {
        s.question = fmt::format("{:.3f} and {:.3f}{} cannot both be right: which is meant?", all[0], all[1], unit);
    } else if (odd.size() == 1) {
        s.question = fmt::format("{:.3f}{} lies {:.3f}{} from its fellows: is it meant?", all[odd[0]], unit,
                                 std::abs(all[odd[0]] - middle), unit);
    } else {
        std::string values;
        for (std::size_t k = 0; k < odd.size(); ++k)
            values += fmt::format("{}{:.3f}", k == 0 ? "" : k + 1 == odd.size() ? " and " : ", ", all[odd[k]]);
        s.question = fmt::format("{}{} lie far from {:.3f}{}, the middle of this reading: are they meant?", values,
                                 unit, middle, unit);
    }
}

/// Three chords, or several times three, taken in the same order.
void useRim(const Reading& r, const Instrument& instrument, ReadingStats& s) {
    const std::size_t rounds = r.raw.size() / 3;
    if (rounds == 0 || r.raw.size() % 3 != 0) {
        s.question = "a rim needs its three chords, or three for each round";
        return;
    }
    double chord[3] = {0, 0, 0};
    for (std::size_t i = 0; i < r.raw.size(); ++i) chord[i % 3] += r.raw[i].value.mm() / static_cast<double>(rounds);
    const auto diameter = rimDiameter(chord[0], chord[1], chord[2]);
    if (!diameter) {
        s.question = "these three chords form no triangle: check them";
        return;
    }
    const double u2 = instrument.limit * instrument.limit / 3 +
                      instrument.edge * instrument.edge / static_cast<double>(rounds) +
                      instrument.step * instrument.step / 12;
    double sum = 0;
    double slopes2 = 0;
    for (int k = 0; k < 3; ++k) {
        constexpr double h = 1e-4;
        double up[3] = {chord[0], chord[1], chord[2]};
        up[k] += h;
        const double d = (rimDiameter(up[0], up[1], up[2]).value_or(*diameter) - *diameter) / h;
        sum += d * d * u2;
        slopes2 += d * d;
    }
    s.shared = instrument.limit * std::sqrt(slopes2 / 3);
    s.usable = true;
    s.mean = *diameter;
    s.u = std::max(std::sqrt(sum), kLeastU);
}

/// What was read in a picture: model/picture_terms.h says what its mean stands for.
void usePick(const Part& part, const Reading& r, ReadingStats& s) {
    const Source* source = pictureOf(part, r);
    if (source == nullptr) {
        s.question = "the picture that it was taken in is no longer there";
        return;
    }
    if (source->face == PictureFace::NotSaid && r.contact == Contact::Picture) {
        s.question = "which face the picture shows has not been said";
        return;
    }
    if (r.contact == Contact::PictureLength) {
        if (r.raw.empty()) {
            s.question = "no length yet";
            return;
        }
        if (std::hypot(r.pick->b.x - r.pick->a.x, r.pick->b.y - r.pick->a.y) < kLeastPairPixels) {
            s.question = "its two ends lie on each other: choose two places far apart";
            return;
        }
    }
    if (r.contact == Contact::PictureLevel &&
        std::hypot(r.pick->b.x - r.pick->a.x, r.pick->b.y - r.pick->a.y) < kLeastPairPixels) {
        s.question = "its two ends lie on each other: choose two places far apart";
        return;
    }
    // A drawing shows a place to its general tolerance, which is how parts of the kind differ.
    if (source->exactScale && r.contact == Contact::Picture) s.spread = kDrawnPlaceU;
    s.mean = pickMean(r, *source, isFace(part, r.a));
    s.usable = true;
    s.u = inDegrees(r.contact) ? std::max(pickU(r, *source), 1e-4) : std::max(pickU(r, *source), kLeastU);
}

bool canBeCompared(const Reading& a, const Reading& b) {
    return sameContact(a, b) && a.sameAs.empty() && b.sameAs.empty();
}

/// What differs between specimens, beyond what reading them explains, is spread.
void addSpecimenSpread(const Part& part, std::vector<ReadingStats>& stats) {
    std::vector<bool> done(stats.size(), false);
    for (std::size_t i = 0; i < stats.size(); ++i) {
        if (done[i] || part.readings[i].specimen == 0 || !stats[i].usable || part.readings[i].drawing) continue;
        std::vector<std::size_t> group;
        for (std::size_t k = i; k < stats.size(); ++k)
            if (part.readings[k].specimen > 0 && stats[k].usable && !part.readings[k].drawing &&
                canBeCompared(part.readings[i], part.readings[k]))
                group.push_back(k);
        // One mean for each specimen.
        std::map<int, std::pair<double, int>> bySpecimen;
        double u2 = 0;
        for (const std::size_t k : group) {
            auto& [sum, count] = bySpecimen[part.readings[k].specimen];
            sum += stats[k].mean;
            ++count;
            u2 += stats[k].u * stats[k].u / static_cast<double>(group.size());
            done[k] = true;
        }
        if (bySpecimen.size() < 2) continue;
        const auto n = static_cast<double>(bySpecimen.size());
        double mean = 0;
        for (const auto& [specimen, of] : bySpecimen) mean += of.first / of.second / n;
        double between = 0;
        for (const auto& [specimen, of] : bySpecimen) between += std::pow(of.first / of.second - mean, 2) / (n - 1);
        const double spread2 = std::max(between - u2 * n / static_cast<double>(group.size()), 0.0);
        for (const std::size_t k : group) {
            stats[k].spread = std::sqrt(spread2);
            stats[k].specimens = static_cast<int>(bySpecimen.size());
            stats[k].u = std::hypot(stats[k].u, stats[k].spread);
        }
    }
}

}  // namespace

std::optional<double> rimDiameter(double a, double b, double c) {
    const double s = (a + b + c) / 2;
    const double area2 = s * (s - a) * (s - b) * (s - c);
    if (!(area2 > 1e-12 * s * s * s * s)) return {};
    return a * b * c / (2 * std::sqrt(area2));
}

bool saidTwice(const Reading& a, const Reading& b) {
    return canBeCompared(a, b) && a.instrument == b.instrument && a.specimen == b.specimen && !a.drawing &&
           !b.drawing && !a.pick && !b.pick && !a.raw.empty() && !b.raw.empty();
}

std::vector<ReadingStats> readingStats(const Part& part) {
    std::vector<ReadingStats> stats(part.readings.size());
    std::vector<Working> working(part.readings.size());
    std::vector<Pool> pools;
    bool specimens = false;
    for (std::size_t j = 0; j < part.readings.size(); ++j) {
        const Reading& r = part.readings[j];
        ReadingStats& s = stats[j];
        s.asked.assign(r.raw.size(), false);
        specimens = specimens || r.specimen > 0;
        if (r.pick) {
            usePick(part, r, s);
            continue;
        }
        if (r.drawing) {
            useDrawing(*r.drawing, s);
            continue;
        }
        if (r.raw.empty() && r.sameAs.empty() && !r.name.empty()) {
            const auto value = letterValue(part.letters, r.name);
            if (value)
                useDrawing(*value, s);
            else
                s.question =
                    part.letters.letters.empty()
                        ? fmt::format("no value yet, and no letter table gives “{}”", r.name)
                        : fmt::format("the letter “{}” has no value in the variant “{}”", r.name, part.letters.variant);
            continue;
        }
        const Instrument* instrument = instrumentByName(part, r.instrument);
        if (instrument == nullptr) {
            s.question = fmt::format("the instrument “{}” is not known: choose one", r.instrument);
            continue;
        }
        if (showsAngles(r.instrument) != (r.contact == Contact::Angle)) {
            s.question = r.contact == Contact::Angle ? "an angle is read with a protractor"
                                                     : "a protractor shows no lengths: choose another instrument";
            continue;
        }
        const double s0 = startingHandling(*instrument, handlingOf(r.contact));
        if (!r.sameAs.empty()) {
            // Found equal: what the instrument could have missed.
            s.usable = true;
            s.u = std::max(std::sqrt(instrument->limit * instrument->limit / 3 + s0 * s0 +
                                     instrument->step * instrument->step / 12),
                           kLeastU);
            continue;
        }
        if (r.raw.empty()) {
            s.question = "no value yet";
            continue;
        }
        if (r.contact == Contact::Rim) {
            useRim(r, *instrument, s);
            continue;
        }
        working[j].instrument = instrument;
        Values& counted = working[j].counted;
        sortOut(r, *instrument, s, counted);
        if (counted.empty()) continue;
        s.usable = true;
        s.mean = meanOf(counted);
        working[j].pool = poolOf(pools, instrument, handlingOf(r.contact));
        Pool& pool = pools[working[j].pool];
        for (const double v : counted) pool.sum += (v - s.mean) * (v - s.mean);
        pool.freedom += static_cast<double>(counted.size()) - 1;
    }
    for (std::size_t j = 0; j < part.readings.size(); ++j) {
        const Working& w = working[j];
        if (w.instrument == nullptr || !stats[j].usable) continue;
        const Pool& pool = pools[w.pool];
        const double s0 = startingHandling(*w.instrument, pool.handling);
        const double s2 = (kPriorWeight * s0 * s0 + pool.sum) / (kPriorWeight + pool.freedom);
        const double limit = std::abs(stats[j].mean) > 100 ? w.instrument->limitLong : w.instrument->limit;
        stats[j].shared = limit / std::sqrt(3.0);
        stats[j].u = std::sqrt(limit * limit / 3 + s2 / static_cast<double>(w.counted.size()) +
                               w.instrument->step * w.instrument->step / 12);
        if (stats[j].u < kLeastU) {
            stats[j].u = kLeastU;
            stats[j].question = fmt::format("“{}” states no error at all: counted as 0.00001 mm", w.instrument->words);
        }
    }
    if (specimens) addSpecimenSpread(part, stats);
    return stats;
}

}  // namespace punch
