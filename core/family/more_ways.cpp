#include "core/family/more_ways.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "core/base/find_in.h"
#include "core/clear/spacing.h"
#include "core/measure/adjust.h"
#include "core/part/formation_kinds.h"
#include "core/part/numbering.h"
#include "core/part/parameters.h"
#include "core/part/slots.h"

namespace punch {
namespace {

/// Where each of the new columns of a row was before: the left half, then none for what is added, then the right half.
std::vector<int> columnsKept(int before, int now) {
    const int least = std::min(before, now);
    const int left = (least + 1) / 2;
    std::vector<int> from(static_cast<std::size_t>(now), -1);
    for (int c = 0; c < left; ++c) from[static_cast<std::size_t>(c)] = c;
    for (int c = 0; c < least - left; ++c) from[static_cast<std::size_t>(now - 1 - c)] = before - 1 - c;
    return from;
}

struct Rows {
    std::vector<int> before, now;
};

/// How the rows share the ways. Errors: they cannot.
Result<Rows> rowsFor(const Formation& f, int ways, bool columns) {
    const FormationTraits& traits = traitsOf(f);
    Rows rows;
    rows.before = traits.rows ? f.rows : std::vector<int>{static_cast<int>(f.pins.size())};
    rows.now = rows.before;
    const auto count = static_cast<int>(rows.before.size());
    const int more = ways - static_cast<int>(f.pins.size());
    const auto cannot = [&] {
        return problem(fmt::format("{} pins cannot be shared by its {} rows as on the part that was measured", ways, count),
                       f.id, "Choose ways by which every row grows alike");
    };
    if (traits.staggers) {
        // Every second row stands in the gaps of the others: the front one has the odd one.
        for (int k = 0; k < count; ++k)
            rows.now[static_cast<std::size_t>(k)] = ways / count + (k < ways % count ? 1 : 0);
        const auto [least, most] = std::minmax_element(rows.before.begin(), rows.before.end());
        if (!columns && more % count != 0)
            return problem(fmt::format("{} pins in rows of {}: by how much the body is then longer is not known", ways,
                                       fmt::join(rows.now, " and ")),
                           f.id, "Choose ways by which every row grows alike, or a letter table");
        if (*most - *least > 1 || !std::is_sorted(rows.before.rbegin(), rows.before.rend())) return cannot();
    } else {
        if (more % count != 0) return cannot();
        for (int& n : rows.now) n += more / count;
    }
    if (*std::min_element(rows.now.begin(), rows.now.end()) < 1)
        return problem(fmt::format("{} pins leave a row without any", ways), f.id, "Choose more ways");
    return rows;
}

/// New pins of the formation in geometric order: the index of the old one, or none.
std::vector<std::optional<std::size_t>> pinsKept(const Part& part, const Formation& f, const Rows& rows,
                                                 std::vector<int>& leftOut) {
    const auto slots = slotsOf(part, f);
    const bool grid = traitsOf(f).grid;
    std::vector<std::optional<std::size_t>> kept;
    leftOut.clear();
    int position = 0;
    for (std::size_t row = 0; row < rows.now.size(); ++row)
        for (const int from : columnsKept(rows.before[row], rows.now[row])) {
            std::optional<std::size_t> old;
            for (std::size_t i = 0; from >= 0 && i < slots.size(); ++i)
                if (slots[i].row == static_cast<int>(row) && slots[i].column == from) old = i;
            if (grid && from >= 0 && !old)
                leftOut.push_back(position);
            else
                kept.push_back(old);
            ++position;
        }
    return kept;
}

double lastPlace(const std::vector<Slot>& slots) {
    double last = 0;
    for (const Slot& s : slots) last = std::max(last, s.place);
    return last;
}

double bySide(FamilyFollow follow) {
    return follow == FamilyFollow::Right ? 1.0 : follow == FamilyFollow::Middle ? 0.5 : 0.0;
}

bool isTwinOf(const Part& part, const Formation& f, const std::string& of) {
    return traitsOf(f).mirrors && &shapeOf(part, f) != &f && shapeOf(part, f).id == of;
}

/// Pins that were added carry the two potentials that ask most of each other, in turn.
void spreadPotentials(const Part& part, const Formation& before, Formation& now, MemberPart& made) {
    std::map<FeatureId, std::size_t> of;
    for (std::size_t i = 0; i < part.potentials.size(); ++i)
        for (const FeatureId& id : part.potentials[i].pins) of.emplace(id, i);
    std::set<std::size_t> here;
    for (const FeatureId& id : before.pins)
        if (const auto it = of.find(id); it != of.end()) here.insert(it->second);
    if (here.empty()) return;
    std::size_t a = *here.begin(), b = a;
    Length most = Length::fromMm(-1);
    for (const std::size_t i : here)
        for (const std::size_t k : here) {
            if (i >= k) continue;
            const VoltagePair ask = askedBetween(part.rules, part.potentials[i], part.potentials[k]);
            const Length needed = max(ask.needed, max(ask.clearance.value_or(Length()), ask.creepage.value_or(Length())));
            if (needed > most) {
                most = needed;
                a = i;
                b = k;
            }
        }
    bool added = false;
    std::size_t last = b;
    for (const FeatureId& id : now.pins) {
        const auto it = of.find(id);
        if (std::find(before.pins.begin(), before.pins.end(), id) != before.pins.end()) {
            if (it != of.end()) last = it->second;
            continue;
        }
        last = last == a ? b : a;
        made.part.potentials[last].pins.push_back(id);
        added = true;
    }
    if (added)
        made.notes.push_back(a == b ? fmt::format("the ways that were added carry {}", part.potentials[a].name)
                                    : fmt::format("the ways that were added carry {} and {} in turn, which ask most of each other",
                                                  part.potentials[a].name, part.potentials[b].name));
}

/// Pins of the table by number: of the same kind as their neighbours where all are alike.
void extendPins(const Part& part, MemberPart& made) {
    if (part.pins.empty()) return;
    const auto numbers = pinNumbers(made.part);
    std::set<std::string> there;
    for (const auto& [id, number] : numbers) there.insert(number);
    std::erase_if(made.part.pins, [&](const Pin& p) {
        return !there.contains(p.number) && !pinByNumber(part, p.number).empty();
    });
    const bool alike = std::all_of(part.pins.begin(), part.pins.end(),
                                   [&](const Pin& p) { return p.kind == part.pins.front().kind; });
    const bool byNumber = std::all_of(part.pins.begin(), part.pins.end(), [](const Pin& p) {
        return p.names.size() == 1 && p.names.front() == p.number;
    });
    std::vector<std::string> missing(there.begin(), there.end());
    std::sort(missing.begin(), missing.end(), numberLess);
    for (const std::string& number : missing) {
        if (findIn(made.part.pins, [&](const Pin& p) { return p.number == number; }) != nullptr) continue;
        Pin pin;
        pin.number = number;
        if (byNumber) pin.names = {number};
        if (alike) pin.kind = part.pins.front().kind;
        // The order of the symbol is the user's: it comes before the next number.
        const auto next = std::find_if(made.part.pins.begin(), made.part.pins.end(),
                                       [&](const Pin& p) { return numberLess(number, p.number); });
        made.part.pins.insert(next, std::move(pin));
    }
}

/// Whatever names a pin that is gone; what lies between pins that stand further apart here is said.
void cleanUp(const Part& part, MemberPart& made) {
    Part& p = made.part;
    std::set<FeatureId> gone;
    for (const FeatureId& id : allPins(part)) gone.insert(id);
    for (const FeatureId& id : allPins(p)) gone.erase(id);
    const auto isGone = [&](const FeatureId& id) { return gone.contains(id); };
    for (Potential& q : p.potentials) std::erase_if(q.pins, isGone);
    std::erase_if(p.potentials, [](const Potential& q) { return q.pins.empty(); });
    for (Formation& f : p.formations) {
        std::erase_if(f.moved, isGone);
        std::erase_if(f.numbers.own, [&](const auto& own) { return isGone(own.first); });
    }
    for (const FeatureId& id : gone) p.overrides.erase(id);
    const auto holdsGone = [&](const Mark& m) {
        return std::any_of(m.points.begin(), m.points.end(), [&](const Anchored& at) {
            return isGone(at.x.of) || isGone(at.y.of) || isGone(at.x.with) || isGone(at.y.with);
        });
    };
    for (const Mark& m : part.marks) {
        if (holdsGone(m)) {
            made.notes.push_back(fmt::format("{} is left out: it holds on a pin that this member does not have", m.name));
            std::erase_if(p.marks, [&](const Mark& own) { return own.id == m.id; });
            continue;
        }
        for (const Anchored& at : m.points)
            if (!at.x.with.empty() && formationOf(p, at.x.with) != nullptr && formationOf(p, at.x.of) != nullptr) {
                made.notes.push_back(fmt::format("{} lies half way between {} and {}: look whether that is meant here",
                                                 m.name, featureWords(p, at.x.of), featureWords(p, at.x.with)));
                break;
            }
    }
    const auto datumGone = [&](const FeatureId& id) { return isGone(id); };
    if (datumGone(p.datum.feature) || datumGone(p.datum.second)) {
        p.datum = {};
        made.notes.push_back("the datum held on a pin that this member does not have: it is the middle of the pins");
    }
    if (!p.solids.empty()) {
        p.solids.clear();
        made.notes.push_back("the 3D file is that of the part that was measured, and is left out");
    }
}

}  // namespace

const Formation* varyingFormation(const Part& part) {
    if (part.formations.empty()) return nullptr;
    return part.family.formation.empty() ? &part.formations.front() : formationById(part, part.family.formation);
}

std::optional<std::string> cannotVary(const Part& part) {
    const Formation* f = varyingFormation(part);
    if (f == nullptr) return "there is no formation whose ways could vary";
    const FormationTraits& traits = traitsOf(*f);
    if (traits.around || traits.mirrors || traits.count == PinCount::None)
        return "a " + std::string(traits.around ? "ring" : traits.mirrors ? "mirror image" : "single pin") +
               " has no two ends between which ways could be added";
    if (f->numbers.order == NumberOrder::Clicked) return "its pins are numbered by hand, which has no rule for other ways";
    if (f != &part.formations.front() && part.given.contains(f->id + ".turn") && part.given.at(f->id + ".turn").typed != "0")
        return "its row is turned against the first one";
    return {};
}

std::map<FeatureId, FamilyFollow> familyFollows(const Part& part) {
    std::map<FeatureId, FamilyFollow> follows;
    const Formation* varies = varyingFormation(part);
    if (varies == nullptr || cannotVary(part)) return follows;
    const Adjustment adjustment(part);
    const auto& features = adjustment.features();
    double left = 1e300, right = -1e300;
    for (const FeatureId& pin : varies->pins) {
        left = std::min(left, features.at(pin).x.value());
        right = std::max(right, features.at(pin).x.value());
    }
    const double middle = (left + right) / 2;
    const double near = std::abs(adjustment.parameter(parameterPrefix(part, *varies) + "pitch").value()) / 4;
    const auto put = [&](const FeatureId& id, double x) {
        const auto said = part.family.follows.find(id);
        if (said != part.family.follows.end() && said->second != FamilyFollow::ByPlace)
            follows[id] = said->second;
        else
            follows[id] = x < middle - near ? FamilyFollow::Left : x > middle + near ? FamilyFollow::Right : FamilyFollow::Middle;
    };
    for (const Formation& f : part.formations) {
        if (f.id == varies->id || f.pins.empty()) continue;
        if (traitsOf(f).mirrors) {
            if (f.mirror == Axis::Along) put(f.id, adjustment.parameter(parameterPrefix(part, f) + "axis").value());
            continue;
        }
        double x = 0;
        for (const FeatureId& pin : f.pins) x += features.at(pin).x.value() / static_cast<double>(f.pins.size());
        put(f.id, x);
    }
    for (const Spot& s : part.spots) {
        if (s.twinOf.empty())
            put(s.id, features.at(s.id).x.value());
        else if (s.mirror == Axis::Along)
            put(s.id, adjustment.parameter(s.id + ".axis").value());
    }
    if (part.body.present) {
        follows[kLeftFace] = FamilyFollow::Left;
        follows[kRightFace] = FamilyFollow::Right;
        for (const char* id : {kLeftFace, kRightFace})
            if (const auto said = part.family.follows.find(id); said != part.family.follows.end() && said->second != FamilyFollow::ByPlace)
                follows[id] = said->second;
    }
    for (const Face& f : part.faces)
        if (f.axis == Axis::Along) put(f.id, features.at(f.id).x.value());
    return follows;
}

Result<void> giveWays(const Part& part, int ways, bool own, MemberPart& made) {
    Part& p = made.part;
    const Formation& before = *varyingFormation(part);
    const auto rows = rowsFor(before, ways, own);
    if (!rows) return tl::make_unexpected(rows.error());
    std::vector<int> leftOut;
    const auto kept = pinsKept(part, before, *rows, leftOut);
    for (Formation& f : p.formations) {
        const bool itself = f.id == before.id;
        if (!itself && !isTwinOf(part, f, before.id)) continue;
        p.sample.formations.push_back(*formationById(part, f.id));
        std::vector<FeatureId> pins;
        for (const auto& old : kept)
            pins.push_back(old && *old < f.pins.size() ? f.pins[*old] : "p" + std::to_string(p.nextId++));
        f.pins = std::move(pins);
        if (itself) {
            if (traitsOf(f).rows) f.rows = rows->now;
            f.leftOut = leftOut;
        }
    }
    // The one whose pitch it grows by stands first.
    std::stable_partition(p.sample.formations.begin(), p.sample.formations.end(),
                          [&](const Formation& f) { return f.id == before.id; });
    p.sample.drawingsAreOwn = own;
    const double grown = lastPlace(slotsOf(p, *formationById(p, before.id))) - lastPlace(slotsOf(part, before));
    for (const auto& [id, follow] : familyFollows(part)) {
        const Formation* twin = formationById(part, id);
        // The mirror image of what grows begins where that ends.
        const double by = twin != nullptr && isTwinOf(part, *twin, before.id) && follow == FamilyFollow::Right ? 1.0 : bySide(follow);
        if (by != 0 && grown != 0) p.sample.grown[id] = by * grown;
    }
    if (!p.sample.grown.empty() && traitsOf(before).staggers && (ways - static_cast<int>(before.pins.size())) % static_cast<int>(rows->now.size()) != 0)
        made.notes.push_back(fmt::format("its rows have {} pins: what no drawing places is taken to move by {:g} pitches", fmt::join(rows->now, " and "), grown));
    cleanUp(part, made);
    for (Formation& f : p.formations)
        if (const Formation* was = formationById(part, f.id); was->pins != f.pins) spreadPotentials(part, *was, f, made);
    extendPins(part, made);
    return {};
}

}  // namespace punch
