// Voltage distances by layer, to metal pegs and screws, cut-outs, keepouts and the board's edge.

#include "core/clear/surroundings.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/clear/ipc2221_table61.h"
#include "core/clear/room.h"
#include "core/clear/voltage_pairs.h"
#include "core/part/carriers.h"
#include "tests/support/cuts.h"
#include "tests/support/dice.h"
#include "tests/support/parts.h"

namespace punch::surroundings_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }
Voltage volts(double v) { return Voltage::fromVolts(v); }

/// Pins 1 and 2, round lands of 2.00, 5 apart, at 300 V d.c. and 0 V. The datum lies between them.
Part twoPins() {
    Part part = test::bareRow(2);
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = mm(0.8);
    part.taken["pitch"] = mm(5);
    part.overrides[kWholePart].shape = LandShape::Round;
    part.overrides[kWholePart].land = mm(2);
    part.potentials = {{"high", PotentialKind::Dc, volts(300), "", {"p1"}, {}},
                       {"low", PotentialKind::Dc, volts(0), "", {"p2"}, {}}};
    return part;
}

// ------------------------------------------------------------------ the column of what covers the copper

TEST(VoltageColumns, InnerLayersAskByB1) {
    // Inner lands of 4.70 leave 0.30: too near for B2 (1.25 at 300 V), enough for B1 (0.20).
    Part part = twoPins();
    part.overrides[kWholePart].inner = mm(4.70);
    const Footprint f = derive(part);
    const VoltagePair& v = f.voltages.at(0);
    // The part side has 3.00 of 1.25, the inner layers 0.30 of 0.20: the least to spare is inside.
    EXPECT_EQ(v.column, VoltageColumn::B1);
    EXPECT_EQ(v.needed, mm(0.20));
    EXPECT_NEAR(v.gap.mm(), 0.30, 1e-9);
    EXPECT_NE(f.gauge("voltage")->state, GaugeState::NoGo);
    part.overrides[kWholePart].inner = mm(4.85);
    EXPECT_EQ(derive(part).gauge("voltage")->state, GaugeState::NoGo) << "0.15 of 0.20";
}

TEST(VoltageColumns, TheFaceCountsWhereItHasLessToSpare) {
    Part part = twoPins();
    part.overrides[kWholePart].land = mm(3.6);   // 1.40 of 1.25 outside
    part.overrides[kWholePart].inner = mm(4.0);  // 1.00 of 0.20 inside
    const VoltagePair v = derive(part).voltages.at(0);
    EXPECT_EQ(v.column, VoltageColumn::B2);
    EXPECT_NEAR(v.gap.mm(), 1.40, 1e-9);
}

TEST(VoltageColumns, CopperWhollyUnderMaskAsksByB4) {
    Part part = twoPins();
    for (const PadLayers side : {PadLayers::Top, PadLayers::Bottom}) {
        part.overrides[kWholePart].layers = side;
        part.overrides[kWholePart].tented = true;
        EXPECT_EQ(derive(part).voltages.at(0).column, VoltageColumn::B4);
        EXPECT_EQ(derive(part).voltages.at(0).needed, ipc2221Spacing(VoltageColumn::B4, volts(300)));
        // One of them open: as if both were.
        part.overrides["p2"].tented = false;
        EXPECT_EQ(derive(part).voltages.at(0).column, VoltageColumn::B2);
        part.overrides.erase("p2");
    }
    // A lead sticks out of a hole's mask.
    part.overrides[kWholePart].layers = PadLayers::Through;
    EXPECT_EQ(derive(part).voltages.at(0).column, VoltageColumn::B2);
    // Under a coating over the assembly that column holds.
    part.overrides[kWholePart].layers = PadLayers::Top;
    part.rules.column = VoltageColumn::A5;
    EXPECT_EQ(derive(part).voltages.at(0).column, VoltageColumn::A5);
}

TEST(VoltageColumns, TheRoomOfAPadKnowsThem) {
    // Best land grows on the face to what B2 leaves: 5 - 1.25 = 3.75; the inner lands stay at 4.00.
    Part part = twoPins();
    part.overrides[kWholePart].inner = mm(4.0);
    const Footprint f = derive(part);
    ASSERT_FALSE(f.rooms.empty());
    EXPECT_NEAR(f.rooms[0].most.mm(), 3.75, 1e-6);
    EXPECT_EQ(f.rooms[0].mostBy, "voltage");
}

// ------------------------------------------------------------------ edge, keepouts, cut-outs, metal

