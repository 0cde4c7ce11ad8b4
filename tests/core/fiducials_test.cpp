// Fiducials: their gauge, and the pair that a part of fine pitch is offered.

#include <gtest/gtest.h>

#include "core/advise/local_fiducials.h"
#include "core/dress/courtyard.h"
#include "core/geometry/shapes.h"
#include "core/part/mark_kinds.h"
#include "tests/support/dice.h"
#include "tests/support/parts.h"

namespace punch::fiducials_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

Part withFiducial(Part part, double x, double y, std::map<std::string, std::string> set = {}) {
    Mark m = newMark(MarkKind::Fiducial);
    m.points = {
        {{kDatumFeature, HoldAt::Middle, fmt::format("{}", x)}, {kDatumFeature, HoldAt::Middle, fmt::format("{}", y)}}};
    m.set = std::move(set);
    return withMark(std::move(part), m);
}

Gauge gaugeOf(const Part& part) { return *derive(part).gauge("fiducials"); }

TEST(Fiducials, RingSizeAndNumberAreJudged) {
    const Part none = newPartWithoutPins();
    EXPECT_EQ(derive(none).gauge("fiducials"), nullptr) << "nobody asked for any";
    const auto one = [&](std::map<std::string, std::string> set) { return gaugeOf(withFiducial(none, 0, 0, set)); };
    EXPECT_EQ(one({}).state, GaugeState::Go);
    EXPECT_EQ(one({{"ring", "2"}}).state, GaugeState::Go) << "twice is the least";
    EXPECT_EQ(one({{"ring", "1.99"}}).state, GaugeState::NoGo);
    EXPECT_EQ(one({{"diameter", "0.9"}, {"ring", "2.7"}}).state, GaugeState::NoGo) << "1.0 to 3.0";
    EXPECT_EQ(one({{"diameter", "3.1"}, {"ring", "9"}}).state, GaugeState::NoGo);
    EXPECT_EQ(one({{"diameter", "0"}}).state, GaugeState::NoGo);
    EXPECT_EQ(one({{"reach", "this part"}}).state, GaugeState::NoGo) << "a local pair is two";
    // Three in corners of an oblong; two are too few, and so are unequal ones.
    Part three = withFiducial(withFiducial(withFiducial(none, 0, 0), 80, 0), 0, 50);
    EXPECT_EQ(gaugeOf(three).state, GaugeState::Go) << gaugeOf(three).words;
    EXPECT_EQ(gaugeOf(withoutMark(three, three.marks[2].id)).state, GaugeState::NoGo);
    Part unequal = three;
    unequal.marks[1].set = {{"diameter", "1.03"}};
    EXPECT_EQ(gaugeOf(unequal).state, GaugeState::NoGo);
    unequal.marks[1].set = {{"diameter", "1.02"}};
    EXPECT_EQ(gaugeOf(unequal).state, GaugeState::Go);
    // Something else within the ring.
    Part near = withFiducial(three, 81.9, 0);
    EXPECT_NE(gaugeOf(near).words.find("within"), std::string::npos) << gaugeOf(near).words;
}

TEST(Fiducials, TheEdgeOfTheBoardIsFiveBeyondTheRing) {
    Part part = newPartWithoutPins();
    part = withFiducial(withFiducial(withFiducial(part, 0, 0), 80, 0), 0, 50);
    part = withFace(part, FaceKind::BoardEdge, Axis::Across, false);
    const std::string at = part.faces[0].id + ".at";
    const auto state = [&](const char* typed) {
        Part next = part;
        next.given[at] = {typed, Unit::Mm};
        return gaugeOf(next).state;
    };
    EXPECT_EQ(state("-6.5"), GaugeState::Go);
    EXPECT_EQ(state("-6.49"), GaugeState::NoGo);
    EXPECT_EQ(state("10"), GaugeState::NoGo) << "two of them lie beside the board";
    EXPECT_EQ(gaugeOf(part).state, GaugeState::Unknown) << "an edge that nobody measured";
}

