// Copper beside the pads: areas, openings with paste, thermal vias, surface lands, fiducials.

#include "core/size/attached_copper.h"

#include <gtest/gtest.h>

#include <fstream>
#include <nlohmann/json.hpp>

#include "core/artwork/artwork.h"
#include "core/dress/ink.h"
#include "core/part/mark_kinds.h"
#include "core/part/names.h"
#include "core/release/drill.h"
#include "core/release/gerber.h"
#include "tests/support/parts.h"

namespace punch::attached_copper_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

Anchored at(double x, double y, const char* of = kDatumFeature) {
    return {{of, HoldAt::Middle, fmt::format("{}", x)}, {of, HoldAt::Middle, fmt::format("{}", y)}};
}
Mark mark(MarkKind kind, std::vector<Anchored> points, std::map<std::string, std::string> set = {}) {
    Mark m = newMark(kind);
    m.points = std::move(points);
    m.set = std::move(set);
    return m;
}
std::vector<Shape> of(const std::vector<Shape>& all, const std::string& id) {
    std::vector<Shape> some;
    for (const Shape& s : all)
        if (s.id == id) some.push_back(s);
    return some;
}

TEST(MarkKinds, TheSchemaNamesThemAll) {
    std::ifstream in(test::sourceFolder() + "/docs/punch.schema.json");
    const auto kinds = nlohmann::json::parse(in)["properties"]["marks"]["items"]["properties"]["kind"]["enum"];
    ASSERT_EQ(kinds.size(), Names<MarkKind>::table.size());
    for (std::size_t i = 0; i < kinds.size(); ++i) EXPECT_EQ(kinds[i], Names<MarkKind>::table[i].second);
}

TEST(PasteWindows, CoverTheShareAndKeepTheirWebs) {
    const Rect area = Rect::around({mm(1), mm(2)}, mm(6), mm(4));
    for (const int across : {1, 2, 3, 5})
        for (const int down : {1, 2, 4})
            for (const double share : {0.0, 0.4, 0.6, 0.8}) {
                const auto windows = pasteWindows(area, across, down, mm(0.3), share);
                ASSERT_EQ(windows.size(), static_cast<std::size_t>(across * down));
                double sum = 0;
                for (std::size_t i = 0; i < windows.size(); ++i) {
                    const Rect& w = windows[i];
                    sum += w.width().mm() * w.height().mm();
                    EXPECT_GE(w.left, area.left - mm(1e-9));
                    EXPECT_LE(w.top, area.top + mm(1e-9));
                    for (std::size_t k = 0; k < i; ++k) {
                        const Length dx = max(windows[k].left - w.right, w.left - windows[k].right);
                        const Length dy = max(windows[k].bottom - w.top, w.bottom - windows[k].top);
                        EXPECT_GE(max(dx, dy).mm(), 0.3 - 1e-6);
                    }
                }
                EXPECT_TRUE(share == 0 || sum / 24 <= share + 1e-9);
                EXPECT_TRUE(share > 0 || sum / 24 > 0.5);
            }
    EXPECT_TRUE(pasteWindows(area, 0, 2, mm(0.3), 0.5).empty());
    EXPECT_TRUE(pasteWindows(area, 9, 2, mm(0.9), 0.5).empty()) << "the webs leave nothing";
}

