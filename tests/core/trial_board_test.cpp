// Footprints on a trial board: laid, judged, written, read back.

#include "core/board/trial_board.h"

#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>
#include <set>

#include "core/approval/approval.h"
#include "core/artwork/moved_footprint.h"
#include "core/board/board_check.h"
#include "core/board/board_files.h"
#include "core/board/board_picture.h"
#include "core/foreign/foreign_pads.h"
#include "core/release/zero_orientation.h"
#include "tests/support/dice.h"
#include "tests/support/gerber_reader.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::trial_board_test {
namespace {

const std::string kDemo = test::sourceFolder() + "/demo/fennel-house/";
Length mm(double v) { return Length::fromMm(v); }

TrialBoard boardOf(std::initializer_list<std::pair<const char*, Placing>> parts) {
    TrialBoard b;
    b.name = "vents";
    b.outline.width = mm(120);
    b.outline.height = mm(80);
    for (const auto& [file, placing] : parts) {
        b = withPart(b, file, "X", placing.at);
        b.placings.back().turn = placing.turn;
        b.placings.back().bottom = placing.bottom;
    }
    return b;
}
Placing at(double x, double y, double turn = 0, bool bottom = false) {
    return {"", "", "", {mm(x), mm(y)}, Angle::fromDegrees(turn), bottom};
}
LaidBoard laid(const TrialBoard& b) { return laidBoard(b, boardParts(b, kDemo)); }

const BoardFinding* findingOf(const BoardJudgement& j, BoardCheck check) {
    return findIn(j.findings, [&](const BoardFinding& f) { return f.check == check; });
}
std::string wordsOf(const BoardFinding* f) { return f == nullptr ? "" : fill(f->words, f->of, Unit::Mm, 3); }

TEST(Frame, QuarterTurnsAreExactAndTheFarSideIsMirrored) {
    const Frame turned{{mm(10), mm(20)}, Angle::fromDegrees(90), false};
    EXPECT_EQ(turned({mm(1), mm(2)}), (Point{mm(8), mm(21)}));
    const Frame below{{mm(10), mm(20)}, Angle::fromDegrees(90), true};
    // Mirrored left to right, then turned: (1, 2) -> (-1, 2) -> (-2, -1).
    EXPECT_EQ(below({mm(1), mm(2)}), (Point{mm(8), mm(19)}));
}

TEST(Frame, KeepsDistancesAndTheOrderOfCorners) {
    test::Dice dice(7);
    for (int i = 0; i < 200; ++i) {
        const Frame f{{mm(dice.between(-50, 50)), mm(dice.between(-50, 50))},
                      Angle::fromDegrees(dice.between(0, 360)),
                      i % 2 == 0};
        const Point a{mm(dice.between(-9, 9)), mm(dice.between(-9, 9))},
            b{mm(dice.between(-9, 9)), mm(dice.between(-9, 9))};
        EXPECT_NEAR(distance(f(a), f(b)).mm(), distance(a, b).mm(), 1e-6);
        const RoundedPolygon square = RoundedPolygon::rectangle({mm(-1), mm(2), mm(-1), mm(1), false});
        const RoundedPolygon there = moved(square, f);
        EXPECT_GT(areaOf(ringOf(there.corners)), 0) << "counter-clockwise on either side";
        // A land and its shape go the same way.
        Land land{LandShape::Oval, a, mm(2), mm(1), {}, Angle::fromDegrees(dice.between(0, 180))};
        EXPECT_NEAR(gap(copperShape(moved(land, f)), moved(copperShape(land), f)).mm(), -1.0, 1e-6);
    }
}

TEST(Frame, ThereAndBackIsTheSameFootprint) {
    const Part part = *loadPart(kDemo + "HT-SEL6.punch");
    const Footprint f = derive(part);
    const Frame there{{mm(12.5), mm(-3)}, Angle::fromDegrees(90), true};
    // Mirrored and turned by a quarter, then again: a mirror is its own way back, at the place that undoes the shift.
    const Footprint once = moved(f, there, mm(1.6));
    const Point back = there.along({mm(12.5), mm(-3)});
    const Footprint twice = moved(once, {{-back.x, -back.y}, Angle::fromDegrees(90), true}, mm(1.6));
    ASSERT_EQ(twice.pads.size(), f.pads.size());
    for (std::size_t i = 0; i < f.pads.size(); ++i) {
        EXPECT_LT(distance(twice.pads[i].at, f.pads[i].at).nm(), 1e-3);
        EXPECT_EQ(twice.pads[i].layers, f.pads[i].layers);
        EXPECT_EQ(twice.pads[i].top.width, f.pads[i].top.width);
    }
    for (std::size_t i = 0; i < f.bareHoles.size(); ++i)
        EXPECT_LT(distance(twice.bareHoles[i].at, f.bareHoles[i].at).nm(), 1e-3);
    EXPECT_NEAR(areaOf(twice.courtyardTop), areaOf(f.courtyardTop), 1e-9);
}

TEST(TrialBoard, IsReadAsItWasWritten) {
    TrialBoard b = boardOf({{"QB-TB4.punch", at(30, 8)}, {"HT-RM2.punch", at(60.25, 45, 90, true)}});
    b.holes.push_back({"h9", {mm(5), mm(5)}});
    b.nextId = 10;
    b.fiducials = {{mm(9), mm(9)}};
    b.texts.push_back({"vent 230 V", {mm(60), mm(70)}, mm(2), true});
    const std::string text = boardText(b);
    const auto again = boardFromText(text, "board");
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, b);
    // What a later version writes stays.
    std::string later = text;
    later.insert(later.find("\"name\""), "\"panel\": {\"across\": 2}, ");
    const auto kept = boardFromText(later, "board");
    ASSERT_TRUE(kept);
    EXPECT_NE(boardText(*kept).find("\"panel\""), std::string::npos);
    for (const char* wrong : {"{}", "[]", "{\"punchbitBoard\": 9}", "{\"punchbitBoard\": 1, \"parts\": [{\"at\": 3}]}",
                              "{\"punchbitBoard\": 1, \"outline\": {\"width\": 0}}", "nonsense"})
        EXPECT_FALSE(boardFromText(wrong, "board")) << wrong;
}

