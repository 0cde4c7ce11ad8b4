// Ways out for a pair that stands too near: each is tried, none is promised.

#include "core/advise/ways_out.h"

#include <gtest/gtest.h>

#include <unistd.h>

#include <algorithm>
#include <fstream>
#include <nlohmann/json.hpp>

#include "core/clear/room.h"
#include "core/clear/voltage_pairs.h"
#include "core/size/fab_profiles.h"
#include "core/size/pad_rules.h"
#include "tests/support/cuts.h"
#include "tests/support/parts.h"

namespace punch::ways_out_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

/// A row of four at 5 V and, `apart` behind it, a row of two at mains; reinforced, degree 3: 8.00 over the surface.
Part facing(double apart) {
    Part part = *newPart({FormationKind::TwoRows, {4, 2}, {}, false, false, "", Axis::Along});
    part.body.present = false;
    part.formations[0].lead = LeadShape::Round;
    part.formations[0].ownPitch = true;
    part.given.clear();
    for (const auto& [name, value] :
         {std::pair{"pitch", 2.54}, {"rearPitch", 5.08}, {"rowGap", apart}, {"rowShift", 1.27}, {"lead.width", 0.8}})
        part.given[name] = {fmt::format("{}", value), Unit::Mm};
    const auto& pins = part.formations[0].pins;
    part.overrides[kWholePart].shape = LandShape::Round;
    part.rules.land = LandRule::FixedRing;
    part.rules.ring = mm(0.5);
    part.rules.standard = VoltageStandard::Iec60664;
    part.rules.iec.pollution = PollutionDegree::Three;
    part.rules.iec.insulation = Insulation::Reinforced;
    part.potentials = {
        {"control", PotentialKind::Dc, Voltage::fromVolts(5), "", {pins.begin(), pins.begin() + 4}, {}},
        {"mains", PotentialKind::Ac, Voltage::fromVolts(230), "mains", {pins.begin() + 4, pins.end()}, {}}};
    return part;
}

TEST(WaysOut, ASlotMendsEveryPairOfTheTwoPotentials) {
    const Part part = facing(9);
    const Footprint f = derive(part);
    ASSERT_EQ(f.gauge("voltage")->state, GaugeState::NoGo) << f.gauge("voltage")->words;
    const VoltagePair& worst = f.voltages.front();
    EXPECT_NEAR(worst.creepage->mm(), 8.0, 1e-9);
    const auto slot = slotFor(part, f, worst.a, worst.b);
    ASSERT_TRUE(slot) << slot.error().text();
    // Degree 3 wants 1.5 at the least milled width: with ± 0.10 the bit of 1.6 is the first that counts.
    EXPECT_EQ(slot->width, mm(1.6));
    const Part mended = withCutOut(part, *slot);
    const Footprint after = derive(mended);
    EXPECT_NE(after.gauge("voltage")->state, GaugeState::NoGo);
    for (const VoltagePair& v : after.voltages) EXPECT_GE(v.margin(), Length::fromNm(-1)) << v.a << " " << v.b;
    // Clear of copper, and the shortest on its line: a tenth less at either end fails.
    EXPECT_GE(nearestCopperToCut(after.board())->gap, part.rules.fab.copperToEdge);
    EXPECT_NE(after.gauge("hole-to-hole")->state, GaugeState::NoGo);
    for (const bool atEnd : {true, false}) {
        const CutOut& c = *slot;
        const double len = distance(c.from, c.to).mm();
        const Point by{mm((c.to.x - c.from.x).mm() / len * 0.1), mm((c.to.y - c.from.y).mm() / len * 0.1)};
        const Part shorter =
            withCutOutMoved(mended, mended.marks.back().id, atEnd ? Point() : by, atEnd ? Point() - by : Point());
        EXPECT_EQ(derive(shorter).gauge("voltage")->state, GaugeState::NoGo);
    }
    EXPECT_EQ(withoutMark(mended, mended.marks.back().id).marks, part.marks);
    const auto back = fromText(toText(mended), "x");
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(*back, mended);
}

TEST(WaysOut, SaysWhyASlotIsNoHelp) {
    Part part = facing(4);
    const Footprint f = derive(part);
    const VoltagePair& worst = f.voltages.front();
    ASSERT_LT(worst.gap, *worst.clearance);
    const auto air = slotFor(part, f, worst.a, worst.b);
    ASSERT_FALSE(air);
    EXPECT_NE(air.error().what.find("air"), std::string::npos);
    part = facing(9);
    part.rules.standard = VoltageStandard::Ipc2221;
    EXPECT_NE(slotFor(part, derive(part), worst.a, worst.b).error().what.find("IPC-2221B"), std::string::npos);
    part = facing(9);
    part.rules.fab.mills = {mm(1.0)};
    EXPECT_NE(slotFor(part, derive(part), worst.a, worst.b).error().todo.find("no mill bit"), std::string::npos);
    EXPECT_FALSE(slotFor(part, derive(part), "p1", "p2")) << "one potential";
}

