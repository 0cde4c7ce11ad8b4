// Marks: they hold on features, follow readings, say what is wrong; what they print keeps off openings; what they cut
// and keep clear is exact.

#include <gtest/gtest.h>

#include <algorithm>
#include <fstream>
#include <nlohmann/json.hpp>
#include <random>

#include "core/dress/mark_scene.h"
#include "core/dress/silkscreen.h"
#include "core/geometry/shapes.h"
#include "core/part/names.h"
#include "core/shape/laid_marks.h"
#include "tests/support/parts.h"

namespace punch::marks_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

Hold hold(const std::string& of, const std::string& off = "", HoldAt at = HoldAt::Middle) { return {of, at, off}; }

Mark mark(MarkKind kind, std::vector<Anchored> points, std::map<std::string, std::string> set = {}) {
    Mark m = newMark(kind);
    m.points = std::move(points);
    m.set = std::move(set);
    return m;
}

/// The demo part with one mark; the mark as it lies.
struct Laid {
    Part part;
    Footprint f;
    const LaidMark& operator()() const { return f.laid.back(); }
};
Laid laid(const Mark& m, Part part = test::demoPart()) {
    part = withMark(std::move(part), m);
    return {part, derive(part)};
}

TEST(MarkKinds, TheTableIsInOrderAndWhatIsOfferedCanBeDrawn) {
    ASSERT_EQ(markKinds().size(), Names<MarkKind>::table.size());
    for (std::size_t i = 0; i < markKinds().size(); ++i) {
        const MarkKindInfo& kind = markKinds()[i];
        EXPECT_EQ(static_cast<std::size_t>(kind.kind), i);
        EXPECT_NE(std::string(groupWords(kind.group)), "");
        Mark m = newMark(kind.kind);
        if (kind.kind == MarkKind::Sign) m.set["pin"] = "p1";
        if (kind.kind == MarkKind::Logo) m.set["figure"] = "-5000,0 5000,0 0,4000";
        for (const MarkField& field : kind.fields) {
            EXPECT_EQ(valueOf(m, field.key), m.set.contains(field.key) ? m.set[field.key] : field.usual);
            EXPECT_TRUE(checkedMarkValue(field, field.usual)) << field.key;
            if (field.onlyWhen != nullptr) {
                const std::string when = field.onlyWhen;
                EXPECT_NE(markField(kind.kind, when.substr(0, when.find_first_of("!="))), nullptr);
            }
        }
        const Laid l = laid(m);
        EXPECT_EQ(l().wrong, "") << nameOf(kind.kind);
        EXPECT_TRUE(l().firm);
        // What has a layer prints; what prints nothing keeps room, cuts, is copper or stands over the board.
        const bool prints = markField(kind.kind, "layer") != nullptr;
        EXPECT_EQ(kind.acts.ink != nullptr, prints);
        EXPECT_TRUE(prints || kind.acts.keep != nullptr || kind.acts.cut != nullptr || kind.acts.copper != nullptr ||
                    kind.acts.givingWay != nullptr || kind.kind == MarkKind::Piece);
        const auto has = [&](const auto& all) {
            return std::any_of(all.begin(), all.end(), [&](const auto& s) { return s.id == l().id; });
        };
        const bool printed = has(l.f.silkscreen) || has(l.f.assembly);
        EXPECT_EQ(printed, prints) << nameOf(kind.kind);
        // And every one survives its file.
        const auto back = fromText(toText(l.part), "memory");
        ASSERT_TRUE(back) << back.error().text();
        EXPECT_EQ(*back, l.part);
    }
}

