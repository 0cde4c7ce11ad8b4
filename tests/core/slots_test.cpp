// Slots that mend, drills that are shared, lugs that are soldered in: over random parts, and through to the files.

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numeric>
#include <set>

#include "core/advise/ways_out.h"
#include "core/clear/voltage_pairs.h"
#include "core/release/drill.h"
#include "core/release/gerber.h"
#include "core/size/fewest_drills.h"
#include "core/size/hole_fit.h"
#include "tests/support/cuts.h"
#include "tests/support/dice.h"
#include "tests/support/gerber_reader.h"
#include "tests/support/parts.h"

namespace punch::slots_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

using test::Dice;

/// Two unlike rows facing each other, one at mains; their distance leaves enough air and too little surface, or not.
Part facingRows(Dice& dice) {
    Part part =
        *newPart({FormationKind::TwoRows, {3 + dice.below(4), 1 + dice.below(3)}, {}, false, false, "", Axis::Along});
    part.body.present = false;
    part.formations[0].lead = LeadShape::Round;
    part.formations[0].ownPitch = true;
    part.given.clear();
    for (const auto& [name, value] : {std::pair{"pitch", dice.between(2.5, 4)},
                                      {"rearPitch", dice.between(5, 8)},
                                      {"rowGap", dice.between(7, 11)},
                                      {"rowShift", dice.between(-2, 5)},
                                      {"lead.width", dice.between(0.6, 1.1)}})
        part.given[name] = {fmt::format("{:.3f}", value), Unit::Mm};
    part.rules.standard = VoltageStandard::Iec60664;
    part.rules.iec.pollution = static_cast<PollutionDegree>(dice.below(3));
    part.rules.iec.group = static_cast<MaterialGroup>(dice.below(3));
    part.rules.iec.insulation = Insulation::Reinforced;
    const auto& pins = part.formations[0].pins;
    const auto front = static_cast<std::ptrdiff_t>(part.formations[0].rows[0]);
    part.potentials = {
        {"control", PotentialKind::Dc, Voltage::fromVolts(24), "", {pins.begin(), pins.begin() + front}, {}},
        {"mains",
         PotentialKind::Ac,
         Voltage::fromVolts(dice.below(2) == 0 ? 230 : 400),
         "mains",
         {pins.begin() + front, pins.end()},
         {}}};
    return part;
}

TEST(SlotFor, WhatItOffersMendsEveryPairAndTouchesNothing) {
    Dice dice(21);
    int offered = 0;
    int refused = 0;
    for (int i = 0; i < 90; ++i) {
        const Part part = facingRows(dice);
        const Footprint f = derive(part);
        ASSERT_FALSE(f.voltages.empty());
        const VoltagePair& worst = f.voltages.front();
        if (!worst.refused.empty() || f.gauge("voltage")->state != GaugeState::NoGo) continue;
        const auto slot = slotFor(part, f, worst.a, worst.b);
        if (!slot) {
            ++refused;
            EXPECT_FALSE(slot.error().what.empty());
            EXPECT_FALSE(slot.error().todo.empty()) << "what to do then";
            continue;
        }
        ++offered;
        const Footprint after = derive(withCutOut(part, *slot));
        EXPECT_NE(after.gauge("voltage")->state, GaugeState::NoGo) << i;
        for (const VoltagePair& v : after.voltages) {
            EXPECT_GE(v.way, v.gap - Length::fromNm(1));
            EXPECT_GE(v.way, *v.creepage - Length::fromNm(2));
        }
        EXPECT_GE(nearestCopperToCut(after.board())->gap, part.rules.fab.copperToEdge) << i;
        const auto& mills = part.rules.fab.mills;
        EXPECT_EQ(std::count(mills.begin(), mills.end(), slot->width), 1) << "a bit mills it in one pass";
        // Its length is a whole number of tenths.
        const double tenths = distance(slot->from, slot->to).mm() * 10;
        EXPECT_NEAR(tenths, std::round(tenths), 1e-5);
    }
    EXPECT_GT(offered, 8);
    EXPECT_GT(offered + refused, 15);
}