TEST(AttachedCopper, AnAreaIsItsPadsCopperInEveryDistance) {
    Part part = test::demoPart();
    const Footprint before = derive(part);
    // Pin 2 gets a plate that comes within 1 mm of pin 3's land: an L, so that it is no convex shape.
    const double right = (before.pad("p3")->at.x - before.pad("p3")->top.width / 2).mm() - 1;
    const double x = before.pad("p2")->at.x.mm(), y = before.pad("p2")->at.y.mm();
    part = withMark(part, mark(MarkKind::CopperArea,
                               {at(x - 0.5, y - 0.5), at(right, y - 0.5), at(right, y + 0.5), at(x + 0.5, y + 0.5),
                                at(x + 0.5, y + 3), at(x - 0.5, y + 3)},
                               {{"form", "polygon"}, {"pad", "p2"}}));
    const Footprint f = derive(part);
    EXPECT_EQ(f.laid.back().wrong, "");
    EXPECT_GE(f.attached.lands.size(), 2U);
    for (const Conductor& c : f.attached.lands) EXPECT_EQ(c.number, "2");
    // 230 V over 1 mm: the gauge saw the pads before, and sees the plate now.
    EXPECT_EQ(before.gauge("voltage")->state, GaugeState::Watch);
    EXPECT_EQ(f.gauge("voltage")->state, GaugeState::NoGo);
    EXPECT_NEAR(*f.gauge("voltage")->value, 1.0, 0.002);
    EXPECT_NEAR(*f.gauge("copper-to-copper")->value, 1.0, 0.002) << "touching its own pad is no short";
    // Under mask, until it is opened.
    EXPECT_EQ(of(artwork(part, f, Layer::TopCopper), "p2").size(), 1 + f.attached.lands.size());
    EXPECT_EQ(of(artwork(part, f, Layer::TopMask), "p2").size(), 1U);
    Part open = part;
    open.marks.back().set["open"] = "yes";
    const Footprint g = derive(open);
    EXPECT_EQ(of(artwork(open, g, Layer::TopMask), open.marks.back().id).size(), 1U);
    EXPECT_FALSE(inkOpenings(g.board(), true).empty());
    // Its copper as a number: land and plate together, the hole taken off.
    const double land = M_PI / 4 * std::pow(f.pad("p2")->top.width.mm(), 2);
    EXPECT_GT(f.attached.areas.at("2").first, land);
    EXPECT_NEAR(f.attached.areas.at("2").second, land - M_PI / 4 * std::pow(f.pad("p2")->hole.mm(), 2), 0.01);
}

TEST(AttachedCopper, ViasStayInTheirAreaAndOffThePaste) {
    Part part = test::demoPart();
    const std::vector<Anchored> corners = {at(-6, 8), at(6, 16)};
    part = withMark(part, mark(MarkKind::CopperArea, corners, {{"pad", "p1"}, {"side", "both sides"}}));
    part =
        withMark(part, mark(MarkKind::Opening, {at(-5, 9), at(5, 15)},
                            {{"paste", "windows"}, {"across", "3"}, {"down", "2"}, {"share", "50"}, {"web", "0.8"}}));
    part = withMark(part, mark(MarkKind::ThermalVias, corners, {{"pad", "p1"}, {"pitch", "1.2"}}));
    const Footprint f = derive(part);
    int vias = 0;
    const Rect box = f.laid[1].upright.value();
    for (const Conductor& c : f.attached.lands) {
        if (c.hole <= Length()) continue;
        ++vias;
        EXPECT_EQ(c.number, "1");
        EXPECT_GE(box.right - c.at.x, mm(0.4));
        EXPECT_GE(c.at.y - box.bottom, mm(0.4));
        for (const MarkPaste& p : f.attached.pastes)
            EXPECT_GE(gap(polygonsOf(RoundedPolygon::disc(c.at, c.hole)), p.area).mm(), 0.2);
    }
    EXPECT_GT(vias, 15);
    EXPECT_EQ(f.attached.pastes.size(), 6U);
    EXPECT_EQ(f.inkWords.size(), 0U);
    // They are drilled, open on the part side, tented below.
    const std::string id = part.marks.back().id;
    EXPECT_EQ(of(artwork(part, f, Layer::PlatedHoles), "p1").size(), static_cast<std::size_t>(vias + 1));
    EXPECT_EQ(of(artwork(part, f, Layer::TopMask), "p1").size(), static_cast<std::size_t>(vias + 1));
    EXPECT_EQ(of(artwork(part, f, Layer::BottomMask), "p1").size(), 1U);
    EXPECT_NE(f.gauge("hole-to-hole")->state, GaugeState::NoGo);
    // Too many, too near, no room: said, and nothing is lost.
    const auto words = [&](const std::map<std::string, std::string>& set) {
        Part other = part;
        for (const auto& [key, value] : set) other.marks.back().set[key] = value;
        const Footprint g = derive(other);
        return g.inkWords.contains(id) ? g.inkWords.at(id) : std::string();
    };
    EXPECT_NE(words({{"pitch", "0.05"}, {"hole", "0.01"}, {"land", "0.02"}}).find("more than 1000"), std::string::npos);
    EXPECT_NE(words({{"pitch", "0.4"}}).find("overlap"), std::string::npos);
    EXPECT_NE(words({{"land", "0.3"}}).find("no larger than their holes"), std::string::npos);
    EXPECT_NE(words({{"land", "20"}, {"pitch", "30"}}).find("no room"), std::string::npos);
}