TEST(TrialBoard, EveryHoleOfAPartStandsWhereItsFrameSays) {
    const TrialBoard b = boardOf({{"HT-RM2.punch", at(40, 40, 30)}, {"PW-VS11.punch", at(85, 40, 270, true)}});
    const LaidBoard l = laid(b);
    std::size_t count = 0;
    for (const LaidPart& p : l.parts) {
        ASSERT_TRUE(p.there()) << p.of.trouble;
        for (const Pad& own : p.of.footprint.pads) {
            const Pad* there = l.all.pad(onBoardId(p.placing, own.id));
            ASSERT_NE(there, nullptr);
            EXPECT_LT(distance(there->at, p.placing.frame()(own.at)).nm(), 1);
            EXPECT_EQ(there->hole, own.hole);
            ++count;
        }
    }
    EXPECT_EQ(l.all.pads.size(), count);
    const auto drill = boardFiles(l);
    ASSERT_TRUE(drill) << drill.error().text();
}

TEST(TrialBoard, CourtyardsThatOverlapAreNoGoAndThoseThatTouchAreNot) {
    TrialBoard b = boardOf({{"PW-SI4.punch", at(40, 40)}, {"PW-SI4.punch", at(40, 40)}});
    for (Placing& p : b.placings) p.file = "stock/PW-SI4.punch";
    const Rect own = boardParts(b, kDemo)[0].footprint.courtyard;
    b.placings[1].at.x = b.placings[0].at.x + own.width();
    EXPECT_EQ(judged(laid(b)).of(BoardCheck::Courtyards), GaugeState::Go);
    b.placings[1].at.x -= mm(0.3);
    const BoardJudgement j = judged(laid(b));
    const BoardFinding* f = findingOf(j, BoardCheck::Courtyards);
    ASSERT_EQ(f->state, GaugeState::NoGo);
    ASSERT_EQ(f->of.size(), 2U);
    EXPECT_NEAR(f->of[0].mm(), 0.3, 0.01) << wordsOf(f);
    // On the other side they do not meet, unless both reach through.
    b.placings[1].bottom = true;
    b.placings[1].at.x += mm(30);
    EXPECT_EQ(judged(laid(b)).of(BoardCheck::Courtyards), GaugeState::Go);
}

