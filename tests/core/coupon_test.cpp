// The fit coupon: graded copies, its files, and what a part takes from it.

#include "core/board/coupon.h"

#include <gtest/gtest.h>

#include "core/approval/approval.h"
#include "core/board/board_check.h"
#include "tests/support/gerber_reader.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::coupon_test {
namespace {

const std::string kDemo = test::sourceFolder() + "/demo/fennel-house/";
Length mm(double v) { return Length::fromMm(v); }

TEST(Coupon, CopiesAreAStepApartAndRingsStay) {
    const Part part = test::demoPart();
    const Footprint f = derive(part);
    const auto coupon = fitCoupon(part, f, {}, "2026-11-30");
    ASSERT_TRUE(coupon) << coupon.error().text();
    ASSERT_EQ(coupon->record.copies.size(), 5U);
    EXPECT_EQ(coupon->record.digest, digestOf(part));
    for (std::size_t i = 0; i < 5; ++i) {
        const CouponCopy& copy = coupon->record.copies[i];
        const Length by = mm(0.05 * (static_cast<int>(i) - 2));
        EXPECT_EQ(copy.label, std::string(1, static_cast<char>('A' + i)));
        EXPECT_NEAR(copy.by.mm(), by.mm(), 1e-9);
        for (const Pad& own : f.pads) {
            const Pad* there = coupon->board.all.pad(copy.label + ":" + own.id);
            ASSERT_NE(there, nullptr);
            EXPECT_NEAR(there->hole.mm(), (own.hole + by).mm(), 1e-9);
            EXPECT_NEAR((there->top.width - there->hole).mm(), (own.top.width - own.hole).mm(), 1e-9) << "its ring";
        }
        for (const BareHole& own : f.bareHoles)
            EXPECT_NEAR(coupon->board.all.bareHole(copy.label + ":" + own.id)->size.mm(), (own.size + by).mm(), 1e-9);
    }
    // Nothing lies on anything else, or out of the board.
    const BoardJudgement j = judged(coupon->board);
    for (const BoardCheck check :
         {BoardCheck::Courtyards, BoardCheck::Holes, BoardCheck::Copper, BoardCheck::Fiducials})
        EXPECT_LE(badness(j.of(check)), badness(GaugeState::Watch)) << static_cast<int>(check);
    Rect all;
    for (const Conductor& c : coupon->board.all.board().copper()) all.add(boundsOf(copperShape(c.top)));
    EXPECT_GT(all.left, Length());
    EXPECT_LT(all.right, coupon->board.board.outline.width);
    // Rings of single pads go up by the step that is printed beside them.
    std::vector<double> rings;
    for (const Conductor& c : coupon->board.all.attached.lands)
        if (c.id.starts_with(":r")) rings.push_back((c.top.width - c.hole).mm() / 2);
    ASSERT_GT(rings.size(), 5U);
    for (std::size_t i = 1; i < rings.size(); ++i) EXPECT_NEAR(rings[i] - rings[i - 1], 0.05, 1e-9);
}

TEST(Coupon, IsMadeOfEveryKindOfDemoPart) {
    for (const char* name : {"HT-RM2", "PW-VS11", "HT-SEL6", "PW-RS7", "QB-LX4"}) {
        const Part part = *loadPart(kDemo + name + ".punch");
        const auto coupon = fitCoupon(part, derive(part), {}, "");
        ASSERT_TRUE(coupon) << name << ": " << coupon.error().text();
        const auto files = couponFiles(*coupon);
        ASSERT_TRUE(files) << name << ": " << files.error().text();
        for (const NamedContent& f : *files) {
            if (!f.name.ends_with(".gbr")) continue;
            const test::GerberImage image(f.content);
            EXPECT_TRUE(image.errors.empty()) << f.name << ": " << image.errors.front();
        }
        const BoardJudgement j = judged(coupon->board);
        EXPECT_LE(badness(j.of(BoardCheck::Courtyards)), badness(GaugeState::Watch)) << name;
    }
}

TEST(Coupon, WhatFittedIsTakenWithItsReason) {
    const Part part = test::demoPart();
    const Footprint f = derive(part);
    const auto coupon = fitCoupon(part, f, {}, "2026-11-20");
    // From the file, as it comes back.
    const auto record = couponFromText(couponText(coupon->record), "coupon");
    ASSERT_TRUE(record) << record.error().text();
    EXPECT_EQ(*record, coupon->record);
    // Meanwhile the part was changed; the copy's own sizes are what fitted.
    Part meanwhile = part;
    meanwhile.rules.pegClearance += mm(0.2);
    const auto taken = withCouponFit(meanwhile, *record, "D", "B", "2026-11-30");
    ASSERT_TRUE(taken) << taken.error().text();
    const Footprint g = derive(*taken);
    for (std::size_t i = 0; i < f.pads.size(); ++i) EXPECT_NEAR(g.pads[i].hole.mm(), f.pads[i].hole.mm() + 0.05, 1e-9);
    EXPECT_NEAR(g.bareHoles[0].size.mm(), f.bareHoles[0].size.mm() - 0.05, 1e-9);
    EXPECT_EQ(taken->sources.back().state, SourceState::Proven);
    EXPECT_NE(taken->overrides.at(part.formations[0].id).reason.find("copy D (+0.05) fitted"), std::string::npos);
    EXPECT_NE(taken->history.back().words.find("pegs of copy B"), std::string::npos);
    EXPECT_NE(taken->history.back().words.find("changed since"), std::string::npos);
    EXPECT_EQ(withCouponFit(part, *record, "D", "", "2026-11-30")->history.back().words.find("changed since"), std::string::npos);
    // Only the pegs.
    const auto pegs = withCouponFit(part, *record, "", "E", "2026-11-30");
    ASSERT_TRUE(pegs);
    EXPECT_EQ(derive(*pegs).pads[0].hole, f.pads[0].hole);
    EXPECT_FALSE(withCouponFit(part, *record, "", "", "2026-11-30")) << "none is chosen";
    EXPECT_FALSE(withCouponFit(part, *record, "Z", "", "2026-11-30")) << "no such copy";
    Part other = part;
    other.name = "HT-TB4";
    EXPECT_FALSE(withCouponFit(other, *record, "C", "", "2026-11-30")) << "of another part";
}

TEST(Coupon, WhatCannotBeGradedIsRefused) {
    const Part part = test::demoPart();
    const Footprint f = derive(part);
    CouponOptions o;
    o.step = mm(0.001);
    EXPECT_FALSE(fitCoupon(part, f, o, ""));
    o = {};
    o.wider = 40;
    EXPECT_FALSE(fitCoupon(part, f, o, ""));
    o = {};
    o.step = mm(0.5);
    o.narrower = 4;
    EXPECT_FALSE(fitCoupon(part, f, o, "")) << "1.5 mm less 2";
    EXPECT_FALSE(fitCoupon(test::bareRow(3), derive(test::bareRow(3)), {}, "")) << "loose";
    const Part none = *loadPart(kDemo + "FH-FID.punch");
    EXPECT_FALSE(fitCoupon(none, derive(none), {}, "")) << "no holes";
    for (const char* wrong : {"", "{}", "{\"punchbitCoupon\": 1, \"copies\": [{\"holes\": [{\"of\": \"p1\"}]}]}"})
        EXPECT_FALSE(couponFromText(wrong, "coupon")) << wrong;
}

TEST(Coupon, OnTheCommandLine) {
    const std::string file = ::testing::TempDir() + "/coupon.punch", out = ::testing::TempDir() + "/coupon";
    std::filesystem::remove_all(out);
    ASSERT_TRUE(savePart(test::demoPart(), file));
    const auto made = test::punchRun("coupon " + file + " --to " + out + " --narrower 1 --wider 3");
    EXPECT_EQ(made.code, 0) << made.out;
    EXPECT_NE(made.out.find("5 copies"), std::string::npos) << made.out;
    const auto taken = test::punchRun("coupon " + file + " --from " + out +
                                      "/QB-TB4_fit_coupon.coupon --holes C --pegs C --date 2026-11-30");
    EXPECT_EQ(taken.code, 0) << taken.out;
    EXPECT_EQ(loadPart(file)->history.back().board, "fit coupon");
    EXPECT_EQ(test::punchRun("coupon " + file).code, 2);
    EXPECT_EQ(test::punchRun("coupon " + file + " --from " + file + " --holes C").code, 2) << "no coupon";
}

}  // namespace
}  // namespace punch::coupon_test