/// By trying turns and mirrors in steps of a quarter degree.
int bySteps(const std::vector<Point>& all) {
    Point m;
    for (const Point& p : all)
        m = m + Point{p.x / static_cast<double>(all.size()), p.y / static_cast<double>(all.size())};
    int worst = 0;
    for (const bool mirror : {false, true})
        for (double deg = mirror ? 0 : 5; deg < 360 - (mirror ? 0 : 5); deg += 0.25) {
            const double c = std::cos(deg * M_PI / 180), s = std::sin(deg * M_PI / 180);
            bool stays = true;
            for (const Point& p : all) {
                const Length x = p.x - m.x, y = mirror ? m.y - p.y : p.y - m.y;
                const Point to{m.x + c * x - s * y, m.y + s * x + c * y};
                double least = 1e9;
                for (const Point& q : all) least = std::min(least, distance(to, q).mm());
                stays = stays && least < 0.45;
            }
            if (stays) worst = std::max(worst, mirror ? 1 : 2);
        }
    return worst;
}

TEST(Fiducials, SymmetryIsWhatTryingEveryTurnFinds) {
    test::Dice dice(8);
    int symmetrical = 0;
    for (int round = 0; round < 60; ++round) {
        Part part = newPartWithoutPins();
        std::vector<Point> all;
        const int n = 3 + dice.below(3);
        const int how = dice.below(3);
        for (int i = 0; i < n; ++i) {
            Point p{mm(std::round(dice.between(-40, 40))), mm(std::round(dice.between(-40, 40)))};
            if (how == 1)  // around a ring
                p = {mm(30 * std::cos(2 * M_PI * i / n)), mm(30 * std::sin(2 * M_PI * i / n))};
            if (how == 2 && i >= n / 2 && n % 2 == 0) p = {-all[i - n / 2].x, -all[i - n / 2].y};
            all.push_back(p);
        }
        bool apart = true;
        for (int i = 0; i < n; ++i)
            for (int k = 0; k < i; ++k) apart = apart && distance(all[i], all[k]) > mm(6);
        if (!apart) continue;
        for (const Point& p : all) part = withFiducial(part, p.x.mm(), p.y.mm());
        const Gauge g = gaugeOf(part);
        const int found = g.state == GaugeState::NoGo ? 2 : g.state == GaugeState::Watch ? 1 : 0;
        EXPECT_EQ(found, bySteps(all)) << round << " " << g.words;
        symmetrical += found > 0 ? 1 : 0;
    }
    EXPECT_GT(symmetrical, 10);
}

Part fine(const char* pitch) {
    Part part = newPartWithoutPins();
    Mark lands = newMark(MarkKind::SurfaceLands);
    lands.points = {{{kDatumFeature, HoldAt::Middle, "1"}, {kDatumFeature, HoldAt::Middle, "-2"}}};
    lands.set = {{"package", "gull wing, two sides"},
                 {"overall", "6.2..6.6"},
                 {"terminal", "0.5..0.8"},
                 {"width", "0.17..0.27"},
                 {"pitch", pitch},
                 {"count", "10"}};
    return withMark(part, lands);
}

TEST(LocalFiducials, AreOfferedWhereThePitchIsFineAndStandClear) {
    EXPECT_FALSE(pitchAskingForFiducials(fine("0.8"), derive(fine("0.8"))));
    for (const char* pitch : {"0.65", "0.5", "0.4"}) {
        const Part part = fine(pitch);
        const Footprint f = derive(part);
        ASSERT_TRUE(pitchAskingForFiducials(part, f)) << pitch;
        const Part with = withLocalFiducials(part, f);
        const Footprint g = derive(with);
        EXPECT_EQ(g.gauge("fiducials")->state, GaugeState::Go) << g.gauge("fiducials")->words;
        EXPECT_FALSE(pitchAskingForFiducials(with, g)) << "they are there";
        ASSERT_EQ(g.laid.size(), 3U);
        // Their rings keep off all that was there, and go where the lands go.
        const Rect box = courtyardContent(f.board(), f.body);
        for (int i = 1; i < 3; ++i)
            EXPECT_GE(gap(RoundedPolygon::disc(g.laid[i].points[0], mm(3)), RoundedPolygon::rectangle(box)),
                      mm(-0.001));
        Part moved = with;
        moved.marks[0].points[0].x.off = "4";
        EXPECT_NEAR((derive(moved).laid[1].points[0].x - g.laid[1].points[0].x).mm(), 3, 1e-6);
    }
    // A fine pitch of pins that was read asks too; a loose one does not.
    Part row = test::bareRow(10);
    EXPECT_FALSE(pitchAskingForFiducials(row, derive(row)));
    row.taken["pitch"] = mm(0.5);
    EXPECT_TRUE(pitchAskingForFiducials(row, derive(row)));
}

}  // namespace
}  // namespace punch::fiducials_test