TEST(TrialBoard, HolesCopperAndEdgesAreMeasuredExactly) {
    TrialBoard b = boardOf({{"QB-TB4.punch", at(40, 40)}, {"QB-TB4.punch", at(40, 60)}});
    const Footprint f = derive(*loadPart(kDemo + "QB-TB4.punch"));
    const BoardJudgement j = judged(laid(b));
    // By hand: between the rows 20 mm, less what reaches towards each other: the upper part's peg hole, which lies in
    // front of its row, and the lower part's pins.
    Length least = mm(1e3);
    for (const BareHole& h : f.bareHoles)
        for (const Pad& p : f.pads)
            least = min(least, distance({h.at.x, h.at.y + mm(20)}, p.at) - h.sizeLargest / 2 - p.holeLargest / 2);
    for (const Pad& a : f.pads)
        for (const Pad& p : f.pads)
            least = min(least, distance({a.at.x, a.at.y + mm(20)}, p.at) - a.holeLargest / 2 - p.holeLargest / 2);
    const BoardFinding* holes = findingOf(j, BoardCheck::Holes);
    ASSERT_EQ(holes->of.size(), 2U) << wordsOf(holes);
    EXPECT_NEAR(holes->of[0].mm(), least.mm(), 1e-6);
    // Near an edge.
    b.placings[0].at = {mm(40), mm(3)};
    const BoardJudgement near = judged(laid(b));
    const auto* edge = findIn(near.findings, [](const BoardFinding& o) {
        return o.check == BoardCheck::Edge && o.words.find("hole to the edge") != std::string::npos;
    });
    // Its peg's hole, by hand: as far below the pins as it lies, less its radius.
    ASSERT_NE(edge, nullptr);
    EXPECT_NEAR(edge->of[0].mm(), std::abs((f.bareHoles[0].at.y + mm(3) - f.bareHoles[0].sizeLargest / 2).mm()), 1e-6)
        << wordsOf(edge);
    // A wall that is thinner than asked, and is there, is no-go as well: the peg's hole 0.1 inside the edge.
    b.placings[0].at = {mm(40), f.bareHoles[0].sizeLargest / 2 - f.bareHoles[0].at.y + mm(0.1)};
    const BoardJudgement thin = judged(laid(b));
    const auto* wall = findIn(thin.findings, [](const BoardFinding& o) {
        return o.check == BoardCheck::Edge && o.words.find("hole to the edge") != std::string::npos;
    });
    ASSERT_NE(wall, nullptr);
    EXPECT_EQ(wall->state, GaugeState::NoGo) << wordsOf(wall);
    EXPECT_NEAR(wall->of[0].mm(), 0.1, 1e-6);
    b.placings[0].at = {mm(40), mm(-1)};
    const BoardJudgement out = judged(laid(b));
    EXPECT_EQ(out.of(BoardCheck::Edge), GaugeState::NoGo) << "it lies outside";
}

TEST(TrialBoard, VoltageBetweenPartsIsJudgedByTheStricterRules) {
    TrialBoard b = boardOf({{"QB-TB4.punch", at(40, 40)}, {"HT-RM2.punch", at(70, 40)}});
    auto parts = boardParts(b, kDemo);
    const BoardJudgement far = judged(laidBoard(b, parts));
    EXPECT_EQ(far.of(BoardCheck::Voltage), GaugeState::Go);
    // As near as it gets: what is asked does not change, what is there does.
    b.placings[1].at = {mm(52), mm(40)};
    const BoardJudgement near = judged(laidBoard(b, parts));
    const BoardFinding *a = findingOf(far, BoardCheck::Voltage), *c = findingOf(near, BoardCheck::Voltage);
    ASSERT_EQ(a->of.size(), 2U);
    EXPECT_LT(c->of[0], a->of[0]) << wordsOf(c);
    // The same net under another part's name is none that has to keep apart.
    TrialBoard same = boardOf({{"QB-TB4.punch", at(40, 40)}, {"QB-TB4.punch", at(40, 60)}});
    const LaidBoard twice = laid(same);
    EXPECT_EQ(twice.whole.potentials.size(), twice.parts[0].of.part.potentials.size());
    // Another name is another net, although it carries as much.
    auto renamed = boardParts(same, kDemo);
    renamed[1].part.potentials[0].name += " of the other feeder";
    EXPECT_EQ(laidBoard(same, renamed).whole.potentials.size(), twice.whole.potentials.size() + 1);
    // Who names nothing is not taken for harmless.
    TrialBoard silent = boardOf({{"QB-TB4.punch", at(40, 40)}, {"PW-RS7.punch", at(80, 40)}});
    EXPECT_EQ(judged(laid(silent)).of(BoardCheck::Voltage), GaugeState::Watch);
}