TEST(WaysOutOfRandomParts, WhatIsCalledMendedHasNoGaugeThatFailsForIt) {
    Dice dice(22);
    int mended = 0;
    for (int i = 0; i < 40; ++i) {
        const Part part = facingRows(dice);
        const Footprint f = derive(part);
        const VoltagePair& worst = f.voltages.front();
        if (!worst.refused.empty() || f.gauge("voltage")->state != GaugeState::NoGo) continue;
        for (const WayOut& way : waysOut(part, f, worst.a, worst.b)) {
            EXPECT_FALSE(way.part == part);
            if (!way.mends) continue;
            ++mended;
            const Footprint then = derive(way.part);
            EXPECT_NE(then.gauge("voltage")->state, GaugeState::NoGo) << way.words;
            for (const Gauge& g : f.gauges)
                if (g.state != GaugeState::NoGo) {
                    EXPECT_NE(then.gauge(g.name)->state, GaugeState::NoGo) << way.words << ": " << g.name;
                }
        }
    }
    EXPECT_GT(mended, 5);
}

/// The least number of sizes that hit all intervals, by trying every set of their upper ends.
std::size_t fewestByTrying(const std::vector<std::pair<double, double>>& intervals) {
    std::size_t best = intervals.size();
    for (unsigned set = 1; set < (1U << intervals.size()); ++set) {
        std::vector<double> sizes;
        for (std::size_t k = 0; k < intervals.size(); ++k)
            if ((set >> k) & 1U) sizes.push_back(intervals[k].second);
        const bool all = std::all_of(intervals.begin(), intervals.end(), [&](const auto& i) {
            return std::any_of(sizes.begin(), sizes.end(),
                               [&](double s) { return s >= i.first - 1e-9 && s <= i.second + 1e-9; });
        });
        if (all) best = std::min(best, sizes.size());
    }
    return best;
}

TEST(FewestDrills, AreAsFewAsTryingEverySetFindsAndEveryHoleKeepsItsLimits) {
    Dice dice(23);
    Rules rules;
    for (int i = 0; i < 200; ++i) {
        std::vector<LeadFit> leads(static_cast<std::size_t>(1 + dice.below(7)));
        std::vector<std::pair<double, double>> intervals;
        for (LeadFit& lead : leads) {
            lead.hole = mm(0.5 + 0.05 * dice.below(30));
            lead.holeLargest = lead.hole + rules.platedTolerance;
            lead.largestAllowed = lead.holeLargest + mm(0.05 * dice.below(12));
            lead.land = lead.hole + mm(0.6);
            intervals.emplace_back(lead.hole.mm(), (lead.largestAllowed - rules.platedTolerance).mm());
        }
        const std::vector<LeadFit> before = leads;
        shareDrills(rules, leads);
        std::set<long> sizes;
        for (std::size_t k = 0; k < leads.size(); ++k) {
            sizes.insert(std::lround(leads[k].hole.nm()));
            EXPECT_GE(leads[k].hole, before[k].hole);
            EXPECT_LE(leads[k].holeLargest, leads[k].largestAllowed + Length::fromNm(1));
            EXPECT_NEAR((leads[k].land - leads[k].hole).mm(), 0.6, 1e-9) << "the land grows with its hole";
        }
        EXPECT_EQ(sizes.size(), fewestByTrying(intervals)) << i;
    }
    // In a part: two formations whose leads differ by little share one drill on request.
    Part part = test::bareRow(2);
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = mm(1.0);
    part.taken["pitch"] = mm(5);
    part = *withFormation(part, {FormationKind::Row, {2}, {}, false, false, "", Axis::Along});
    part.formations[1].lead = LeadShape::Round;
    const std::string second = part.formations[1].id;
    for (const auto& [name, value] :
         {std::pair{".lead.width", "1.1"}, {".pitch", "5"}, {".x", "0"}, {".y", "10"}, {".turn", "0"}})
        part.given[second + name] = {value, Unit::Mm};
    const auto drills = [](const Footprint& f) {
        std::set<double> all;
        for (const Pad& p : f.pads) all.insert(p.hole.mm());
        return all.size();
    };
    EXPECT_EQ(drills(derive(part)), 2U);
    part.rules.fewestDrills = true;
    const Footprint shared = derive(part);
    EXPECT_EQ(drills(shared), 1U);
    EXPECT_NE(shared.gauge("ring")->state, GaugeState::NoGo);
    EXPECT_NE(shared.chains.at("hole:p1").back().label.find("shared"), std::string::npos);
}