TEST(WaysOut, EachEffectIsWhatThePartThenHas) {
    const Part part = facing(9);
    const Footprint f = derive(part);
    const VoltagePair& worst = f.voltages.front();
    const auto ways = waysOut(part, f, worst.a, worst.b);
    ASSERT_GE(ways.size(), 3U);
    bool mendsFirst = true;
    for (const WayOut& way : ways) {
        const Footprint then = derive(way.part);
        EXPECT_EQ(way.before, worst.way);
        EXPECT_EQ(way.mends, then.gauge("voltage")->state != GaugeState::NoGo && way.against.empty()) << way.words;
        for (const VoltagePair& v : then.voltages)
            if (v.a == worst.a && v.b == worst.b) {
                EXPECT_TRUE(way.after == v.way || way.after == v.gap) << way.words;
            }
        EXPECT_TRUE(mendsFirst || !way.mends) << "those that mend come first";
        mendsFirst = mendsFirst && way.mends;
    }
    const auto has = [&](const char* words) {
        return std::any_of(ways.begin(), ways.end(),
                           [&](const WayOut& w) { return w.words.find(words) != std::string::npos; });
    };
    EXPECT_TRUE(has("slot"));
    EXPECT_TRUE(has("coating"));
    EXPECT_TRUE(has("oval"));
}

TEST(WaysOut, BestPadsOfTheWholePartLeaveRoomForEachOther) {
    // Two formations; the second could take all the room that the first takes before it.
    Part part = *loadPart(test::sourceFolder() + "/demo/fennel-house/HT-RM2.punch");
    part.rules.iec.insulation = Insulation::Basic;
    const Footprint before = derive(part);
    ASSERT_NE(before.gauge("voltage")->state, GaugeState::NoGo);
    const auto best = withBestPads(part);
    ASSERT_TRUE(best) << best.error().text();
    const Footprint after = derive(*best);
    for (const char* gauge : {"ring", "copper-to-copper", "voltage"})
        EXPECT_NE(after.gauge(gauge)->state, GaugeState::NoGo) << gauge << after.gauge(gauge)->words;
    for (const Formation& f : part.formations) {
        const auto room = roomOfFormation(*best, after, f.id);
        ASSERT_TRUE(room);
        EXPECT_LT(room->most - room->now, mm(0.051));
    }
}

TEST(WaysOut, RoomForLandsThatHaveNoneIsMadeByOvalsAndTighterFits) {
    // Leads of 1.0 at a pitch of 1.7: the ring asks for 1.65, copper to copper allows 1.55, the web of mask 1.50.
    Part part = test::bareRow(5);
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = mm(1.0);
    part.taken["pitch"] = mm(1.7);
    const std::string f = part.formations[0].id;
    const Footprint d = derive(part);
    ASSERT_FALSE(withBestPad(part, d, f));
    const auto ways = waysToRoom(part, d, f);
    ASSERT_GE(ways.size(), 3U);
    bool level = false;
    for (const RoomWay& way : ways) {
        const Footprint then = derive(way.part);
        const auto room = roomOfFormation(way.part, then, f);
        ASSERT_TRUE(room) << way.words;
        EXPECT_EQ(room->least, way.least) << way.words;
        if (way.words == "fit level C") {
            level = true;
            // 1.15 + 0.10 + 0.10 + 0.20: 1.55 at least.
            EXPECT_NEAR(way.least.mm(), 1.55, 1e-6);
            EXPECT_EQ(way.mends(), way.most >= way.least + mm(0.0));
        }
        if (way.mends()) {
            EXPECT_NE(then.gauge("ring")->state, GaugeState::NoGo) << way.words;
            EXPECT_NE(then.gauge("copper-to-copper")->state, GaugeState::NoGo) << way.words;
        }
    }
    EXPECT_TRUE(level);
    // With a little more pitch a tighter fit mends it.
    part.taken["pitch"] = mm(1.78);
    const Footprint e = derive(part);
    ASSERT_FALSE(withBestPad(part, e, f));
    const auto more = waysToRoom(part, e, f);
    EXPECT_TRUE(more.front().mends()) << more.front().words;
    EXPECT_NE(derive(more.front().part).gauge("copper-to-copper")->state, GaugeState::NoGo);
    EXPECT_TRUE(waysToRoom(part, e, "f9").empty());
}