TEST(TrialBoard, KeepoutsAndTravelOfOnePartAgainstAnother) {
    TrialBoard b = boardOf({{"QB-TB4.punch", at(40, 40)}, {"HT-RM2.punch", at(90, 40)}});
    EXPECT_EQ(judged(laid(b)).of(BoardCheck::Keepouts), GaugeState::Go);
    // The plug's travel lies in front of the terminal.
    const LaidBoard l = laid(b);
    const auto* travel =
        findIn(l.parts[0].lies.keepouts, [](const Shape& s) { return s.keeps.parts || s.keeps.travel; });
    ASSERT_NE(travel, nullptr);
    const Point middle = boundsOf(travel->area()).middle();
    b.placings[1].at = middle;
    const BoardJudgement j = judged(laid(b));
    EXPECT_EQ(j.of(BoardCheck::Keepouts), GaugeState::NoGo);
    EXPECT_NE(wordsOf(findingOf(j, BoardCheck::Keepouts)).find("X1, "), std::string::npos);
    // One line for a keepout and what stands in it, at its highest.
    std::set<std::string> lines;
    for (const BoardFinding& f : j.findings)
        if (f.check == BoardCheck::Keepouts) {
            const std::string words = wordsOf(&f);
            EXPECT_TRUE(lines.insert(words.substr(0, words.find(" stands"))).second) << words;
        }
    // Under a screw's head stands nothing.
    b.placings[1].at = {mm(90), mm(40)};
    b.holes.push_back({"h1", {mm(92), mm(42)}});
    EXPECT_EQ(judged(laid(b)).of(BoardCheck::Keepouts), GaugeState::NoGo);
}

TEST(TrialBoard, WhatCannotBeReadIsUnknownAndNothingIsWritten) {
    TrialBoard b = boardOf({{"QB-TB4.punch", at(40, 40)}, {"gone.punch", at(80, 40)}});
    const LaidBoard l = laid(b);
    EXPECT_GE(badness(judged(l).of(BoardCheck::Parts)), badness(GaugeState::Unknown));
    EXPECT_FALSE(boardFiles(l));
    TrialBoard twice = boardOf({{"QB-TB4.punch", at(40, 40)}, {"QB-TB4.punch", at(40, 70)}});
    twice.placings[1].designator = "X1";
    EXPECT_EQ(judged(laid(twice)).of(BoardCheck::Parts), GaugeState::NoGo) << "a designator that is there twice";
    // 2 m long.
    TrialBoard large;
    large.outline.width = mm(2000);
    EXPECT_EQ(judged(laid(large)).of(BoardCheck::Outline), GaugeState::NoGo);
    EXPECT_EQ(judged(laid(TrialBoard{})).of(BoardCheck::Parts), GaugeState::Unknown) << "nothing on it";
    EXPECT_FALSE(boardFiles(laid(TrialBoard{})));
}

TEST(TrialBoard, FiducialsStandFreeAndAreNotSymmetrical) {
    TrialBoard b = boardOf({{"QB-TB4.punch", at(14, 12)}, {"HT-RM2.punch", at(100, 20, 90)}});
    b.holes.push_back({"h1", {mm(6), mm(74)}});
    const auto offered = offeredFiducials(laid(b));
    ASSERT_TRUE(offered) << offered.error().text();
    ASSERT_EQ(offered->size(), 3U);
    b.fiducials = *offered;
    const BoardJudgement j = judged(laid(b));
    EXPECT_EQ(j.of(BoardCheck::Fiducials), GaugeState::Go) << wordsOf(findingOf(j, BoardCheck::Fiducials));
    const Length sides[] = {distance((*offered)[0], (*offered)[1]), distance((*offered)[1], (*offered)[2]),
                            distance((*offered)[2], (*offered)[0])};
    EXPECT_GT(abs(sides[0] - sides[1]).mm(), 1);
    TrialBoard small;
    small.outline.width = small.outline.height = mm(11);
    EXPECT_FALSE(offeredFiducials(laid(small)));
}