Part withEdge(Part part, double y) {
    part = withFace(std::move(part), FaceKind::BoardEdge, Axis::Across, false);
    part.given[part.faces.back().id + ".at"] = {fmt::format("{}", y), Unit::Mm};
    return part;
}

TEST(Surroundings, TheBoardsEdgeIsToldAndIsCheckedOnceItCarriesAPotential) {
    Part part = withEdge(twoPins(), -3);
    Footprint f = derive(part);
    ASSERT_EQ(f.around.size(), 1U);
    EXPECT_EQ(f.around[0].kind, Surrounding::Kind::BoardEdge);
    EXPECT_EQ(f.around[0].pin, "p1") << "0 V asks nothing of 0 V";
    EXPECT_NEAR(f.around[0].gap.mm(), 2.0, 1e-9);
    EXPECT_EQ(f.around[0].asks, mm(1.25));
    EXPECT_EQ(f.voltages.size(), 1U) << "nothing is checked";
    part.potentials[1].pins.push_back(part.faces.back().id);
    f = derive(part);
    EXPECT_TRUE(f.around.empty());
    ASSERT_EQ(f.voltages.size(), 2U);
    const VoltagePair* edge = pairOf(f, "p1", part.faces.back().id);
    ASSERT_NE(edge, nullptr);
    EXPECT_NEAR(edge->gap.mm(), 2.0, 1e-9);
    // Nearer than B2 lets it be: no-go, with the edge named.
    part.given[part.faces.back().id + ".at"] = {"-2", Unit::Mm};
    f = derive(part);
    EXPECT_EQ(f.gauge("voltage")->state, GaugeState::NoGo);
    EXPECT_EQ(f.gauge("voltage")->about, (std::vector<std::string>{"p1", part.faces.back().id}));
    // And the pad's room ends where the edge asks: 2 x (2.00 - 1.25).
    for (const Room& r : f.rooms)
        if (r.pad == "p1") {
            EXPECT_NEAR(r.most.mm(), 1.50, 1e-6);
            EXPECT_EQ(r.mostBy, "voltage");
            EXPECT_EQ(r.about, std::vector<FeatureId>{part.faces.back().id});
        }
}

TEST(Surroundings, AHoleThatRunsOverTheBoardsEdgeIsNamed) {
    // Holes of 1.00, up to 1.10: at 0.90 from the edge 0.35 of board are left, at 0.70 only 0.15 of 0.25.
    const FeatureId edge = withEdge(twoPins(), -0.9).faces.back().id;
    EXPECT_NE(derive(withEdge(twoPins(), -0.9)).gauge("hole-to-hole")->state, GaugeState::NoGo);
    const Gauge near = *derive(withEdge(twoPins(), -0.7)).gauge("hole-to-hole");
    EXPECT_EQ(near.state, GaugeState::NoGo);
    EXPECT_NEAR(*near.value, 0.15, 1e-9);
    EXPECT_EQ(near.about, (std::vector<std::string>{"p1", edge}));
    const Gauge over = *derive(withEdge(twoPins(), -0.3)).gauge("hole-to-hole");
    EXPECT_EQ(over.words, "{} {u} over the edge");
}

TEST(Surroundings, AnEdgeThatIsSlantedToNothingIsMeasuredOnEverySide) {
    for (const bool along : {true, false})
        for (const bool positive : {true, false}) {
            Part part = withFace(twoPins(), FaceKind::BoardEdge, along ? Axis::Along : Axis::Across, positive);
            const FeatureId id = part.faces.back().id;
            // In the frame of pin 1: the lands reach from -1 to 6 along and from -1 to 1 across.
            const double at = along ? (positive ? 8.5 : -3.5) : (positive ? 3.5 : -3.5);
            part.given[id + ".at"] = {fmt::format("{}", at), Unit::Mm};
            part.potentials = {{"high", PotentialKind::Dc, volts(300), "", {"p1", "p2"}, {}},
                               {"earth", PotentialKind::Dc, volts(0), "", {id}, {}}};
            EXPECT_NEAR(derive(part).voltages.at(0).gap.mm(), 2.5, 1e-9) << along << positive;
        }
}