TEST(WaysOut, RoomForLandsThatHaveNoneIsMadeByASlot) {
    // The rows stand 9.3 apart: the least lands leave less than 8.00 over the surface, and more than 5.50 through air.
    Part part = facing(9.3);
    part.rules.land = LandRule::Ipc2221;
    const Footprint f = derive(part);
    const std::string id = part.formations[0].id;
    const auto room = roomOfFormation(part, f, id);
    ASSERT_TRUE(room);
    ASSERT_LT(room->most, room->least) << "there is none";
    ASSERT_EQ(room->mostBy, "voltage");
    const auto ways = waysToRoom(part, f, id);
    const auto slot =
        std::find_if(ways.begin(), ways.end(), [](const RoomWay& w) { return w.words.rfind("slot", 0) == 0; });
    ASSERT_NE(slot, ways.end());
    EXPECT_GT(slot->best, Length());
    EXPECT_GE(slot->most, slot->least);
    // The effect is what the part with the slot has.
    const Footprint then = derive(slot->part);
    EXPECT_EQ(then.cutOuts.size(), 1U);
    EXPECT_NE(then.gauge("voltage")->state, GaugeState::NoGo);
    EXPECT_NE(then.gauge("ring")->state, GaugeState::NoGo);
}

TEST(FabProfiles, ThreeShipAndALibraryKeepsItsOwn) {
    ASSERT_EQ(shippedProfiles().size(), 3U);
    EXPECT_EQ(shippedProfiles().front(), FabProfile{});
    const auto folder = std::filesystem::temp_directory_path() / fmt::format("punchbit-profiles-{}", ::getpid());
    std::filesystem::create_directories(folder);
    FabProfile own = shippedProfiles()[1];
    own.name = "Attic";
    own.leastGap = mm(0.33);
    ASSERT_TRUE(keepProfile(folder.string(), own));
    own.leastGap = mm(0.44);
    ASSERT_TRUE(keepProfile(folder.string(), own)) << "the one of its name is replaced";
    const auto all = profilesOf(folder.string());
    ASSERT_TRUE(all) << all.error().text();
    ASSERT_EQ(all->size(), 4U);
    EXPECT_EQ(all->front(), own);
    {
        std::ofstream broken(folder / "fab-profiles.json");
        broken << "[{\"aspect\": -3}]";
    }
    EXPECT_FALSE(profilesOf(folder.string()));
    EXPECT_FALSE(keepProfile(folder.string(), own)) << "nothing that cannot be read is written over";
    std::filesystem::remove_all(folder);
    // A profile's limits reach the gauges.
    Part part = test::demoPart();
    part.rules.fab.leastGap = mm(3);
    EXPECT_EQ(derive(part).gauge("copper-to-copper")->state, GaugeState::NoGo);
    const auto back = fromText(toText(part), "x");
    ASSERT_TRUE(back);
    EXPECT_EQ(back->rules, part.rules);
}

TEST(BadInput, OfLandsCutsAndPotentialsIsNamedAndEndsNothing) {
    const std::string text = toText(test::demoPart());
    const auto with = [&](const std::string& field) {
        auto j = nlohmann::ordered_json::parse(text);
        j.update(nlohmann::ordered_json::parse(field), true);
        return fromText(j.dump(), "x");
    };
    for (const char* bad :
         {R"({"overrides": {"p1": {"land": -1}}})", R"({"overrides": {"p1": {"shape": "star"}}})",
          R"({"overrides": {"p1": {"hole": 0}}})", R"({"cutOuts": [{"from": [0, 0], "to": [1], "width": 1}]})",
          R"({"cutOuts": [{"from": [0, 0], "to": [1, 0], "width": 0}]})",
          R"({"cutOuts": [{"from": [0, 0], "to": [9999, 0], "width": 1}]})", R"({"rules": {"fab": {"mills": [0]}}})",
          R"({"rules": {"fab": {"aspect": 0}}})", R"({"rules": {"dropInWanted": 2}})"}) {
        const auto part = with(bad);
        ASSERT_FALSE(part) << bad;
        EXPECT_FALSE(part.error().what.empty());
    }
    // What can be drawn is drawn and marked: a slot through a pad, lands that overlap, a million volts.
    auto part = with(R"({"cutOuts": [{"from": [-1, 0], "to": [1, 0], "width": 1.2}]})");
    ASSERT_TRUE(part) << part.error().text();
    EXPECT_EQ(derive(*part).gauge("copper-to-copper")->state, GaugeState::NoGo);
    EXPECT_NE(derive(*part).gauge("copper-to-copper")->words.find("cut-out"), std::string::npos);
    part = with(R"({"overrides": {"part": {"land": 6}}})");
    ASSERT_TRUE(part);
    EXPECT_EQ(derive(*part).gauge("copper-to-copper")->state, GaugeState::NoGo);
    EXPECT_EQ(derive(*part).gauge("voltage")->state, GaugeState::NoGo);
    EXPECT_FALSE(with(R"({"potentials": [{"name": "x", "kind": "d.c.", "volts": 1000000, "pins": ["p1"]}]})"));
    part = with(R"({"potentials": [{"name": "x", "kind": "d.c.", "volts": 99999, "pins": ["p99"]}]})");
    ASSERT_TRUE(part);
    EXPECT_EQ(derive(*part).gauge("voltage")->state, GaugeState::Unknown) << "a potential on no pin";
}

}  // namespace
}  // namespace punch::ways_out_test