TEST(Marks, AKeepoutOfVersionOneIsTheSameArea) {
    const auto text = [](const std::string& file) {
        std::ifstream in(test::sourceFolder() + "/" + file);
        return std::string(std::istreambuf_iterator<char>(in), {});
    };
    for (const char* name : {"QB-TB4", "HT-RM2", "HT-SEL6"}) {
        const auto old = fromText(text(std::string("tests/data/version1/") + name + ".punch"), name);
        ASSERT_TRUE(old) << old.error().text();
        EXPECT_EQ(toText(*old).find("\"keepouts\""), std::string::npos);
        EXPECT_EQ(nlohmann::json::parse(toText(*old))["punchbit"], 2);
        EXPECT_EQ(*fromText(toText(*old), name), *old) << "and stays so";
    }
    const Footprint f = derive(*fromText(text("tests/data/version1/QB-TB4.punch"), "x"));
    ASSERT_EQ(f.keepouts.size(), 1U);
    // Beyond the front face by its depth, over the whole width.
    EXPECT_EQ(f.keepouts[0].id, "k21");
    EXPECT_NEAR((f.body->rect.bottom - f.keepouts[0].box().bottom).mm(), 3.2, 1e-6);
    EXPECT_NEAR(f.keepouts[0].box().width().mm(), f.body->rect.width().mm(), 1e-6);
    EXPECT_NEAR(f.keepouts[0].keeps.maxHeight.mm(), 2, 1e-9);
    // Each side, as its four faces had it.
    for (const Side side : {Side::Left, Side::Right, Side::Front, Side::Rear}) {
        const Laid l = laid(mark(MarkKind::Keepout, pointsBeyond(side, "1.5")));
        const Rect k = l.f.keepouts.back().box(), b = l.f.body->rect;
        const bool x = side == Side::Left || side == Side::Right;
        EXPECT_NEAR((x ? k.width() : k.height()).mm(), 1.5, 1e-6);
        EXPECT_NEAR((x ? k.height() : k.width()).mm(), (x ? b.height() : b.width()).mm(), 1e-6);
        const Length out = side == Side::Left    ? b.left - k.right
                           : side == Side::Right ? k.left - b.right
                           : side == Side::Front ? b.bottom - k.top
                                                 : k.bottom - b.top;
        EXPECT_NEAR(out.mm(), 0, 1e-6);
    }
}

TEST(Marks, EveryPlaceFollowsWhatItHoldsOn) {
    // A point beside pin 4's right edge, half a pitch on, and 0.3 outside the rear face; one that holds on it.
    Part part = withMark(test::demoPart(),
                         mark(MarkKind::Text, {{hold("p4", "pitch/2", HoldAt::High), hold(kRearFace, "0.3")}}));
    const std::string id = part.marks.back().id;
    part = withMark(part, mark(MarkKind::Text, {{hold(id + ".0", "1"), hold("datum", "2.5")}}));
    const auto expected = [](const Footprint& f) {
        const Pad& p = *f.pad("p4");
        return Point{p.at.x + p.leadX / 2 + f.parameter("pitch")->value / 2, f.body->rect.top + mm(0.3)};
    };
    const Footprint before = derive(part);
    const std::size_t at = before.laid.size() - 2;
    EXPECT_NEAR(distance(before.laid[at].points[0], expected(before)).mm(), 0, 1e-6);
    EXPECT_NEAR((before.laid[at + 1].points[0].x - expected(before).x).mm(), 1, 1e-6);
    EXPECT_NEAR(before.laid[at + 1].points[0].y.mm(), 2.5, 1e-9);
    EXPECT_GT(before.laid[at].doubt.mm(), 0.001);
    EXPECT_FALSE(before.chains.at("x:" + id + ".0").empty());
    EXPECT_NEAR(before.chains.at("y:" + id + ".0").back().value->mm(), expected(before).y.mm(), 1e-6);
    // Read the body and the span anew: all of it moves along.
    part.taken.clear();
    for (Reading& r : part.readings)
        if ((r.a == "p1" && r.b == "p4") || r.a == kBody)
            for (RawValue& raw : r.raw) raw.value += mm(0.37);
    const Footprint after = derive(part);
    EXPECT_GT(distance(expected(after), expected(before)).mm(), 0.1);
    EXPECT_NEAR(distance(after.laid[at].points[0], expected(after)).mm(), 0, 1e-6);
    EXPECT_NEAR((after.laid[at + 1].points[0].x - expected(after).x).mm(), 1, 1e-6);
}

