// Pieces of the body: held on what was measured, made as solids of the volumes that they have.

#include "core/body/pieces.h"
#include "core/base/angle.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/derive.h"
#include "core/part/edit.h"
#include "core/part/mark_kinds.h"
#include "core/solid/solid_worker.h"
#include "tests/support/parts.h"

namespace punch::pieces_test {
namespace {

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
    for (MarkedBody& b : markedBodies(part, f)) all.bodies.push_back(std::move(b.body));
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
    const auto made = [&] { return markedBodies(part, derive(part)).front().body; };
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

TEST(Pieces, ATurnedProfileHasItsVolume) {
    const auto profile = [&](const char* typed, const char* diameter) {
        return piece(
            {{"form", "circle"}, {"diameter", diameter}, {"shape", "turned profile"}, {"profile", typed}, {"low", "1"}},
            at("1", "2"));
    };
    // A cylinder of 3 x 2 and a cone of 3 to 1 over 1.5.
    EXPECT_NEAR(volume(profile("3 0, 3 2, 1 3.5", "6")), kPi * 18 + kPi * 1.5 / 3 * (9 + 3 + 1), 1e-5);
    const auto wrong = [](const Mark& m) { return derive(withMark(test::demoPart(), m)).laid.back().wrong; };
    EXPECT_EQ(wrong(profile("3 0, 3 2", "5")), "its widest place is not half of its diameter");
    EXPECT_EQ(wrong(profile("3 2, 3 0", "6")), "a profile runs upwards");
}

TEST(Pieces, TakeRoomAndWhatMovesTakesItsSweep) {
    const Footprint plain = derive(test::demoPart());
    const Rect body = plain.body->rect;
    // A lever beside the body: it turns by a quarter about the datum.
    Mark lever = piece({{"is", "moving part"}, {"motion", "turns"}, {"turn", "90"}, {"low", "20"}, {"high", "22"}});
    lever.name = "lever";
    lever.points = {{{kDatumFeature, HoldAt::Middle, "0"}, {kDatumFeature, HoldAt::Middle, "-0.5"}},
                    {{kDatumFeature, HoldAt::Middle, "30"}, {kDatumFeature, HoldAt::Middle, "0.5"}}};
    Part part = withMark(test::demoPart(), lever);
    Footprint f = derive(part);
    ASSERT_EQ(f.laid.back().wrong, "");
    const Shape& room = f.keepouts.back();
    EXPECT_TRUE(room.keeps.piece && room.keeps.travel);
    const double r = std::hypot(30, 0.5);
    EXPECT_NEAR(areaOf(room.area()), kPi * r * r / 4 + 30, 8);
    EXPECT_GE(f.courtyard.top.mm(), 30) << "the courtyard holds its sweep";
    ASSERT_NE(f.gauge("moving-parts"), nullptr);
    EXPECT_EQ(f.gauge("moving-parts")->state, GaugeState::Go) << f.gauge("moving-parts")->words;
    // As low as the body it meets it; as a piece that stands still it has no such gauge.
    part.marks.back().set["low"] = "1";
    f = derive(part);
    EXPECT_EQ(f.gauge("moving-parts")->words, "lever touches the body");
    EXPECT_EQ(f.gauge("moving-parts")->state, GaugeState::NoGo);
    part.marks.back().set["motion"] = "not at all";
    f = derive(part);
    EXPECT_EQ(f.gauge("moving-parts"), nullptr);
    EXPECT_NEAR(f.courtyard.right.mm(), std::max(body.right.mm(), 30.0) + f.courtyardExcess.mm(), 1e-3);
    // Two that meet each other.
    part.marks.back().set["motion"] = "turns";
    part.marks.back().set["low"] = "20";
    Mark post = piece({{"form", "circle"}, {"diameter", "3"}, {"high", "25"}}, at("20", "15"));
    post.name = "post";
    f = derive(withMark(part, post));
    EXPECT_EQ(f.gauge("moving-parts")->words, "lever meets post");
    post.set["high"] = "19";
    EXPECT_EQ(derive(withMark(part, post)).gauge("moving-parts")->state, GaugeState::Go) << "it passes over it";
}

TEST(Pieces, ALeverAboutALevelAxisReachesAsFarAsItsCorners) {
    // 10 long from the axis to the rear, 1 thick; up by 90 degrees about x: its length becomes its height.
    Mark lever = piece({{"is", "moving part"},
                        {"motion", "turns"},
                        {"axisLies", "left to right"},
                        {"turn", "90"},
                        {"low", "5"},
                        {"high", "6"},
                        {"axisHigh", "5"}});
    lever.points = {{{kDatumFeature, HoldAt::Middle, "-1"}, {kDatumFeature, HoldAt::Middle, "0"}},
                    {{kDatumFeature, HoldAt::Middle, "1"}, {kDatumFeature, HoldAt::Middle, "10"}}};
    const Part part = withMark(test::demoPart(), lever);
    const Footprint f = derive(part);
    ASSERT_EQ(f.laid.back().wrong, "");
    // To the rear as far as it lies, to the front by its thickness.
    EXPECT_NEAR(f.keepouts.back().box().top.mm(), 10, 1e-3);
    EXPECT_NEAR(f.keepouts.back().box().bottom.mm(), -1, 1e-3);
    // Downwards its far upper corner passes farther out than it lies.
    Part down = part;
    down.marks.back().set["turn"] = "-90";
    EXPECT_NEAR(derive(down).keepouts.back().box().top.mm(), std::hypot(10, 1), 1e-3);
    EXPECT_NEAR(derive(down).keepouts.back().box().bottom.mm(), 0, 1e-3);
    const auto all = markedBodies(part, f);
    ASSERT_TRUE(all.back().motion);
    const Vec3 end = all.back().motion->pose(90)({0, 10, 5});
    EXPECT_NEAR(end.y, 0, 1e-9);
    EXPECT_NEAR(end.z, 15, 1e-9);
    // One that slides or rises.
    Mark plunger = piece({{"is", "moving part"}, {"motion", "rises"}, {"by", "3"}});
    EXPECT_NEAR(markedBodies(withMark(test::demoPart(), plunger), derive(withMark(test::demoPart(), plunger)))
                    .back()
                    .motion->pose(3)({})
                    .z,
                3, 1e-9);
    plunger.set["by"] = "0";
    EXPECT_EQ(derive(withMark(test::demoPart(), plunger)).laid.back().wrong, "it moves by nothing");
}

TEST(Pieces, AFieldMeansSomethingOnlyWhereWhatItHangsOnDoes) {
    Mark m = newMark(MarkKind::Piece);
    const auto asked = [&] { return applies(m, *markField(MarkKind::Piece, "by")); };
    // Left over from when it moved: of a body it says nothing.
    m.set["motion"] = "slides";
    EXPECT_FALSE(asked());
    m.set["is"] = "moving part";
    EXPECT_TRUE(asked());
    m.set["motion"] = "rises";
    EXPECT_TRUE(asked());
    m.set["motion"] = "turns";
    EXPECT_FALSE(asked());
    EXPECT_TRUE(applies(m, *markField(MarkKind::Piece, "axisLies")));
    m.set["is"] = "body";
    EXPECT_FALSE(applies(m, *markField(MarkKind::Piece, "axisLies")));
}

TEST(Pieces, DetailsBelowAChosenSizeAreLeftOut) {
    // A square of 10 with a notch of 0.3 in its rear edge.
    Mark plate = piece({{"form", "polygon"}, {"high", "1"}});
    plate.points.clear();
    for (const auto& [x, y] :
         {std::pair("0", "0"), std::pair("10", "0"), std::pair("10", "10"), std::pair("6", "10"), std::pair("6", "9.7"),
          std::pair("5", "9.7"), std::pair("5", "10"), std::pair("0", "10")})
        plate.points.push_back({{kDatumFeature, HoldAt::Middle, x}, {kDatumFeature, HoldAt::Middle, y}});
    EXPECT_NEAR(volume(plate), 100 - 0.3, 1e-5);
    plate.set["detail"] = "0.2";
    EXPECT_NEAR(volume(plate), 100 - 0.3, 1e-5);
    plate.set["detail"] = "0.4";
    EXPECT_NEAR(volume(plate), 100, 1e-5);
    plate.set["detail"] = "50";
    EXPECT_EQ(derive(withMark(test::demoPart(), plate)).laid.back().wrong, "nothing of it is left without its details");
}

TEST(Pieces, WhatIsNoneIsNamed) {
    const auto wrong = [](const Mark& m) { return derive(withMark(test::demoPart(), m)).laid.back().wrong; };
    EXPECT_EQ(wrong(piece({{"low", "3"}, {"high", "2"}})), "its upper end lies below its lower end");
    EXPECT_EQ(wrong(piece({{"shape", "cone"}})), "a cone stands on a circle");
    EXPECT_EQ(wrong(piece({{"form", "circle"}, {"hole", "2"}}, at("0", "0"))), "its hole is as wide as it");
    EXPECT_TRUE(markedBodies(withMark(test::demoPart(), piece({{"low", "9"}})),
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
}  // namespace punch::pieces_test