TEST(TrialBoard, FilesSayHowFarEachPartHasCome) {
    namespace fs = std::filesystem;
    const fs::path folder = fs::path(::testing::TempDir()) / "standing";
    fs::create_directories(folder);
    Part part = *loadPart(kDemo + "QB-TB4.punch");
    const Footprint f = derive(part);
    for (const Blocking& b : standingOf(part, f).blocking) part = *withPass(part, f, b.gauge, "seen", "I. Fennel", "");
    part = *releasedPart(*checkedPart(part, "I. Fennel", ""), f, "I. Fennel", "", "");
    ASSERT_TRUE(savePart(part, folder / "a.punch"));
    part.rules.pegClearance += mm(0.01);
    ASSERT_TRUE(savePart(part, folder / "b.punch"));
    TrialBoard b = boardOf({{"a.punch", at(30, 40)}, {"b.punch", at(80, 40)}});
    const auto files = fabFiles(laidBoard(b, boardParts(b, folder)));
    ASSERT_TRUE(files) << files.error().text();
    EXPECT_NE(files->front().content.find("X1: QB-TB4_ released_ version 1"), std::string::npos);
    EXPECT_NE(files->front().content.find("X2: QB-TB4_ draft_ changed since version 1"), std::string::npos);
}

TEST(TrialBoard, TablesHoldWhatIsPlacedAndWhatIsBought) {
    const TrialBoard b =
        boardOf({{"QB-TB4.punch", at(30, 40)}, {"QB-TB4.punch", at(30, 60, 180)}, {"FH-FID.punch", at(70, 40)}});
    const LaidBoard l = laid(b);
    const std::string placed = placementTable(l), bill = billOfMaterial(l);
    EXPECT_NE(placed.find("X3,FH-FID"), std::string::npos) << "a fiducial is placed";
    EXPECT_EQ(bill.find("FH-FID"), std::string::npos) << "and not bought";
    EXPECT_NE(bill.find("2,X1 X2,QB-TB4"), std::string::npos) << bill;
    // The pick point turns about the datum with its part.
    const Point own = pickPoint(l.parts[0].of.footprint);
    const Point turned = pickPoint(l.parts[1].lies);
    EXPECT_NEAR(turned.x.mm(), 30 - own.x.mm(), 1e-6);
    EXPECT_NEAR(turned.y.mm(), 60 - own.y.mm(), 1e-6);
}