TEST(AttachedCopper, SurfaceLandsStandAsTheEquationsSay) {
    Part part = test::demoPart();
    part = withMark(part, mark(MarkKind::SurfaceLands, {at(0, 20)},
                               {{"overall", "1.50..1.70"}, {"terminal", "0.20..0.50"}, {"width", "0.70..0.90"}}));
    Footprint f = derive(part);
    ASSERT_EQ(f.attached.lands.size(), 2U);
    // Worked by hand: Z 2.4449, G 0.6446, X 0.9449; length 0.90, apart 1.55, width 0.95.
    const Land& left = f.attached.lands[0].top;
    EXPECT_NEAR(left.width.mm(), 0.90, 1e-9);
    EXPECT_NEAR(left.length.mm(), 0.95, 1e-9);
    EXPECT_NEAR((f.attached.lands[1].at.x - f.attached.lands[0].at.x).mm(), 1.55, 1e-9);
    EXPECT_EQ(f.attached.lands[0].number, "1");
    EXPECT_EQ(f.chains.at("lands:" + part.marks.back().id).size(), 3U);
    EXPECT_EQ(artwork(part, f, Layer::TopPaste).size(), 2U) << "paste equals the land";
    EXPECT_TRUE(of(artwork(part, f, Layer::BottomCopper), f.attached.lands[0].id).empty());
    // Four sides, counted counter-clockwise, with a tab in windows of paste.
    part.marks.back().set = {{"package", "no-lead, four sides"},
                             {"overall", "3.90..4.10"},
                             {"terminal", "0.30..0.50"},
                             {"width", "0.18..0.30"},
                             {"pitch", "0.5"},
                             {"count", "5"},
                             {"tabWidth", "2.4"},
                             {"tabLength", "2.4"}};
    f = derive(part);
    ASSERT_EQ(f.attached.lands.size(), 21U);
    const Point middle = f.laid.back().points[0];
    double angle = 0, turned = 0;
    for (int i = 0; i < 20; ++i) {
        const Point d = f.attached.lands[static_cast<std::size_t>(i)].at - middle;
        const double a = std::atan2(d.y.mm(), d.x.mm());
        if (i > 0) {
            const double step = std::remainder(a - angle, 2 * M_PI);
            EXPECT_GT(step, 0) << i;
            turned += step;
        }
        angle = a;
    }
    EXPECT_NEAR(turned, 2 * M_PI * 19 / 20, 0.3);
    EXPECT_EQ(f.attached.lands.back().number, "21");
    double paste = 0;
    for (const MarkPaste& p : f.attached.pastes)
        if (contains(Polygons{{middle + Point{mm(-1.2), mm(-1.2)}, middle + Point{mm(1.2), mm(-1.2)},
                               middle + Point{mm(1.2), mm(1.2)}, middle + Point{mm(-1.2), mm(1.2)}}},
                     p.area[0][0]))
            paste += areaOf(p.area);
    EXPECT_NEAR(paste / (2.4 * 2.4), 0.6, 0.01);
    EXPECT_EQ(f.gauge("copper-to-copper")->state, GaugeState::Go);
    // Turned by a quarter everything turns.
    part.marks.back().set["turn"] = "90";
    const Footprint g = derive(part);
    for (std::size_t i = 0; i < 21; ++i) {
        const Point d = f.attached.lands[i].at - middle, e = g.attached.lands[i].at - middle;
        EXPECT_NEAR(e.x.mm(), -d.y.mm(), 1e-6);
        EXPECT_NEAR(e.y.mm(), d.x.mm(), 1e-6);
    }
    // What cannot be is said.
    const auto words = [&](std::map<std::string, std::string> set) {
        Part other = part;
        other.marks.back().set = std::move(set);
        const Footprint h = derive(other);
        return h.inkWords.contains(other.marks.back().id) ? h.inkWords.at(other.marks.back().id) : std::string();
    };
    EXPECT_NE(words({{"package", "gull wing, two sides"}, {"width", "1.4"}}).find("overlap"), std::string::npos);
    EXPECT_NE(words({{"overall", "1"}, {"terminal", "0.8"}}).find("overlap"), std::string::npos);
    EXPECT_NE(words({{"package", "gull wing, two sides"}, {"count", "0"}}).find("1 to 200"), std::string::npos);
    EXPECT_FALSE(withMarkValue(part, part.marks.back().id, "overall", "3.4..3.0")) << "limits with min above max";
    EXPECT_FALSE(withMarkValue(part, part.marks.back().id, "count", "2.5"));
}

