// The demo parts with all their evidence give what their makers built.

#include <gtest/gtest.h>

#include "core/advise/ways_out.h"
#include "core/base/atomic_file.h"
#include "core/size/hole_fit.h"
#include "core/verdicts/gauges.h"
#include "tests/support/cuts.h"
#include "tests/support/parts.h"

namespace punch::demo_parts_test {
namespace {

Part demo(const std::string& name) {
    const auto part = loadPart(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch");
    EXPECT_TRUE(part) << (part ? "" : part.error().text());
    return part ? *part : Part{};
}

Point at(const Footprint& f, const std::string& number) {
    for (const Pad& p : f.pads)
        if (p.number == number) return p.at;
    for (const BareHole& h : f.bareHoles)
        if (h.name == number) return h.at;
    for (const MarkPoint& m : f.marks)
        if (m.name == number) return m.at;
    ADD_FAILURE() << number;
    return {};
}

TEST(DemoParts, AllOfThemAreInTheirStandardForm) {
    for (const char* name : {"QB-TB4", "HT-RM2", "PW-VS11", "PW-RS7", "QB-TB4 reading in doubt"}) {
        const auto text = readWhole(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch");
        ASSERT_TRUE(text);
        EXPECT_EQ(*text, toText(demo(name))) << name;
        const Footprint f = derive(demo(name));
        EXPECT_TRUE(f.complaints.empty()) << name;
        EXPECT_TRUE(f.loose.empty()) << name << ": " << f.loose[0].words;
    }
}

TEST(DemoParts, TheModuleHasTwoUnlikeRowsAndALandmark) {
    const Footprint f = derive(demo("HT-RM2"));
    ASSERT_EQ(f.pads.size(), 11u);
    EXPECT_NEAR((at(f, "8") - at(f, "1")).x.mm(), 17.78, 1e-9);
    EXPECT_NEAR((at(f, "11") - at(f, "9")).x.mm(), 15.24, 1e-9);
    EXPECT_NEAR((at(f, "9") - at(f, "1")).x.mm(), 1.70, 0.015) << "the rows are not aligned";
    EXPECT_NEAR((at(f, "9") - at(f, "1")).y.mm(), 10.16, 0.015);
    EXPECT_NEAR((at(f, "coil") - at(f, "1")).x.mm(), 5.2, 0.3) << "read by eye";
    EXPECT_NEAR((at(f, "coil") - at(f, "1")).y.mm(), 6.4, 0.3);
    EXPECT_EQ(f.gauge("readings")->state, GaugeState::Go);
    EXPECT_EQ(f.gauge("positions")->state, GaugeState::Go);
}

TEST(DemoParts, ASlotMakesTheRoomBetweenTheModulesMainsAndItsControl) {
    const Part part = demo("HT-RM2");
    const Footprint f = derive(part);
    ASSERT_EQ(f.voltages.size(), 24u);
    const VoltagePair& worst = f.voltages.front();
    // 230 V counts as 250; degree 3, group III: 4.00; reinforced: 8.00. Category III: 4000 V, the next: 6000 V, 5.5 mm.
    EXPECT_NEAR(worst.creepage->mm(), 8.0, 1e-9);
    EXPECT_NEAR(worst.clearance->mm(), 5.5, 1e-9);
    EXPECT_EQ(f.gauge("voltage")->state, GaugeState::NoGo);
    const VoltagePair* far = nullptr;
    for (const VoltagePair& v : f.voltages)
        if (v.a == "p8" && v.b == "p11") far = &v;
    ASSERT_NE(far, nullptr);
    EXPECT_NEAR(far->gap.mm(), std::hypot(10.16, 0.84) - (1.85 + 2.60) / 2, 0.015);
    const auto slot = slotFor(part, f, worst.a, worst.b);
    ASSERT_TRUE(slot) << slot.error().text();
    const Footprint after = derive(withCutOut(part, *slot));
    EXPECT_NE(after.gauge("voltage")->state, GaugeState::NoGo);
    // Every other way comes with its effect.
    const auto ways = waysOut(part, f, worst.a, worst.b);
    EXPECT_GE(ways.size(), 4u);
    EXPECT_TRUE(ways.front().mends);
}

TEST(DemoParts, TheSelectorsLugsStandInPlatedSlots) {
    const Footprint f = derive(demo("HT-SEL6"));
    int lugs = 0;
    for (const BareHole& h : f.bareHoles) {
        if (h.kind != SpotKind::Lug) continue;
        ++lugs;
        EXPECT_TRUE(h.plated);
        EXPECT_GT(h.slotLength, h.size);
        EXPECT_GT(holeSpare(h), Length());
        EXPECT_GT(h.land.width, h.slotLength);
    }
    EXPECT_EQ(lugs, 2);
    EXPECT_NE(f.gauge("ring")->state, GaugeState::NoGo);
    EXPECT_NE(f.gauge("drop-in")->state, GaugeState::Unknown);
}

TEST(DemoParts, TheSocketIsMirroredAndItsLocksFollow) {
    const Part part = demo("PW-VS11");
    const Footprint f = derive(part);
    ASSERT_EQ(f.pads.size(), 11u);
    EXPECT_GT(at(f, "1").x, at(f, "11").x) << "seen from below pin 1 is at the left, so here at the right";
    EXPECT_NEAR((at(f, "1") - at(f, "11")).x.mm(), 25.4, 1e-9);
    EXPECT_NEAR((at(f, "1") - at(f, "2")).x.mm(), 2.54, 1e-9);
    EXPECT_NEAR((at(f, "2") - at(f, "1")).y.mm(), 2.54, 0.02);
    EXPECT_NEAR((at(f, "lock 2") - at(f, "lock 1")).x.mm(), 35.60, 0.02) << "overall, letter A";
    EXPECT_NEAR(at(f, "lock 1").x.mm(), -17.80, 0.02) << "overall less the span, halved";
    // The short variant: the same part file, another column of the table.
    Part shorter = part;
    shorter.letters.variant = "8 way";
    shorter = *withShape(shorter, "f1", {FormationKind::Staggered, {4, 4}, {}, false, false, {}, {}});
    EXPECT_NEAR((at(derive(shorter), "lock 2") - at(derive(shorter), "lock 1")).x.mm(), 25.44, 0.02);
}

TEST(DemoParts, AWildValueAmongFormulasIsNamedAndMovesNothingElse) {
    const Part part = demo("PW-VS11");
    const Footprint good = derive(part);
    const Part wild = withReading(part, test::reading("lock12", "lock13", Contact::Outside, Axis::Along, {3.0}));
    const Footprint f = derive(wild);
    for (std::size_t i = 0; i < part.readings.size(); ++i)
        EXPECT_NE(f.readings[i].state, ReadingState::InDoubt) << i + 1;
    EXPECT_NE(f.readings.back().state, ReadingState::Agrees);
    for (std::size_t i = 0; i < good.pads.size(); ++i) {
        EXPECT_NEAR(f.pads[i].at.x.mm(), good.pads[i].at.x.mm(), 1e-6);
        EXPECT_NEAR(f.pads[i].at.y.mm(), good.pads[i].at.y.mm(), 1e-6);
    }
    EXPECT_NEAR(f.body->rect.height().mm(), 12.5, 1e-6);
}

TEST(DemoParts, TheRingFindsTheDrawingsWrongValue) {
    const Part part = demo("PW-RS7");
    const Footprint f = derive(part);
    ASSERT_EQ(f.pads.size(), 7u);
    EXPECT_NEAR(hypot(at(f, "1").x - at(f, "7").x, at(f, "1").y - at(f, "7").y).mm(), 4.5, 0.01);
    int doubtful = 0;
    for (std::size_t i = 0; i < part.readings.size(); ++i)
        if (f.readings[i].state == ReadingState::InDoubt) {
            ++doubtful;
            EXPECT_EQ(part.readings[i].drawing->typed, "14.20 ±0.05");
            EXPECT_NEAR(f.readings[i].expected, 14.60, 0.02);
        }
    EXPECT_EQ(doubtful, 1);
    EXPECT_EQ(f.gauge("readings")->state, GaugeState::Watch);
}

TEST(DemoParts, TheReadingInDoubtIsNamed) {
    const Part part = demo("QB-TB4 reading in doubt");
    const Footprint f = derive(part);
    EXPECT_EQ(f.readings[3].state, ReadingState::InDoubt);
    EXPECT_NEAR(f.readings[3].expected, 4.08, 0.02);
    EXPECT_EQ(f.gauge("readings")->about, std::vector<std::string>{part.readings[3].id});
}

}  // namespace
}  // namespace punch::demo_parts_test