TEST(TrialBoard, TheFilesHoldTheSamePadsAgain) {
    const TrialBoard b = boardOf({{"QB-TB4.punch", at(35, 40)}, {"HT-RM2.punch", at(85, 40, 90)}});
    const LaidBoard l = laid(b);
    const auto files = boardFiles(l);
    ASSERT_TRUE(files) << files.error().text();
    std::vector<std::string> paths;
    for (const NamedContent& f : *files) {
        const std::string path = ::testing::TempDir() + "/" + f.name;
        std::ofstream(path, std::ios::binary) << f.content;
        if (f.name.find("top-copper") != std::string::npos || f.name.ends_with(".drl")) paths.push_back(path);
        if (f.name.ends_with(".gbr")) {
            const test::GerberImage image(f.content);
            EXPECT_TRUE(image.errors.empty()) << f.name << ": " << image.errors.front();
            const bool copper = f.name.find("top-copper") != std::string::npos;
            const bool parts = f.name.find("top-components") != std::string::npos;
            EXPECT_EQ(image.pins.contains("X2,9"), parts || copper || f.name.find("bottom-copper") != std::string::npos)
                << f.name;
            if (parts) {
                ASSERT_EQ(image.components.size(), 2U);
                EXPECT_EQ(image.components.at("X2").at("CRot"), "90");
                EXPECT_EQ(image.components.at("X2").at("CMnt"), "TH");
                // The first flash is where a machine takes the first part.
                const Point pick = pickPoint(l.parts[0].lies);
                ASSERT_FALSE(image.flashes.empty());
                EXPECT_NEAR(image.flashes[0].x, pick.x.mm(), 1e-6);
                EXPECT_NEAR(image.flashes[0].y, pick.y.mm(), 1e-6);
                EXPECT_EQ(image.flashes[0].function, "ComponentMain");
            }
        }
    }
    const auto read = readForeign(paths);
    ASSERT_TRUE(read) << read.error().text();
    // Each part, taken alone, is found again with every pad where it lies.
    for (const LaidPart& p : l.parts) {
        std::size_t found = 0;
        for (const Pad& pad : p.lies.pads)
            for (const ForeignPattern& pattern : read->patterns)
                for (const ForeignPad& other : pattern.pads)
                    if (std::hypot(other.x - pad.at.x.mm(), other.y - pad.at.y.mm()) < 1e-3 &&
                        std::abs(other.hole - pad.hole.mm()) < 1e-3) {
                        ++found;
                        break;
                    }
        EXPECT_GE(found, p.lies.pads.size()) << p.placing.designator;
    }
    pugi::xml_document xml;
    for (const NamedContent& f : *files)
        if (f.name.ends_with(".xml")) {
            ASSERT_TRUE(xml.load_string(f.content.c_str()));
        }
    const auto step = xml.child("IPC-2581").child("Ecad").child("CadData").child("Step");
    EXPECT_EQ(std::distance(step.children("Component").begin(), step.children("Component").end()), 2);
    EXPECT_EQ(std::distance(step.children("Package").begin(), step.children("Package").end()), 2);
    EXPECT_STREQ(step.find_child_by_attribute("Component", "refDes", "X2").child("Xform").attribute("rotation").value(),
                 "90.000000");
}

TEST(TrialBoard, AnOutlineOutOfADrawing) {
    // Lines in any order and direction, an arc at a corner, a hole in it.
    const auto line = [](double ax, double ay, double bx, double by) {
        return fmt::format("0\nLINE\n8\n0\n10\n{}\n20\n{}\n11\n{}\n21\n{}\n", ax, ay, bx, by);
    };
    const std::string head = "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n",
                      end = "0\nENDSEC\n0\nEOF\n";
    const std::string good = head + line(110, 200, 150, 200) + line(100, 230, 100, 210) + line(150, 230, 100, 230) +
                             line(150, 200, 150, 230) + "0\nARC\n8\n0\n10\n110\n20\n210\n40\n10\n50\n180\n51\n270\n" +
                             "0\nCIRCLE\n8\n0\n10\n130\n20\n215\n40\n3\n" + end;
    const std::string file = ::testing::TempDir() + "/edge.dxf";
    std::ofstream(file) << good;
    const auto rings = outlineFromDxf(file);
    ASSERT_TRUE(rings) << rings.error().text();
    ASSERT_EQ(rings->size(), 2U);
    EXPECT_NEAR(areaOf(ringOf((*rings)[0])), 50 * 30 - (100 - M_PI * 25), 0.05);
    EXPECT_NEAR(std::abs(areaOf(ringOf((*rings)[1]))), M_PI * 9, 0.05);
    const Rect box = boundsOf(Polygons{(*rings)[0]});
    EXPECT_NEAR(box.left.mm(), 0, 1e-6);
    EXPECT_NEAR(box.width().mm(), 50, 1e-6);
    // Without a unit it is asked for; an inch is an inch.
    const std::string unitless = good.substr(0, good.find("9\n$INSUNITS")) + good.substr(good.find("0\nENDSEC"));
    std::ofstream(file) << unitless;
    EXPECT_EQ(outlineFromDxf(file).error().what, kNoUnit);
    EXPECT_NEAR(boundsOf(*outlineFromDxf(file, 25.4)).width().mm(), 50 * 25.4, 1e-3);
    for (const std::string& wrong : {head + line(0, 0, 10, 0) + line(10, 0, 10, 10) + end, head + end}) {
        std::ofstream(file) << wrong;
        EXPECT_FALSE(outlineFromDxf(file));
    }
}