TEST(AttachedCopper, AFiducialIsBareAndHasNoPaste) {
    Part part = withMark(test::demoPart(), mark(MarkKind::Fiducial, {at(0, 20)}));
    const Footprint f = derive(part);
    const std::string id = part.marks.back().id;
    const auto copper = of(artwork(part, f, Layer::TopCopper), id);
    ASSERT_EQ(copper.size(), 1U);
    EXPECT_EQ(copper[0].purpose, Purpose::Fiducial);
    EXPECT_NEAR(boundsOf(of(artwork(part, f, Layer::TopMask), id)).width().mm(), 3, 1e-9);
    EXPECT_TRUE(of(artwork(part, f, Layer::TopPaste), id).empty());
    const Shape& k = f.keepouts.back();
    EXPECT_TRUE(k.keeps.copper && k.keeps.vias && !k.keeps.parts && k.keeps.top && !k.keeps.bottom);
    EXPECT_NEAR(k.box().width().mm(), 3, 0.01);
    const auto image = gerber(part, f, proofBoard(f), BoardLayer::TopCopper);
    ASSERT_TRUE(image);
    EXPECT_NE(image->find("FiducialPad"), std::string::npos);
    part.marks.back().set["ring"] = "1.5";
    EXPECT_EQ(derive(part).gauge("fiducials")->state, GaugeState::NoGo);
}

TEST(AttachedCopper, ADrawingsOwnLandsStandBesideTheComputedOnes) {
    // The worked chip of the rules, level B: Z 2.4449, G 0.6446, X 0.9449.
    Part part = newPartWithoutPins();
    part.rules.fab.leastGap = mm(0.1);
    const std::map<std::string, std::string> chip = {
        {"package", "chip"},  {"overall", "1.50..1.70"},      {"terminal", "0.20..0.50"}, {"width", "0.70..0.90"},
        {"drawnOver", "2.6"}, {"drawnBetween", "0.60..0.70"}, {"drawnWidth", "0.9 ±0.05"}};
    part = withMark(part, mark(MarkKind::SurfaceLands, {at(0, 0)}, chip));
    const std::string id = part.marks.back().id;
    Footprint f = derive(part);
    EXPECT_EQ(f.attached.notes.at(id), "the drawing's lands: over both +0.16, between +0.01, width -0.04 mm");
    EXPECT_NEAR(f.attached.lands[0].top.width.mm(), 0.9, 1e-6) << "computed: (Z - G) / 2, rounded";
    part.marks.back().set["lands"] = "the drawing's";
    f = derive(part);
    EXPECT_NEAR(f.attached.lands[0].top.width.mm(), (2.6 - 0.65) / 2, 1e-6);
    EXPECT_NEAR(f.attached.lands[0].top.length.mm(), 0.9, 1e-6);
    EXPECT_NEAR((f.attached.lands[1].at.x - f.attached.lands[0].at.x).mm(), (2.6 + 0.65) / 2, 1e-6);
    // Half of it is no land.
    part.marks.back().set.erase("drawnBetween");
    f = derive(part);
    EXPECT_TRUE(f.attached.lands.empty());
    EXPECT_NE(f.inkWords.at(id).find("between"), std::string::npos);
}

TEST(AttachedCopper, LandsThatCannotBeMadeAreNoGo) {
    // Half holes of 0.137 wide at least, at density C: 0.137 - 0.30 + sqrt(0.10² + 0.05² + 0.02²) is less than nothing.
    std::map<std::string, std::string> set = {{"package", "half holes, two sides"},
                                              {"overall", "6.099..6.909"},
                                              {"terminal", "0.332..0.432"},
                                              {"width", "0.137..0.237"},
                                              {"pitch", "0.5"},
                                              {"count", "9"},
                                              {"density", "C"},
                                              {"fabrication", "0.05"},
                                              {"placement", "0.02"}};
    const auto judged = [&] {
        Part part = withMark(newPartWithoutPins(), mark(MarkKind::SurfaceLands, {at(0, 0)}, set));
        return derive(part);
    };
    const auto expectNone = [&](const char* why) {
        const Footprint f = judged();
        EXPECT_TRUE(f.attached.lands.empty());
        EXPECT_EQ(f.gauge("marks")->state, GaugeState::NoGo);
        EXPECT_NE(f.gauge("marks")->words.find(why), std::string::npos) << f.gauge("marks")->words;
        EXPECT_FALSE(f.inkWords.empty()) << "it is said at the mark too";
    };
    expectNone("-0.05 mm wide");
    set["density"] = "A";
    EXPECT_EQ(judged().attached.lands.size(), 18U) << "with more copper they are there";
    set["width"] = "0.45..0.55";
    expectNone("wider than their pitch");
    set["width"] = "not a number";
    expectNone("Terminal width");
    set["width"] = "0.2..0.3";
    set["count"] = "900";
    expectNone("1 to 200");
}