TEST(Surroundings, AKeepoutStandsOnThePartSide) {
    Part part = test::demoPart();
    const Footprint demo = derive(part);
    ASSERT_FALSE(demo.keepouts.empty());
    const auto told = std::find_if(demo.around.begin(), demo.around.end(),
                                   [](const Surrounding& s) { return s.kind == Surrounding::Kind::Keepout; });
    ASSERT_NE(told, demo.around.end());
    const Rect rect = demo.keepouts[0].box();
    // The nearest live land, by its lower edge.
    const Pad* pad = demo.pad(told->pin);
    EXPECT_NEAR(told->gap.mm(), (pad->at.y - pad->top.length / 2 - rect.top).mm(), 1e-6);
    part.potentials[0].pins.push_back(part.marks[0].id);
    EXPECT_NE(pairOf(derive(part), "p3", part.marks[0].id), nullptr);
    // Taken away, it leaves the potential too.
    const Part without = withoutMark(part, part.marks[0].id);
    EXPECT_EQ(without.potentials[0].pins, test::demoPart().potentials[0].pins);
}

TEST(Surroundings, AMetalPegIsAsLargeAsItsHoleAndAScrewAsItsHead) {
    Part part = withSpot(twoPins(), SpotKind::MountingHole);
    const FeatureId id = part.spots.back().id;
    const auto give = [&](const char* name, const char* typed) { part.given[id + name] = {typed, Unit::Mm}; };
    give(".x", "0");
    give(".y", "8");
    give(".diameter", "3.0");
    part.potentials[1].pins.push_back(id);
    Footprint f = derive(part);
    const BareHole& hole = f.bareHoles.at(0);
    EXPECT_NEAR(pairOf(f, "p1", id)->gap.mm(), 8 - 1 - hole.sizeLargest.mm() / 2, 1e-9);
    part.spots.back().head = mm(5.6);
    EXPECT_NEAR(pairOf(derive(part), "p1", id)->gap.mm(), 8 - 1 - 2.8, 1e-9);
    // Its own hole is no way around it: by IEC the surface is straight.
    part.rules.standard = VoltageStandard::Iec60664;
    part.spots.back().head = Length();
    f = derive(part);
    EXPECT_EQ(pairOf(f, "p1", id)->way, pairOf(f, "p1", id)->gap);
    // Without a potential and without a head it is plastic and nobody speaks of it.
    part.potentials[1].pins.pop_back();
    EXPECT_TRUE(derive(part).around.empty());
    part.spots.back().head = mm(5.6);
    EXPECT_EQ(derive(part).around.at(0).kind, Surrounding::Kind::Metal);
}

TEST(Surroundings, AWasherOverALongSlotIsReachedAcrossIt) {
    // A flat peg in a slot of its own, 6 to the left of pin 1, under a washer that is shorter than the slot.
    Part part = withSpot(twoPins(), SpotKind::Lug);
    part.rules.standard = VoltageStandard::Iec60664;
    Spot& lug = part.spots.back();
    lug.flat = true;
    lug.head = mm(2.4);
    part.overrides[lug.id].slot = true;
    for (const auto& [name, typed] : {std::pair{".x", "-6"}, {".y", "0"}, {".width", "3.5"}, {".thickness", "1.0"}})
        part.given[lug.id + name] = {typed, Unit::Mm};
    part.potentials[1].pins = {lug.id};
    const Footprint f = derive(part);
    ASSERT_GT(f.bareHoles.at(0).slotLength, mm(3.5));
    const VoltagePair* v = pairOf(f, "p1", lug.id);
    ASSERT_NE(v, nullptr);
    EXPECT_NEAR(v->gap.mm(), 6 - 1 - 1.2, 1e-6);
    EXPECT_EQ(v->way, v->gap);
}

TEST(Surroundings, ACutOutThatMetalGoesThroughIsMeasuredToItsEdge) {
    Part part = twoPins();
    CutOut window;
    window.kind = CutOutKind::Window;
    window.name = "bracket";
    window.from = {mm(-2), mm(3)};
    window.to = {mm(4), mm(6)};
    window.width = mm(1.0);
    part = withCutOut(part, window);
    const std::string id = part.marks[0].id;
    EXPECT_EQ(derive(part).around.at(0).kind, Surrounding::Kind::CutOut);
    part.potentials[1].pins.push_back(id);
    EXPECT_NEAR(pairOf(derive(part), "p1", id)->gap.mm(), 3 - 1, 1e-9);
    part.rules.standard = VoltageStandard::Iec60664;
    const Footprint f = derive(part);
    EXPECT_NEAR(pairOf(f, "p1", id)->way.mm(), 2, 1e-6) << "the edge is reached, not gone around";
    EXPECT_TRUE(pairOf(f, "p1", id)->path.empty()) << "and straight";
    EXPECT_EQ(withoutMark(part, id).potentials[1].pins, (std::vector<FeatureId>{"p2"}));
}