TEST(TrialBoard, AnOutlineByItsCorners) {
    // An L, either way round, in mixed units.
    const auto rings = outlineFromCorners("0,0 0,85 40,85 40,60 100,60 100mm,0in");
    ASSERT_TRUE(rings) << rings.error().text();
    EXPECT_NEAR(areaOf(ringOf(rings->front())), 100 * 60 + 40 * 25, 1e-6);
    EXPECT_EQ(*outlineFromCorners(cornersAsTyped(*rings)), *rings);
    for (const char* wrong :
         {"", "0,0 1,1", "0,0 10,10 10,0 0,10", "a,b c,d e,f", "0 1 2", "0,0 1e9,0 1,1", "0,0 5,0 9,0"})
        EXPECT_FALSE(outlineFromCorners(wrong)) << wrong;
    // Its inner corner is an edge like any other.
    TrialBoard b = boardOf({{"HT-RM2.punch", at(70, 70)}});
    b.outline.rings = *rings;
    EXPECT_EQ(judged(laid(b)).of(BoardCheck::Edge), GaugeState::NoGo) << "it lies in the corner that is not there";
    b.placings[0].at = {mm(50), mm(30)};
    EXPECT_EQ(judged(laid(b)).of(BoardCheck::Edge), GaugeState::Go);
}

TEST(TrialBoard, StandsInSpaceOnItsSides) {
    TrialBoard b = boardOf({{"HT-RM2.punch", at(40, 40)}, {"HT-RM2.punch", at(90, 40, 0, true)}});
    std::vector<std::string> missing;
    const SolidScene scene = boardScene(laid(b), kDemo, missing);
    EXPECT_TRUE(missing.empty());
    // As high above the board as it is deep below it.
    EXPECT_NEAR(scene.box.high.z, -1.6 - scene.box.low.z, 1e-6);
    EXPECT_GT(scene.box.high.z, 5);
    for (const SceneVertex& v : scene.body.corners) EXPECT_EQ(v.x<65, v.z> - 0.8F) << "each on its own side";
}

TEST(TrialBoard, OnTheCommandLine) {
    const std::string file = ::testing::TempDir() + "/cli.board", out = ::testing::TempDir() + "/cli-board";
    std::filesystem::remove(file);
    std::filesystem::remove_all(out);
    EXPECT_EQ(test::punchRun("board " + file).code, 2) << "there is none";
    const auto made =
        test::punchRun("board " + file + " --size 120x80 --place " + kDemo + "HT-RM2.punch,40,40 --place " + kDemo +
                       "HT-RM2.punch,90,40,90,bottom --hole 5,5,3.2 --fiducials --json --files " + out);
    const auto json = nlohmann::json::parse(made.out.substr(0, made.out.rfind("\n}\n") + 3));
    EXPECT_EQ(json["parts"].size(), 2U) << made.out;
    EXPECT_EQ(json["parts"][1]["designator"], "K2");
    EXPECT_TRUE(std::filesystem::exists(out + "/cli-placement.csv"));
    EXPECT_EQ(loadBoard(file)->fiducials.size(), 3U);
    // Named from where one stands.
    const std::string here =
        (std::filesystem::read_symlink("/proc/self/exe").parent_path().parent_path() / "cli" / "punch").string();
    std::filesystem::copy_file(kDemo + "HT-RM2.punch", ::testing::TempDir() + "/near.punch",
                               std::filesystem::copy_options::overwrite_existing);
    std::filesystem::remove(::testing::TempDir() + "/near.board");
    const auto near = test::run("cd '" + ::testing::TempDir() + "' && " + here +
                                " board near.board --size 80x60 --place near.punch,40,30 --json");
    EXPECT_LT(near.code, 2) << near.out;
    EXPECT_EQ(loadBoard(::testing::TempDir() + "/near.board")->placings[0].file, "near.punch");
    for (const char* wrong :
         {"--place x", "--place gone.punch,1,2", "--size 0x3", "--hole 1,2", "--remove Z9", "--outline gone.dxf"}) {
        const std::string before = *readWhole(file);
        EXPECT_EQ(test::punchRun("board " + file + " " + wrong).code, 2) << wrong;
        EXPECT_EQ(*readWhole(file), before) << wrong;
    }
}

}  // namespace
}  // namespace punch::trial_board_test
