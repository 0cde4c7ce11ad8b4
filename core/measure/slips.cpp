#include "core/measure/slips.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "core/measure/adjust.h"
#include "core/measure/instruments.h"
#include "core/measure/sides.h"
#include "core/measure/standard_sizes.h"
#include "core/part/slots.h"

namespace punch {
namespace {

struct Factor {
    double by;
    const char* words;
};

/// What a typed value has to be multiplied with to be what was meant.
constexpr std::array<Factor, 12> kFactors = {{
    {25.4, "read in inches"},
    {0.0254, "read in mil"},
    {1 / 25.4, "typed as inches, read in mm"},
    {1 / 0.0254, "typed as mil, read in mm"},
    {0.001, "read in µm"},
    {1000, "typed in m"},
    {0.01, "decimal point left out"},
    {0.1, "decimal point left out"},
    {10, "decimal point one place off"},
    {100, "decimal point two places off"},
    {2, "a radius or a half for the whole"},
    {0.5, "the double of it"},
}};

void setValue(RawValue& raw, double mm) {
    raw.value = Length::fromNm(std::round(mm * 1e4) * 100);
    raw.typed = fmt::format("{:g}", raw.value.mm());
    raw.unit = Unit::Mm;
}

Part scaled(Part part, std::size_t index, double by) {
    for (RawValue& raw : part.readings[index].raw) setValue(raw, raw.value.mm() * by);
    return part;
}

const Factor* factorBetween(double typed, double meant, double tolerance) {
    // The smallest disagreement decides, so that 25.4 and 1/0.0254 are not mixed up.
    const Factor* best = nullptr;
    double least = tolerance;
    for (const Factor& f : kFactors)
        if (const double off = std::abs(typed * f.by - meant); off <= least) {
            least = off;
            best = &f;
        }
    return best;
}

std::string value(double mm) { return fmt::format("{:g} mm", std::round(mm * 1e4) / 1e4); }

/// The value with two neighbouring digits exchanged that comes nearest to what was meant, if it is that.
std::optional<double> digitsExchanged(double typed, double meant, double tolerance) {
    std::string digits = fmt::format("{:g}", std::round(typed * 1e4) / 1e4);
    std::optional<double> best;
    const auto isDigit = [&](std::size_t k) { return digits[k] >= '0' && digits[k] <= '9'; };
    for (std::size_t k = 0; k + 1 < digits.size(); ++k) {
        const std::size_t next = digits[k + 1] == '.' ? k + 2 : k + 1;
        if (next >= digits.size() || !isDigit(k) || !isDigit(next) || digits[k] == digits[next]) continue;
        std::string other = digits;
        std::swap(other[k], other[next]);
        const double value = std::stod(other);
        if (std::abs(value - meant) <= tolerance && (!best || std::abs(value - meant) < std::abs(*best - meant)))
            best = value;
    }
    return best;
}

/// What a typed value may have been meant as, and why.
std::optional<std::pair<double, std::string>> meantAs(double typed, double meant, double tolerance) {
    if (const Factor* f = factorBetween(typed, meant, std::max(tolerance, 0.002 * std::abs(meant))))
        return std::pair{typed * f->by, std::string(f->words)};
    if (const auto value = digitsExchanged(typed, meant, tolerance))
        return std::pair{*value, std::string("digits exchanged")};
    return {};
}

/// Raw values that lie far from their fellows by a factor, or by exchanged digits.
std::optional<Slip> rawSlip(const Part& part, std::size_t i, const ReadingResult& r) {
    const Reading& reading = part.readings[i];
    if (reading.contact == Contact::Angle || std::count(r.stats.asked.begin(), r.stats.asked.end(), true) == 0)
        return {};
    Part mended = part;
    std::string words;
    int found = 0;
    const auto mend = [&](std::size_t k, double meant, double tolerance) {
        const double typed = reading.raw[k].value.mm();
        const auto as = meantAs(typed, meant, tolerance);
        if (!as) return false;
        words += fmt::format("{}{}: was {} meant ({})?", words.empty() ? "" : " ", value(typed), value(as->first),
                             as->second);
        setValue(mended.readings[i].raw[k], as->first);
        ++found;
        return true;
    };
    if (r.stats.usable) {
        for (std::size_t k = 0; k < reading.raw.size(); ++k)
            if (r.stats.asked[k]) mend(k, r.stats.mean, std::max(6 * r.stats.u, 0.002 * r.stats.mean));
    } else if (reading.raw.size() == 2) {
        // Two values that cannot both be right: one may be the other in another unit. The unlikely one is the slip.
        const double a = reading.raw[0].value.mm();
        const double b = reading.raw[1].value.mm();
        const bool firstLikelier = std::abs(std::log(std::max(std::abs(a), 1e-9) / 10)) <=
                                   std::abs(std::log(std::max(std::abs(b), 1e-9) / 10));
        constexpr double kClose = 0.1;  // mm; units and points, not digits, are off by more
        const std::size_t odd = firstLikelier ? 1 : 0;
        if (!mend(odd, firstLikelier ? a : b, kClose)) mend(1 - odd, firstLikelier ? b : a, kClose);
    }
    if (found == 0) return {};
    return Slip{reading.id, words, found == 1 ? "Take it as meant" : "Take them as meant", std::move(mended)};
}

/// What the rest says of a reading: its value there, and how well that is known.
struct Rest {
    double expected = 0;
    double u = 0;              ///< standard uncertainty of reading less expected
    const Way* way = nullptr;  ///< the solution is not yet that of the rest
};

/// A reading that the others contradict: which one change of it would they accept?
std::optional<Slip> contradicted(const Part& part, const Adjustment& a, std::size_t i, const Rest& rest) {
    const Reading& reading = part.readings[i];
    const ReadingResult& r = a.readings()[i];
    if (reading.contact == Contact::Angle || !reading.sameAs.empty() || reading.pick) return {};
    const double tolerance = kInDoubt * rest.u;
    if (std::abs(r.stats.mean - rest.expected) <= tolerance) return {};
    if (!reading.drawing && !reading.raw.empty()) {
        if (const Factor* factor =
                factorBetween(r.stats.mean, rest.expected, std::max(tolerance, 0.002 * rest.expected)))
            return Slip{reading.id,
                        fmt::format("{}: was {} meant ({})?", value(r.stats.mean), value(r.stats.mean * factor->by),
                                    factor->words),
                        fmt::format("Take {}", value(r.stats.mean * factor->by)), scaled(part, i, factor->by)};
        // Nobody exchanges the same digits twice.
        const auto exchanged = digitsExchanged(r.stats.mean, rest.expected, tolerance);
        if (exchanged && reading.raw.size() == 1) {
            Part mended = part;
            setValue(mended.readings[i].raw.front(), *exchanged);
            return Slip{reading.id,
                        fmt::format("{}: was {} meant (digits exchanged)?", value(r.stats.mean), value(*exchanged)),
                        fmt::format("Take {}", value(*exchanged)), std::move(mended)};
        }
    }
    std::vector<std::pair<const char*, Reading>> changes;
    if (reading.contact == Contact::Outside || reading.contact == Contact::Inside ||
        reading.contact == Contact::Centres) {
        for (const auto& [contact, words] :
             {std::pair{Contact::Outside, "outside"}, std::pair{Contact::Inside, "inside"},
              std::pair{Contact::Centres, "centre to centre"}})
            if (contact != reading.contact) {
                Reading other = reading;
                other.contact = contact;
                changes.emplace_back(words, other);
            }
    } else if (reading.contact == Contact::FaceNear || reading.contact == Contact::FaceFar) {
        Reading other = reading;
        other.contact = reading.contact == Contact::FaceNear ? Contact::FaceFar : Contact::FaceNear;
        changes.emplace_back(other.contact == Contact::FaceNear ? "to the near edge" : "to the far edge", other);
    }
    if (reading.drawing || reading.fromBelow) {
        Reading other = reading;
        other.fromBelow = !reading.fromBelow;
        changes.emplace_back(other.fromBelow ? "as a drawing seen from below" : "as a drawing seen from the part side",
                             other);
    }
    for (const auto& [words, other] : changes) {
        const auto g = a.equation(other);
        if (!g || !a.firm(*g)) continue;
        const double there = g->value() + (rest.way != nullptr ? Adjustment::change(*g, *rest.way) : 0.0);
        if (std::abs(r.stats.mean - there) > tolerance) continue;
        Part mended = part;
        mended.readings[i] = other;
        return Slip{reading.id,
                    fmt::format("{} fits if it was read {}, not {}", value(r.stats.mean), words,
                                reading.contact == Contact::Inside    ? "inside"
                                : reading.contact == Contact::Outside ? "outside"
                                : reading.contact == Contact::Centres ? "centre to centre"
                                                                      : "as noted"),
                    fmt::format("Take as {}", words), std::move(mended)};
    }
    return {};
}

/// What is in doubt, against what the rest says.
std::optional<Slip> contradictedByRest(const Part& part, const Adjustment& a, std::size_t i) {
    const ReadingResult& r = a.readings()[i];
    const auto f = a.equation(part.readings[i]);
    if (!f || !a.firm(*f)) return {};
    return contradicted(part, a, i, {r.expected, std::hypot(r.stats.u, a.u(*f)), nullptr});
}

/// The ways to explain the readings of which every wrong reading is a slip that can be named.
std::vector<Slip> slipsOfWays(const Part& part, const Adjustment& a) {
    constexpr std::size_t kMost = 3;
    std::vector<Slip> slips;
    for (const Way& way : a.ways()) {
        if (slips.size() >= kMost) break;
        Slip all{way.readings.size() == 1 ? part.readings[way.readings.front()].id : "", "", "", part};
        bool explained = true;
        for (std::size_t k = 0; k < way.readings.size() && explained; ++k) {
            const std::size_t i = way.readings[k];
            const auto one = contradicted(part, a, i, {a.readings()[i].stats.mean - way.off[k], way.offU[k], &way});
            explained = one.has_value();
            if (!explained) break;
            all.words += (all.words.empty() ? "" : " And ") + one->words;
            all.todo = way.readings.size() == 1 ? one->todo : "Take both as meant";
            all.mended->readings[i] = one->mended->readings[i];
        }
        if (way.readings.size() > 2) all.todo = "Take them as meant";
        if (explained) slips.push_back(std::move(all));
    }
    return slips;
}

/// Outside and inside of the same features with their words exchanged, lengths typed negative.
std::vector<Slip> impossibleSlips(const Part& part, const Adjustment& a) {
    std::vector<Slip> slips;
    for (const Impossible& what : a.impossible()) {
        Part mended = part;
        if (what.readings.size() == 1 && a.readings()[what.readings.front()].stats.mean < 0) {
            const std::size_t i = what.readings.front();
            mended = scaled(std::move(mended), i, -1);
            slips.push_back({part.readings[i].id, what.words,
                             fmt::format("Take {}", value(-a.readings()[i].stats.mean)), std::move(mended)});
            continue;
        }
        const bool left = std::all_of(what.readings.begin(), what.readings.end(),
                                      [&](std::size_t i) { return a.readings()[i].state == ReadingState::Impossible; });
        if (what.readings.size() != 2 || !left) continue;
        Reading& first = mended.readings[what.readings[0]];
        Reading& second = mended.readings[what.readings[1]];
        if (first.contact != Contact::Outside || second.contact != Contact::Inside) continue;
        std::swap(first.contact, second.contact);
        const Adjustment trial(mended);
        if (trial.impossible().empty() && trial.wholeTestHolds() && trial.ways().empty())
            slips.push_back(
                {first.id, what.words + ": were outside and inside exchanged?", "Exchange them", std::move(mended)});
    }
    return slips;
}

/// A taken value that the readings speak against, although they agree without it.
std::vector<Slip> takenAgainst(const Part& part, const std::vector<SizeAdvice>& sizes) {
    std::vector<Slip> slips;
    for (const SizeAdvice& s : sizes) {
        if (!s.speaksAgainst()) continue;
        Part mended = part;
        mended.taken.erase(s.parameter);
        slips.push_back({"",
                         fmt::format("{} {} was read, {} is taken", s.name, value(std::round(s.asRead * 1e3) / 1e3),
                                     value(s.taken->mm())),
                         "Use it as read", std::move(mended)});
    }
    return slips;
}

/// A size that no part has, when nothing else can check it.
std::optional<Slip> implausible(const Part& part, std::size_t i, const ReadingResult& r) {
    const Reading& reading = part.readings[i];
    if (!r.stats.usable || reading.pick || reading.contact == Contact::Angle || reading.contact == Contact::Quantity ||
        reading.drawing || !reading.sameAs.empty())
        return {};
    const double mean = std::abs(r.stats.mean);
    const bool pinSize = reading.contact == Contact::Size && reading.a != kBody;
    const double most = !pinSize ? 300 : reading.axis == Axis::Height ? 60 : 20;
    const double least = pinSize ? 0.1 : 0.15;
    if (mean >= least && mean <= most) return {};
    if (std::any_of(reading.raw.begin(), reading.raw.end(), [](const RawValue& v) { return v.meant; })) return {};
    // Of the changes that make it a likely size, the first of the table.
    for (const Factor& f : kFactors) {
        if (f.by == 2 || f.by == 0.5) continue;
        const double meant = mean * f.by;
        if (meant < 2 * least || meant > most / 2) continue;
        return Slip{reading.id,
                    fmt::format("{} is unlikely here: was {} meant ({})?", value(mean), value(meant), f.words),
                    fmt::format("Take {}", value(meant)), scaled(part, i, f.by)};
    }
    return Slip{reading.id, fmt::format("{} is unlikely here: is it meant?", value(mean)), "", {}};
}

/// How strongly the residuals ask for one constant on every reading of an instrument: its standardised score.
double zeroScore(const Part& part, const Adjustment& a, const std::string& instrument) {
    Eigen::VectorXd z = Eigen::VectorXd::Zero(a.residuals().size());
    for (Eigen::Index row = 0; row < z.size(); ++row) {
        const int i = a.rows()[static_cast<std::size_t>(row)];
        if (i < 0) continue;
        const Reading& r = part.readings[static_cast<std::size_t>(i)];
        if (r.instrument == instrument && !r.drawing && r.sameAs.empty())
            z(row) = 1 / a.readings()[static_cast<std::size_t>(i)].stats.u;
    }
    a.free(z);
    const Eigen::VectorXd jz = a.jacobian().transpose() * z;
    const double variance = z.squaredNorm() - jz.dot(a.covariances() * jz);
    return variance > 1e-9 * z.squaredNorm() ? std::abs(z.dot(a.residuals())) / std::sqrt(variance) : 0.0;
}

/// One constant on every reading of an instrument: does it explain what is left better than any single reading?
std::vector<Slip> zeros(const Part& part, const Adjustment& a, bool doubtful) {
    std::vector<Slip> slips;
    std::vector<std::string> names;
    for (const Reading& r : part.readings)
        if (!r.drawing && std::find(names.begin(), names.end(), r.instrument) == names.end() &&
            std::find(part.zeros.begin(), part.zeros.end(), r.instrument) == part.zeros.end())
            names.push_back(r.instrument);
    for (const std::string& name : names) {
        const Instrument* instrument = instrumentByName(part, name);
        if (instrument == nullptr || showsAngles(name) || name == kGridSteps) continue;
        int count = 0;
        for (const Reading& r : part.readings) count += r.instrument == name && !r.drawing && r.sameAs.empty();
        if (count < 4 || (!doubtful && zeroScore(part, a, name) < kInDoubt)) continue;
        // All readings together, none set aside: a wrong zero may look like several blunders.
        Part with = part;
        with.zeros.push_back(name);
        const Adjustment trial(with);
        const std::string zeroName = "zero." + name;
        const Expr& zero = trial.parameter(zeroName);
        if (!trial.firm(zero) || trial.redundancy() < 1) continue;
        const double t = zero.value() / trial.u(zero);
        const bool alarm = std::any_of(trial.readings().begin(), trial.readings().end(), [](const ReadingResult& r) {
            return r.state == ReadingState::InDoubt || r.state == ReadingState::OneOf;
        });
        if (std::abs(t) < kInDoubt || alarm || !trial.wholeTestHolds()) continue;
        slips.push_back({"",
                         fmt::format("The {} shows {:+.3f} mm too much on everything ({:.1f} σ): was it zeroed?",
                                     instrument->words, zero.value(), std::abs(t)),
                         "Take its zero as unknown", std::move(with)});
    }
    return slips;
}

/// The numbers of a formation turned round, for what drawings say.
std::vector<Slip> mirroredNumbers(const Part& part, const Adjustment& a) {
    std::vector<Slip> slips;
    const auto failing = [](const Adjustment& of, const Part& p) {
        int count = 0;
        for (std::size_t i = 0; i < p.readings.size(); ++i)
            count += of.readings()[i].state == ReadingState::InDoubt || of.readings()[i].state == ReadingState::OneOf;
        return count + (of.wholeTestHolds() ? 0 : 1);
    };
    const int now = failing(a, part);
    if (now == 0) return slips;
    for (const Formation& f : part.formations) {
        const auto isOf = [&](const FeatureId& id) {
            return std::find(f.pins.begin(), f.pins.end(), id) != f.pins.end();
        };
        const bool drawn = std::any_of(part.readings.begin(), part.readings.end(), [&](const Reading& r) {
            return r.drawing && (isOf(r.a) || isOf(r.b)) && !(isOf(r.a) && isOf(r.b));
        });
        if (!drawn || f.pins.size() < 2) continue;
        const auto slots = slotsOf(part, f);
        std::map<FeatureId, FeatureId> mirror;
        for (std::size_t i = 0; i < f.pins.size(); ++i)
            for (std::size_t k = 0; k < f.pins.size(); ++k)
                if (slots[i].row == slots[k].row && slots[k].column == slots[i].columns - 1 - slots[i].column)
                    mirror[f.pins[i]] = f.pins[k];
        Part turned = part;
        for (Reading& r : turned.readings)
            if (r.drawing)
                for (FeatureId* id : {&r.a, &r.b, &r.c})
                    if (const auto it = mirror.find(*id); it != mirror.end()) *id = it->second;
        const Adjustment trial(turned);
        if (failing(trial, turned) > 0) continue;
        Part mended = turned;
        for (Formation& g : mended.formations)
            if (g.id == f.id) g.numbers.fromLeft = !g.numbers.fromLeft;
        slips.push_back({"", "The numbers run mirrored against the drawing: is it seen from below?",
                         "Turn the numbers round", std::move(mended)});
    }
    return slips;
}

}  // namespace

std::vector<Slip> findSlips(const Part& part, const Adjustment& a, const std::vector<SizeAdvice>& sizes,
                            const std::vector<OpenSide>& sides) {
    bool doubtful = !a.wholeTestHolds();
    for (const ReadingResult& r : a.readings())
        doubtful = doubtful || r.state == ReadingState::InDoubt || r.state == ReadingState::OneOf;
    std::vector<Slip> slips = takenAgainst(part, sizes);
    const auto append = [&](std::vector<Slip> more) {
        for (Slip& s : more) slips.push_back(std::move(s));
    };
    // A taken value that was not read explains more than an instrument's zero.
    if (slips.empty()) append(zeros(part, a, doubtful));
    if (doubtful) append(mirroredNumbers(part, a));
    for (const OpenSide& side : sides) {
        slips.push_back({"", side.words, side.here + ", as drawn", side.asDrawn});
        slips.push_back({"", side.words, side.there, side.other});
    }
    append(impossibleSlips(part, a));
    append(slipsOfWays(part, a));
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const ReadingResult& r = a.readings()[i];
        std::optional<Slip> slip;
        if (part.readings[i].pick || r.state == ReadingState::Impossible) continue;  // nobody typed it, or it is asked
        if (r.state != ReadingState::Orphan) slip = rawSlip(part, i, r);
        if (!slip && r.state == ReadingState::InDoubt) slip = contradictedByRest(part, a, i);
        if (!slip && r.state != ReadingState::Orphan && r.state != ReadingState::Agrees) slip = implausible(part, i, r);
        const auto known = [&](const Slip& s) { return s.reading == part.readings[i].id; };
        if (slip && std::none_of(slips.begin(), slips.end(), known)) slips.push_back(std::move(*slip));
    }
    return slips;
}

}  // namespace punch
