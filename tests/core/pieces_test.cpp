// Pieces of the body: held on what was measured, made as solids of the volumes that they have.

#include "core/body/pieces.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "core/derive.h"
#include "core/part/edit.h"
#include "core/part/mark_kinds.h"
#include "core/solid/solid_worker.h"
#include "tests/support/parts.h"

namespace punch {
namespace {

constexpr double kPi = std::numbers::pi;

Mark piece(std::map<std::string, std::string> set, std::vector<Anchored> points = {}) {
    Mark m = newMark(MarkKind::Piece);
    m.set = std::move(set);
    if (!points.empty()) m.points = std::move(points);
    return m;
}

std::vector<Anchored> at(const char* x, const char* y) {
    return {{{kDatumFeature, HoldAt::Middle, x}, {kDatumFeature, HoldAt::Middle, y}}};
}

/// The volume of what one mark makes.
double volume(const Mark& m) {
    const Part part = withMark(test::demoPart(), m);
    const Footprint f = derive(part);
    EXPECT_EQ(f.laid.back().wrong, "");
    SolidsToMake all;
    all.bodies = markedPieces(part, f);
    EXPECT_EQ(all.bodies.size(), 1U);
    SolidWorker worker;
    const auto solid = worker.make(all);
    EXPECT_TRUE(solid) << solid.error().text();
    return solid && !solid->bodies.empty() ? solid->bodies.front().volume : -1;
}

TEST(Pieces, HaveTheVolumesOfTheirForms) {
    const auto circle = at("1", "2");
    const auto of = [&](std::map<std::string, std::string> set) {
        set["form"] = "circle";
        return volume(piece(std::move(set), circle));
    };
    EXPECT_NEAR(of({{"diameter", "6"}, {"low", "1"}, {"high", "5"}}), kPi * 9 * 4, 1e-5);
    EXPECT_NEAR(of({{"diameter", "6"}, {"high", "5"}, {"shape", "cone"}, {"top", "2"}}), kPi * 5 / 3 * (9 + 3 + 1),
                1e-5);
    EXPECT_NEAR(of({{"diameter", "6"}, {"high", "4"}, {"shape", "cone"}, {"top", "0"}}), kPi * 9 * 4 / 3, 1e-5);
    EXPECT_NEAR(of({{"diameter", "6"}, {"shape", "ball"}}), kPi * 36, 1e-5);
    // A cap: pi h (3 r^2 + h^2) / 6; half a ball; half a ball on a cylinder.
    EXPECT_NEAR(of({{"diameter", "6"}, {"high", "1"}, {"shape", "dome"}}), kPi * (27 + 1) / 6, 1e-5);
    EXPECT_NEAR(of({{"diameter", "6"}, {"high", "3"}, {"shape", "dome"}}), kPi * 18, 1e-5);
    EXPECT_NEAR(of({{"diameter", "6"}, {"high", "5"}, {"shape", "dome"}}), kPi * 18 + kPi * 18, 1e-5);
    EXPECT_NEAR(of({{"diameter", "6"}, {"high", "5"}, {"hole", "2"}}), kPi * 8 * 5, 1e-5);
    // Around the body, larger by half a millimetre.
    const Footprint f = derive(test::demoPart());
    const Rect r = f.body->rect.grown(Length::fromMm(0.5));
    EXPECT_NEAR(volume(piece({{"form", "around the body"}, {"grow", "0.5"}, {"high", "2"}})),
                r.width().mm() * r.height().mm() * 2, 1e-4);
}

TEST(Pieces, FollowTheReadingsAndTheStandoff) {
    Part part = withMark(test::demoPart(), piece({{"form", "circle"}, {"diameter", "4"}, {"high", "body.height"}},
                                                 {{{"p2"}, {kRearFace}}}));
    const auto made = [&] { return markedPieces(part, derive(part)).front(); };
    const MadeBody before = made();
    const Footprint f = derive(part);
    EXPECT_NEAR(std::get<Prism>(before.form).high, f.body->height.mm(), 1e-9);
    const double x = f.pad("p2")->at.x.mm();
    EXPECT_NEAR(std::get<Prism>(before.form).outline.outer.front().x, x - 2, 1e-9);
    part.body.standoff = Length::fromMm(0.7);
    EXPECT_NEAR(std::get<Prism>(made().form).low, 0.7, 1e-9);
    part.datum.kind = DatumKind::PinOne;
    EXPECT_NEAR(std::get<Prism>(made().form).outline.outer.front().x, derive(part).pad("p2")->at.x.mm() - 2, 1e-9);
}

TEST(Pieces, WhatIsNoneIsNamed) {
    const auto wrong = [](const Mark& m) { return derive(withMark(test::demoPart(), m)).laid.back().wrong; };
    EXPECT_EQ(wrong(piece({{"low", "3"}, {"high", "2"}})), "its upper end lies below its lower end");
    EXPECT_EQ(wrong(piece({{"shape", "cone"}})), "a cone stands on a circle");
    EXPECT_EQ(wrong(piece({{"form", "circle"}, {"hole", "2"}}, at("0", "0"))), "its hole is as wide as it");
    EXPECT_TRUE(markedPieces(withMark(test::demoPart(), piece({{"low", "9"}})),
                             derive(withMark(test::demoPart(), piece({{"low", "9"}}))))
                    .empty());
}

TEST(Pieces, TheBlockAndTheLeadsAreAsMeasured) {
    const Part part = test::demoPart();
    const Footprint f = derive(part);
    const auto block = measuredBlock(part, f);
    ASSERT_EQ(block.size(), 1U);
    EXPECT_NEAR(std::get<Prism>(block.front().form).high, f.body->height.mm(), 1e-9);
    EXPECT_EQ(measuredLeads(part, f).size(), f.pads.size());
    Part loose = part;
    loose.readings.clear();
    EXPECT_TRUE(measuredBlock(loose, derive(loose)).empty());
    EXPECT_TRUE(measuredLeads(loose, derive(loose)).empty());
}

}  // namespace
}  // namespace punch