TEST(Surroundings, TheEdgeOfALiveCutOutIsReachedStraightHoweverItLies) {
    test::Dice dice(23);
    for (int i = 0; i < 60; ++i) {
        Part part = twoPins();
        part.rules.standard = VoltageStandard::Iec60664;
        CutOut slot;
        slot.from = {mm(dice.between(-4, 2)), mm(dice.between(3, 5))};
        slot.to = slot.from + Point{mm(dice.between(1, 6)), mm(dice.between(-1, 4))};
        slot.width = mm(dice.between(1.2, 2.4));
        part = withCutOut(part, slot);
        part.potentials[1].pins = {part.marks[0].id};
        const Footprint f = derive(part);
        const VoltagePair* v = pairOf(f, "p1", part.marks[0].id);
        ASSERT_NE(v, nullptr);
        EXPECT_EQ(v->way, v->gap) << i;
        EXPECT_TRUE(v->path.empty()) << i;
        EXPECT_NEAR(v->gap.mm(), gap(landShape(f.pads[0]), *f.cutOuts[0].rounded()).mm(), 2e-6) << i;
    }
}

TEST(Surroundings, RandomEdgesAskTheSameOfEveryPadAsAPlainDistance) {
    test::Dice dice(17);
    for (int i = 0; i < 60; ++i) {
        const double y = -dice.between(1.2, 6);
        Part part = withEdge(twoPins(), y);
        part.overrides[kWholePart].land = mm(dice.between(1.4, 2.4));
        part.potentials = {{"high", PotentialKind::Dc, volts(dice.between(20, 900)), "", {"p1", "p2"}, {}},
                           {"edge", PotentialKind::Dc, volts(0), "", {part.faces.back().id}, {}}};
        const Footprint f = derive(part);
        for (const VoltagePair& v : f.voltages) {
            const Length plain = -mm(y) - f.pad(v.a)->top.width / 2;
            EXPECT_NEAR(v.gap.mm(), plain.mm(), 1e-6);
            EXPECT_EQ(f.gauge("voltage")->state == GaugeState::NoGo, plain < v.needed - mm(1e-6)) << i;
        }
    }
}

// ------------------------------------------------------------------ how they are named

TEST(Carriers, PinsRangesAndNamesOfSeveralWords) {
    Part part = test::demoPart();
    part.faces.clear();
    part = withFace(part, FaceKind::BoardEdge, Axis::Across, false);
    const auto ids = [&](const char* typed) {
        const auto all = carriersByWords(part, typed);
        return all ? *all : std::vector<FeatureId>{all.error().what};
    };
    const auto& pins = part.formations[0].pins;
    const FeatureId edge = part.faces.back().id;
    EXPECT_EQ(ids("1 2"), (std::vector<FeatureId>{pins[0], pins[1]}));
    EXPECT_EQ(ids("2-4,1"), (std::vector<FeatureId>{pins[1], pins[2], pins[3], pins[0]}));
    EXPECT_EQ(ids("1, Board Edge 1"), (std::vector<FeatureId>{pins[0], edge}));
    EXPECT_EQ(ids("plug travel"), (std::vector<FeatureId>{part.marks[0].id}));
    EXPECT_EQ(ids("peg board edge 3"), (std::vector<FeatureId>{part.spots[0].id, edge, pins[2]}));
    EXPECT_TRUE(ids("").empty());
    EXPECT_EQ(ids("7"), (std::vector<FeatureId>{"there is no pin “7”, and nothing is called so"}));
    EXPECT_EQ(ids("3-9"), (std::vector<FeatureId>{"there is no pin “5”"}));
    EXPECT_EQ(ids("4-1"), (std::vector<FeatureId>{"there is no pin “4-1”, and nothing is called so"}));
    // What stands up from the board carries nothing.
    part = withFace(part, FaceKind::Panel, Axis::Across, false);
    EXPECT_FALSE(carriersByWords(part, part.faces.back().name));
    EXPECT_FALSE(carriersByWords(part, "body"));
}

TEST(Carriers, TheyStayWhenPinsGoAndGoWithTheirFeature) {
    Part part = withFace(twoPins(), FaceKind::BoardEdge, Axis::Across, false);
    const FeatureId edge = part.faces.back().id;
    part.potentials[1].pins.push_back(edge);
    const auto fewer = withPinCount(part, 0, 1);
    ASSERT_TRUE(fewer);
    EXPECT_EQ(fewer->potentials.at(1).pins, std::vector<FeatureId>{edge});
    EXPECT_EQ(withoutFeature(part, edge).potentials.at(1).pins, std::vector<FeatureId>{"p2"});
}

}  // namespace
}  // namespace punch::surroundings_test