/// Where the footprint shows what a place along x or y holds on; none for what it shows otherwise.
std::optional<Length> shownAt(const Footprint& f, const Hold& h, bool x) {
    if (h.of == kDatumFeature) return Length();
    if (const Pad* p = f.pad(h.of)) {
        if (h.at != HoldAt::Middle) return {};
        return x ? p->at.x : p->at.y;
    }
    if (!f.body) return {};
    const Rect& r = f.body->rect;
    if (h.of == kLeftFace) return r.left;
    if (h.of == kRightFace) return r.right;
    if (h.of == kFrontFace) return r.bottom;
    if (h.of == kRearFace) return r.top;
    if (h.of != kBody) return {};
    if (h.at == HoldAt::Middle) return x ? r.middle().x : r.middle().y;
    return x ? (h.at == HoldAt::Low ? r.left : r.right) : (h.at == HoldAt::Low ? r.bottom : r.top);
}

/// Every place of every mark of the demo library, whichever reading changes.
TEST(Marks, NothingInTheDemoLibraryHoldsAStaleNumber) {
    int checked = 0;
    for (const char* name : {"QB-TB4", "HT-RM2", "HT-SEL6", "QB-LX4", "PW-VS11", "PW-RS7"}) {
        Part part = *loadPart(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch");
        for (std::size_t r = 0; r < part.readings.size(); ++r) {
            Part moved = part;
            for (RawValue& raw : moved.readings[r].raw) raw.value += mm(0.05);
            const Footprint f = derive(moved);
            for (std::size_t m = 0; m < moved.marks.size(); ++m)
                for (std::size_t i = 0; i < f.laid[m].points.size(); ++i)
                    for (const bool x : {true, false}) {
                        const Anchored& a = moved.marks[m].points[i];
                        const Hold& h = x ? a.x : a.y;
                        const auto at = shownAt(f, h, x);
                        if (!at || h.off.find_first_not_of("-0123456789.") != std::string::npos) continue;
                        const double off = h.off.empty() ? 0 : std::stod(h.off);
                        const Point p = f.laid[m].points[i];
                        EXPECT_NEAR((x ? p.x : p.y).mm(), at->mm() + off, 1e-6) << name;
                        ++checked;
                    }
        }
    }
    EXPECT_GT(checked, 100);
}

TEST(Marks, WhatCannotBeDrawnSaysWhy) {
    const auto wrong = [](const Mark& m) { return laid(m)().wrong; };
    const auto at = [](double x, double y) {
        return Anchored{hold("datum", fmt::format("{}", x)), hold("datum", fmt::format("{}", y))};
    };
    EXPECT_EQ(wrong(mark(MarkKind::Keepout, {at(0, 0), at(4, 4), at(4, 0), at(0, 4)}, {{"form", "polygon"}})),
              "its outline crosses itself");
    EXPECT_EQ(wrong(mark(MarkKind::Keepout, {at(0, 0), at(0, 4)})), "its rectangle has no size");
    EXPECT_EQ(wrong(mark(MarkKind::Keepout, {at(0, 0)})), "its rectangle has no two corners");
    EXPECT_EQ(wrong(mark(MarkKind::Keepout, {at(0, 0)}, {{"form", "circle"}, {"diameter", "0"}})),
              "its circle has no diameter");
    EXPECT_EQ(wrong(mark(MarkKind::Text, {{hold("p99"), hold("p1")}})),
              "it holds on a feature that is no longer there");
    EXPECT_NE(wrong(mark(MarkKind::Text, {{hold(kFrontFace), hold("p1")}})).find("has no place from left to right"),
              std::string::npos);
    EXPECT_NE(wrong(mark(MarkKind::Text, {{hold("p1", "plitch/2"), hold("p1")}})).find("has no “plitch”"),
              std::string::npos);
    EXPECT_EQ(wrong(mark(MarkKind::Text, {at(0, 0)}, {{"line", "0"}})), "its line has no width");
    EXPECT_EQ(wrong(mark(MarkKind::Text, {at(0, 0)}, {{"height", "0"}})), "its height is nothing");
    EXPECT_EQ(wrong(mark(MarkKind::Travel, {at(0, 0), at(1, 1)}, {{"by", "0"}})), "it slides by nothing");
    EXPECT_EQ(wrong(mark(MarkKind::Travel, {at(0, 0), at(1, 1)}, {{"motion", "turns"}, {"turn", "0"}})),
              "it turns by nothing");
    EXPECT_EQ(wrong(mark(MarkKind::Travel, {at(0, 0), at(1, 1)}, {{"low", "5"}, {"high", "3"}})),
              "its upper end lies below its lower end");
    // In a circle: the mark will be called m23.
    Part part = test::demoPart();
    const std::string self = "m" + std::to_string(part.nextId);
    EXPECT_EQ(wrong(mark(MarkKind::Text, {{hold(self + ".0"), hold("p1")}})), "a place holds on itself");
    // The gauge names it, and nothing is lost.
    const Laid l = laid(mark(MarkKind::Keepout, {at(0, 0), at(0, 4)}));
    EXPECT_EQ(l.f.gauge("marks")->state, GaugeState::NoGo);
    EXPECT_EQ(l.f.gauge("marks")->about, std::vector<std::string>{l().id});
    EXPECT_EQ(*fromText(toText(l.part), "x"), l.part);
}

TEST(Marks, BadFilesNameTheFieldAndTheWayOut) {
    const std::string good = toText(withMark(test::demoPart(), newMark(MarkKind::Travel)));
    const auto wrong = [&](const char* key, const nlohmann::json& value) {
        auto j = nlohmann::json::parse(good);
        j["marks"][1][key] = value;
        const auto part = fromText(j.dump(), "x.punch");
        EXPECT_FALSE(part) << key;
        return part ? std::string() : part.error().text();
    };
    EXPECT_NE(wrong("kind", "lasso").find("marks[1].kind"), std::string::npos);
    EXPECT_NE(wrong("motion", "hops").find("“hops” is none of slides, turns"), std::string::npos);
    EXPECT_NE(wrong("by", "5 +").find("marks[1].by"), std::string::npos)
        << "a name that nothing is called is asked later";
    EXPECT_NE(wrong("points", nlohmann::json::array({nlohmann::json{{"x", {{"edge", "top"}}}}})).find("edge"),
              std::string::npos);
    auto many = nlohmann::json::array();
    for (int i = 0; i < 500; ++i) many.push_back(nlohmann::json::object());
    EXPECT_NE(wrong("points", many).find("at most 400"), std::string::npos);
}

TEST(Marks, ATravelSweepsWhatItsShapePassesOver) {
    // A plug as wide as the body, from its front face 5 deep, drawn out by 10.
    Laid l =
        laid(mark(MarkKind::Travel, newMark(MarkKind::Travel).points, {{"by", "10"}, {"low", "1.5"}, {"high", "9"}}));
    const Shape& k = l.f.keepouts.back();
    EXPECT_TRUE(k.keeps.travel);
    EXPECT_NEAR(k.box().height().mm(), 15, 1e-5);
    EXPECT_NEAR(areaOf(k.area()), 15 * l.f.body->rect.width().mm(), 1e-4);
    EXPECT_NEAR(k.keeps.maxHeight.mm(), 1.5, 1e-9);
    EXPECT_NEAR(k.keeps.reaches.mm(), 9, 1e-9);
    EXPECT_NEAR((l.f.courtyard.bottom - k.box().bottom).mm(), -0.5, 1e-5) << "past everything else";
    // A lever about the peg, a quarter turn.
    l = laid(mark(MarkKind::Travel,
                  {{hold("peg5", "-1"), hold("peg5", "-0.5")}, {hold("peg5", "8"), hold("peg5", "0.5")}},
                  {{"motion", "turns"}, {"turn", "90"}, {"axis", "peg5"}}));
    const Point axis = *l.f.place("peg5");
    EXPECT_EQ(*l().axis, axis);
    EXPECT_TRUE(contains(l.f.keepouts.back().area(), {axis.x + mm(5.5), axis.y + mm(5.5)}));
    EXPECT_FALSE(contains(l.f.keepouts.back().area(), {axis.x + mm(5.9), axis.y + mm(5.9)}));
    EXPECT_FALSE(contains(l.f.keepouts.back().area(), {axis.x + mm(4), axis.y - mm(1)}));
}

TEST(Marks, ACutOutIsNeverSharperThanItsBitAndCountsAsOne) {
    const std::vector<Anchored> corners = {{hold("datum", "-3"), hold("datum", "6")},
                                           {hold("datum", "3"), hold("datum", "10")}};
    Laid l = laid(mark(MarkKind::CutOut, corners, {{"bit", "1.6"}}));
    ASSERT_EQ(l.f.cutOuts.size(), 1U);
    EXPECT_NEAR(areaOf(l.f.cutOuts[0].milled.outline), 24 - 0.64 * (4 - M_PI), 1e-3);
    EXPECT_NEAR(l.f.cutOuts[0].milled.width.mm(), 4, 2e-3);
    ASSERT_EQ(l.f.cutOuts.size(), 1U);
    EXPECT_NEAR(l.f.cutOuts[0].rounded()->radius.mm(), 0.8, 1e-9);
    // With relief the bit goes into the corners: a square body fits.
    l = laid(mark(MarkKind::CutOut, corners, {{"bit", "1.6"}, {"relief", "yes"}}));
    for (const double x : {-3.0, 3.0})
        for (const double y : {6.0, 10.0})
            EXPECT_TRUE(contains(l.f.cutOuts[0].milled.outline, {mm(x * 0.9999), mm(8 + (y - 8) * 0.9999)}));
    EXPECT_LT(areaOf(l.f.cutOuts[0].milled.outline), 24 + 4 * 0.64 * M_PI);
    // An L of arms 2 wide: its narrowest is an arm.
    const auto at = [](double x, double y) {
        return Anchored{hold("datum", fmt::format("{}", x)), hold("datum", fmt::format("{}", y))};
    };
    l = laid(mark(MarkKind::CutOut, {at(-5, 6), at(5, 6), at(5, 8), at(-3, 8), at(-3, 12), at(-5, 12)},
                  {{"form", "polygon"}, {"bit", "0.8"}}));
    EXPECT_NEAR(l.f.cutOuts[0].milled.width.mm(), 2, 0.02);
    EXPECT_EQ(l.f.gauge("hole-to-hole")->state, GaugeState::Go) << "its pieces are one hole";
    ASSERT_EQ(l.f.cutOuts.size(), 1U);
    EXPECT_GE(l.f.cutOuts[0].pieces.size(), 2U);
    for (const Shape& c : l.f.cutOuts) EXPECT_EQ(c.id, l().id);
    // Through a pad: the gauge of copper says so.
    l = laid(mark(MarkKind::CutOut, {{hold("p2", "-0.5"), hold("p2", "-2")}, {hold("p2", "0.5"), hold("p2", "2")}},
                  {{"bit", "0.8"}}));
    EXPECT_EQ(l.f.gauge("copper-to-copper")->state, GaugeState::NoGo);
    EXPECT_EQ(laid(mark(MarkKind::CutOut, corners, {{"bit", "9"}}))().wrong, "the bit is too wide for it");
}

/// Random parts with random marks: no ink comes too near to an opening, and none is cut away further than it must.
TEST(Marks, NoInkReachesAnOpeningAndNoneIsCutWithoutNeed) {
    std::mt19937 random(41);
    int cut = 0;
    for (int round = 0; round < 60; ++round) {
        Part part = *newRow(2 + static_cast<int>(random() % 7));
        std::uniform_real_distribution<double> any(-9, 9), small(0.4, 4);
        const auto at = [&](double x, double y) {
            return Anchored{hold("p1", fmt::format("{:.3f}", x)), hold("p1", fmt::format("{:.3f}", y))};
        };
        part.dress.leastInk = mm(0.3);
        part.dress.outlineCorners = random() % 2 == 0;
        for (int k = 0; k < 4; ++k) {
            const double x = any(random), y = any(random) / 3;
            const std::string line = random() % 2 == 0 ? "0.15" : "0.3";
            const char* layers[] = {"top silkscreen", "bottom silkscreen"};
            const std::map<std::string, std::string> set = {{"form", random() % 2 == 0 ? "circle" : "rectangle"},
                                                            {"diameter", fmt::format("{:.3f}", small(random))},
                                                            {"line", line},
                                                            {"filled", random() % 3 == 0 ? "yes" : "no"},
                                                            {"layer", layers[random() % 2]}};
            part = withMark(part, mark(MarkKind::Drawing, {at(x, y), at(x + small(random), y + small(random))}, set));
        }
        const Footprint f = derive(part);
        const auto nearest = nearestInk(f.board(), f);
        ASSERT_TRUE(nearest);
        EXPECT_GE(nearest->gap.mm(), 0.15 - 1e-6) << round << " " << nearest->stroke;
        for (const bool top : {true, false}) {
            const auto openings = inkOpenings(f.board(), top);
            for (const Shape& s : top ? f.silkscreen : f.bottomSilkscreen) {
                if (!s.shortened || s.line() == nullptr) continue;
                ++cut;
                Length length;
                for (std::size_t i = 0; i + 1 < s.points().size(); ++i)
                    length += distance(s.points()[i], s.points()[i + 1]);
                EXPECT_GE(length.mm(), 0.3);
                // One of its ends stands at the least distance, within a micrometre.
                double least = 1e9;
                for (const Point& end : {s.points().front(), s.points().back()})
                    for (const InkOpening& o : openings)
                        least = std::min(least, gap(RoundedPolygon::disc(end, s.line()->width), o.shape).mm());
                EXPECT_LT(least, 0.1515) << round;
            }
        }
    }
    EXPECT_GT(cut, 40);
}

TEST(OutlineInk, CornersAloneAreAsLongAsAsked) {
    Part part = test::demoPart();
    part.dress.outlineCorners = true;
    part.dress.cornerLength = mm(2);
    const Footprint f = derive(part);
    int corners = 0;
    for (const Shape& s : f.silkscreen) {
        if (s.name != "outline") continue;
        ++corners;
        Length length;
        for (std::size_t i = 0; i + 1 < s.points().size(); ++i) length += distance(s.points()[i], s.points()[i + 1]);
        EXPECT_NEAR(length.mm(), 4, 1e-5);
        EXPECT_EQ(s.points().size(), 3U);
    }
    EXPECT_EQ(corners, 4);
    part.dress.cornerLength = mm(40);
    int whole = 0;
    for (const Shape& s : derive(part).silkscreen)
        whole += s.name == "outline" && s.points().front() == s.points().back();
    EXPECT_EQ(whole, 1) << "where the corners meet it is whole";
}

TEST(Courtyard, ItHugsWhatItHoldsAndHoldsAllOfIt) {
    // A lever to one side: the courtyard follows it and does not become its box.
    const Laid l = laid(
        mark(MarkKind::Keepout, {{hold(kRightFace), hold(kRearFace, "-2")}, {hold(kRightFace, "8"), hold(kRearFace)}}));
    const Polygons content = united([&] {
        Polygons all = polygonsOf(rectangleRing(l.f.body->rect));
        for (const Shape& k : l.f.keepouts)
            for (const auto& ring : k.area()) all.push_back(ring);
        return all;
    }());
    EXPECT_LT(areaOf(without(grown(content, mm(0.5) - Length::fromUm(2)), l.f.courtyardTop)), 1e-6);
    EXPECT_LT(areaOf(l.f.courtyardTop), 0.8 * l.f.courtyard.width().mm() * l.f.courtyard.height().mm());
    // Below there are the leads alone.
    EXPECT_LT(areaOf(l.f.courtyardBottom), 0.5 * areaOf(l.f.courtyardTop));
    for (const Pad& p : l.f.pads) EXPECT_TRUE(contains(l.f.courtyardBottom, p.at));
}

TEST(Marks, AValueOfItsOwnIsPrintedInPlaceOfTheName) {
    Part part = test::demoPart();
    EXPECT_EQ(withFields(part, "{value}, {reference}"), part.name + ", " + part.reference + "1");
    const auto strokes = [](const Part& p) {
        std::size_t n = 0;
        for (const Shape& s : derive(p).assembly) n += s.name == "value" ? 1 : 0;
        return n;
    };
    const std::size_t byName = strokes(part);
    part.value = "1";
    EXPECT_EQ(withFields(part, "{value} of {name}"), "1 of " + part.name);
    EXPECT_GT(byName, strokes(part)) << "one stroke in place of a name";
    EXPECT_EQ(fromText(toText(part), "a test")->value, "1");
}

}  // namespace
}  // namespace punch::marks_test