TEST(AttachedCopper, WhatIsTrimmedIsSaidOfEverySide) {
    // From front to rear the package is so short that its lands would meet; from left to right it is not.
    std::map<std::string, std::string> set = {{"package", "no-lead, four sides"},
                                              {"overall", "5.9..6.1"},
                                              {"overall2", "1.0..1.1"},
                                              {"terminal", "0.30..0.45"},
                                              {"width", "0.18..0.22"},
                                              {"pitch", "0.65"},
                                              {"count", "2"}};
    const Footprint f = derive(withMark(newPartWithoutPins(), mark(MarkKind::SurfaceLands, {at(0, 0)}, set)));
    ASSERT_EQ(f.attached.words.size(), 1U);
    EXPECT_EQ(f.attached.words.begin()->second, "front and rear trimmed at the heel, to keep the copper apart");
    EXPECT_EQ(f.gauge("marks")->state, GaugeState::Watch);
}

TEST(Courtyard, OfSurfaceLandsGoesByTheirLeadForm) {
    const auto excess = [](const char* package, Density density, bool pins) {
        Part part = pins ? test::demoPart() : newPartWithoutPins();
        part.dress.density = density;
        part.dress.courtyardExcess.reset();
        part = withMark(part, mark(MarkKind::SurfaceLands, {at(0, 30)}, {{"package", package}, {"width", "0.4..0.6"}}));
        return derive(part).courtyardExcess.mm();
    };
    // IPC-7351B: 0.50, 0.25, 0.10; flat leads 0.20, 0.15, 0.10.
    const double usual[] = {0.50, 0.25, 0.10}, flat[] = {0.20, 0.15, 0.10};
    const Density levels[] = {Density::A, Density::B, Density::C};
    for (int i = 0; i < 3; ++i) {
        EXPECT_NEAR(excess("gull wing, two sides", levels[i], false), usual[i], 1e-9);
        EXPECT_NEAR(excess("flat lead, two sides", levels[i], false), flat[i], 1e-9);
        EXPECT_NEAR(excess("flat lead, two sides", levels[i], true), usual[i], 1e-9) << "the pins ask for more";
    }
    EXPECT_NEAR(excess("flat lead, two sides", Density::Connector, false), 0.5, 1e-9);
}

TEST(AttachedCopper, HowMuchCopperThereIsIsSaidAtItsArea) {
    Part part =
        withMark(test::demoPart(), mark(MarkKind::CopperArea, {at(-4, 20), at(4, 25)}, {{"side", "both sides"}}));
    const std::string id = part.marks.back().id;
    EXPECT_NE(derive(part).attached.notes.at(id).find("40.0 mm² on top, 40.0 at the bottom"), std::string::npos)
        << derive(part).attached.notes.at(id);
}

TEST(Keepouts, MayBeABandAndHoldOnEveryLayer) {
    Part part = withMark(test::demoPart(), mark(MarkKind::Keepout, {at(-10, -10), at(10, 10)},
                                                {{"band", "1.5"}, {"side", "all layers"}, {"copper", "yes"}}));
    const Shape k = derive(part).keepouts.back();
    EXPECT_NEAR(areaOf(k.area()), 20 * 20 - 17 * 17, 1e-3);
    EXPECT_TRUE(contains(k.area(), {mm(9), mm(0)}));
    EXPECT_FALSE(contains(k.area(), {mm(0), mm(0)}));
    EXPECT_TRUE(k.keeps.top && k.keeps.bottom && k.keeps.inner && k.keeps.copper);
    // Wider than half of it, nothing is left free.
    part.marks.back().set["band"] = "11";
    EXPECT_NEAR(areaOf(derive(part).keepouts.back().area()), 400, 1e-3);
}

TEST(AttachedCopper, OfCornersAsRoundAsItIsWideIsASlot) {
    Mark m = newMark(MarkKind::CopperArea);
    m.set["corner"] = "1999";
    const Part part = withMark(test::demoPart(), m);
    const Footprint f = derive(part);
    ASSERT_EQ(f.attached.lands.size(), 1U);
    const Rect body = f.body->rect;
    const double wide = body.width().mm(), high = body.height().mm(), r = std::min(wide, high) / 2;
    // A slot: the rectangle between its two half discs, and a disc.
    EXPECT_NEAR(f.attached.areas.begin()->second.first, 2 * r * (std::max(wide, high) - 2 * r) + M_PI * r * r, 0.05);
}

}  // namespace
}  // namespace punch::attached_copper_test