TEST(SolderedLugs, GoThroughEveryFileAsPlatedCopper) {
    const auto loaded = loadPart(test::sourceFolder() + "/demo/fennel-house/HT-SEL6.punch");
    ASSERT_TRUE(loaded);
    Part part = *loaded;
    const Footprint f = derive(part);
    const auto count = [](const std::string& text, const std::string& what) {
        int n = 0;
        for (std::size_t at = text.find(what); at != std::string::npos; at = text.find(what, at + 1)) ++n;
        return n;
    };
    EXPECT_EQ(count(*drill(part, f, Plating::Plated), "G85"), 2);
    EXPECT_EQ(count(*drill(part, f, Plating::Bare), "G85"), 0);
    EXPECT_EQ(count(*drill(part, f, Plating::Bare), "\nX"), 1) << "the peg alone is bare";
    const ProofBoard board = proofBoard(f);
    const test::GerberImage top(*gerber(part, f, board, BoardLayer::TopCopper));
    EXPECT_TRUE(top.errors.empty()) << top.errors[0];
    EXPECT_EQ(top.pins.size(), 8U) << "six pins and two lugs";
    // As bare lugs they are holes without copper, and the drop-in knows them in the other pass.
    part.overrides.erase("lug27");
    part.overrides.erase("lug32");
    const Footprint bare = derive(part);
    EXPECT_EQ(bare.board().copper().size(), 6U);
    EXPECT_EQ(count(*drill(part, bare, Plating::Plated), "G85"), 0);
    EXPECT_EQ(count(*drill(part, bare, Plating::Bare), "\nX"), 3);
    for (const BareHole& h : bare.bareHoles)
        if (h.kind == SpotKind::Lug) {
            EXPECT_FALSE(h.plated);
            EXPECT_GE(h.size, h.peg.across.mean) << "a round hole over its corners";
        }
    // The chain of a slot's width starts at the lug's thinner side and ends at the bit.
    const Chain& chain = f.chains.at("hole:lug27");
    EXPECT_NE(chain.front().label.find("thinner side"), std::string::npos);
    EXPECT_EQ(*chain[2].value, f.bareHole("lug27")->size);
    EXPECT_NE(chain[2].label.find("mill bit"), std::string::npos);
}

TEST(Chains, AnOverrideIsTheLastStepWithItsReason) {
    Part part = test::demoPart();
    part.overrides["p2"].land = mm(2.2);
    part.overrides["p2"].reason = "beside a track";
    part.overrides["p3"].hole = mm(1.6);
    const Footprint f = derive(part);
    const Chain& land = f.chains.at("land:p2");
    EXPECT_EQ(land.back().label, "set: beside a track");
    EXPECT_EQ(*land.back().value, mm(2.2));
    EXPECT_EQ(f.chains.at("hole:p3").back().label, "set against the rule");
    EXPECT_EQ(*f.chains.at("hole:p3").back().value, mm(1.6));
    EXPECT_EQ(f.chains.at("land:p3").back().label, "as its hole");
    EXPECT_NEAR(f.pad("p3")->top.width.mm(), 2.6, 1e-9) << "the ring stays";
    EXPECT_EQ(f.chains.at("land:p1").back().label, "fixed ring, both sides");
}

}  // namespace
}  // namespace punch::slots_test
