// What sight is made of: orders of graduations, series of strokes, formations among strangers, radii under blur, clicks
// on pages, scales stated in words, the rim offset in the adjustment.

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "core/drawing/find_in_drawing.h"
#include "core/drawing/snap_page.h"
#include "core/measure/adjust.h"
#include "core/part/edit.h"
#include "core/picture/component_tree.h"
#include "core/picture/read_picture.h"
#include "core/picture/recognise_among.h"
#include "core/picture/rim_points.h"
#include "core/picture/ruler_order.h"
#include "core/picture/strokes.h"
#include "core/picture/take.h"
#include "demo/maker/scan_maker.h"

namespace punch::sight_parts_test {
namespace {

using Order = std::vector<int>;

std::vector<double> lengths(int count, int from, double (*of)(int), std::mt19937& random, double noise) {
    std::normal_distribution<double> n(0, noise);
    std::vector<double> out;
    for (int k = 0; k < count; ++k) out.push_back(of(k + from) + n(random));
    return out;
}
double millimetre(int k) { return k % 10 == 0 ? 4.2 : k % 5 == 0 ? 3.2 : 2.2; }
double halfMillimetre(int k) { return k % 20 == 0 ? 5 : k % 10 == 0 ? 4 : k % 2 == 0 ? 3 : 1.8; }
double sixteenth(int k) { return k % 16 == 0 ? 6 : k % 8 == 0 ? 4.8 : k % 4 == 0 ? 3.8 : k % 2 == 0 ? 2.9 : 2.0; }
double alike(int) { return 1.8; }

TEST(RulerOrder, SaysWhatAStepIsWhereverTheSeriesBegins) {
    std::mt19937 random(3);
    for (int from = 0; from < 20; ++from) {
        EXPECT_EQ(orderOfLengths(lengths(45, from, millimetre, random, 0.05)), (Order{5, 2})) << from;
        EXPECT_EQ(orderOfLengths(lengths(80, from, halfMillimetre, random, 0.05)), (Order{2, 5, 2})) << from;
        const Order inch = orderOfLengths(lengths(40, from, sixteenth, random, 0.05));
        EXPECT_GE(inch.size(), 3U) << from;
        EXPECT_EQ(inch, Order(inch.size(), 2)) << from;
    }
    EXPECT_DOUBLE_EQ(stepsByOrder({5, 2}).front(), 1.0);
    EXPECT_DOUBLE_EQ(stepsByOrder({2, 5, 2}).front(), 0.5);
    EXPECT_DOUBLE_EQ(stepsByOrder({2, 2, 2, 2}).front(), 25.4 / 16);
    EXPECT_TRUE(stepsByOrder({}).empty());
    EXPECT_TRUE(stepsByOrder({2}).empty());
}

TEST(RulerOrder, EvenAndRandomLengthsHaveNone) {
    std::mt19937 random(4);
    EXPECT_TRUE(orderOfLengths(lengths(30, 0, alike, random, 0.05)).empty());
    int believed = 0;
    for (int i = 0; i < 300; ++i) {
        std::uniform_real_distribution<double> any(1, 3);
        std::vector<double> some;
        for (int k = 0; k < 25; ++k) some.push_back(any(random));
        believed += stepsByOrder(orderOfLengths(some)).empty() ? 0 : 1;
    }
    EXPECT_LE(believed, 3);
}

TEST(Strokes, ATurnedSeriesIsFollowedWithMarksMissing) {
    for (const double turn : {0.0, 6.0, 15.0, -12.0}) {
        Grey g{500, 300, std::vector<std::uint8_t>(150000, 200)};
        const double c = std::cos(turn * std::numbers::pi / 180), s = std::sin(turn * std::numbers::pi / 180);
        for (int k = 0; k < 40; ++k) {
            if (k == 17 || k == 23) continue;
            const double l = k % 10 == 0 ? 22 : k % 5 == 0 ? 17 : 12;
            for (double t = 0; t < l; t += 0.25) {
                const double x = 60 + 8.3 * k * c - t * s, y = 140 + 8.3 * k * s + t * c;
                for (const double w : {-0.4, 0.0, 0.4}) {
                    const auto px = static_cast<int>(std::lround(x + w * c)), py = static_cast<int>(std::lround(y));
                    g.data[static_cast<std::size_t>(py) * 500 + px] = 40;
                }
            }
        }
        const auto series = seriesOf(strokesDown(g, true), true, 9);
        ASSERT_FALSE(series.empty()) << turn;
        EXPECT_NEAR(std::hypot(series[0].step.x, series[0].step.y), 8.3, 0.1) << turn;
        EXPECT_GE(series[0].there, 30) << turn;
        EXPECT_TRUE(seriesOf(strokesDown(g, false), false, 9).empty() ||
                    seriesOf(strokesDown(g, false), false, 9)[0].there < series[0].there);
    }
}

TEST(FormationsAmong, PatternsAreFoundAmongStrangers) {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> near(-14, 14), off(-0.02, 0.02);
    int right = 0, all = 0;
    for (int round = 0; round < 60; ++round) {
        std::vector<FoundPlace> places;
        const int columns = 4 + round % 6, rows = 1 + round % 3;
        for (int r = 0; r < rows; ++r)
            for (int k = 0; k < columns; ++k)
                places.push_back({(k - columns / 2.0) * 2.54 + off(random), r * 2.54 + off(random), 0.01});
        const std::size_t pins = places.size();
        for (int k = 0; k < 1 + round % 2; ++k) {
            FoundPlace stranger{near(random), near(random), 0.01};
            // A stranger that happens to stand on the pattern is none.
            if (std::abs(std::remainder(stranger.y, 2.54)) < 0.5) stranger.y += 1.1;
            places.push_back(stranger);
        }
        const auto found = formationsAmong(places);
        ++all;
        if (found.empty() || found[0].members.size() != pins) continue;
        right += std::all_of(found[0].members.begin(), found[0].members.end(),
                             [&](int m) { return static_cast<std::size_t>(m) < pins; })
                     ? 1
                     : 0;
    }
    EXPECT_GE(right, all - 2);
}

TEST(FormationsAmong, TwoPatternsComeOneAfterTheOther) {
    std::vector<FoundPlace> places;
    for (int k = 0; k < 12; ++k) places.push_back({k * 2.54, 0, 0.01});
    for (int k = 0; k < 5; ++k) places.push_back({3.1 + k * 5.0 * std::cos(0.4), 11.3 + k * 5.0 * std::sin(0.4), 0.01});
    const auto found = formationsAmong(places);
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(found[0].members.size(), 12U);
    EXPECT_EQ(found[1].members.size(), 5U);
    EXPECT_EQ(found[1].formation.kind, FormationKind::Row);
}

TEST(Blur, ARadiusIsFreedOfItExactly) {
    // The steepest place of a disc of radius R under a Gaussian, found by plain search over its radial slope.
    for (const double sigma : {0.8, 1.5, 3.0, 5.0})
        for (const double R : {6.0, 11.8, 25.0}) {
            if (sigma > 0.45 * R) continue;
            double best = 0, most = -1e300;
            for (double r = 0.5; r < R + 3 * sigma; r += 0.0005) {
                const double x = r * R / (sigma * sigma);
                // exp(-(r-R)²/2s²) times the scaled Bessel function.
                const double value = -(r - R) * (r - R) / (2 * sigma * sigma) +
                                     std::log(std::cyl_bessel_i(1.0, std::min(x, 600.0))) - std::min(x, 600.0) -
                                     (x > 600 ? 0.5 * std::log(x / 600) : 0.0);
                if (value > most) {
                    most = value;
                    best = r;
                }
            }
            EXPECT_NEAR(unblurredRadius(best, sigma * sigma), R, 0.01) << sigma << " " << R;
        }
}

/// Pixels at or above a level (at or below, of dark ones) that hang together with a place.
double areaAt(const Grey& g, int x, int y, int level, bool bright) {
    std::vector<bool> seen(g.data.size());
    std::vector<std::pair<int, int>> stack{{x, y}};
    double area = 0;
    while (!stack.empty()) {
        const auto [px, py] = stack.back();
        stack.pop_back();
        if (px < 0 || py < 0 || px >= g.width || py >= g.height) continue;
        const std::size_t at = static_cast<std::size_t>(py) * g.width + px;
        if (seen[at] || (bright ? g.data[at] < level : g.data[at] > level)) continue;
        seen[at] = true;
        area += 1;
        for (const auto& [dx, dy] : {std::pair(1, 0), std::pair(-1, 0), std::pair(0, 1), std::pair(0, -1)})
            stack.emplace_back(px + dx, py + dy);
    }
    return area;
}

TEST(ComponentTree, EveryPatchIsWhatHangsTogetherAtItsLevel) {
    std::mt19937 random(21);
    int patches = 0;
    for (int round = 0; round < 40; ++round) {
        Grey g{24, 19, {}};
        std::uniform_int_distribution<int> any(0, round % 2 == 0 ? 255 : 6);
        for (int i = 0; i < 24 * 19; ++i) g.data.push_back(static_cast<std::uint8_t>(any(random)));
        // Some smooth hills among the noise.
        for (int y = 0; y < 19; ++y)
            for (int x = 0; x < 24; ++x)
                if (round % 4 > 1) {
                    auto& v = g.data[static_cast<std::size_t>(y) * 24 + x];
                    v = static_cast<std::uint8_t>(
                        std::clamp(v / 8.0 + 120 + 80 * std::sin(x * 0.7) * std::cos(y * 0.6), 0.0, 255.0));
                }
        BlobSearch search;
        search.leastArea = 2;
        search.mostArea = 200;
        search.leastFullness = 0;
        search.mostVariation = 10;
        search.deltas = {6, 2};
        for (const bool bright : {true, false})
            for (const Blob& b : findBlobs(g, bright, search)) {
                ++patches;
                // Some pixel of it lies on its upper edge.
                double area = 0;
                for (int x = b.left; x <= b.right && area != b.area; ++x) area = areaAt(g, x, b.top, b.level, bright);
                EXPECT_EQ(area, b.area) << round << (bright ? " bright " : " dark ") << b.level;
                EXPECT_GE(b.x, b.left);
                EXPECT_LE(b.y, b.bottom);
            }
    }
    EXPECT_GT(patches, 300);
}

TEST(ComponentTree, SmallPatchesThatAreNoNodesChangeNothing) {
    std::mt19937 random(5);
    std::normal_distribution<double> noise(0, 4);
    int stable = 0;
    for (int round = 0; round < 12; ++round) {
        Grey g{60, 50, {}};
        std::uniform_real_distribution<double> at(6, 44);
        const double x0 = at(random), y0 = at(random), x1 = at(random), y1 = at(random);
        for (int y = 0; y < 50; ++y)
            for (int x = 0; x < 60; ++x) {
                double v = 90 + noise(random);
                if (std::hypot(x - x0, y - y0) < 4.5) v += 90;
                if (std::hypot(x - x1, y - y1) < 3) v -= 60;
                g.data.push_back(static_cast<std::uint8_t>(std::clamp(v, 0.0, 255.0)));
            }
        BlobSearch search;
        search.leastArea = 8;
        search.mostArea = 300;
        search.leastFullness = 0.7;
        BlobSearch all = search;
        all.mostVariation = 1.01;  // then every pixel is a node
        for (const bool bright : {true, false}) {
            const auto key = [](const Blob& b) { return std::tuple(b.level, b.area, b.x, b.y, b.variation); };
            std::vector<std::tuple<int, double, double, double, double>> some, every;
            for (const Blob& b : findBlobs(g, bright, search)) some.push_back(key(b));
            for (const Blob& b : findBlobs(g, bright, all))
                if (b.variation <= search.mostVariation) every.push_back(key(b));
            std::sort(some.begin(), some.end());
            std::sort(every.begin(), every.end());
            EXPECT_EQ(some, every);
            stable += static_cast<int>(some.size());
        }
    }
    EXPECT_GT(stable, 12);
}

TEST(ReducedBy, AnyFactorKeepsTheMeanAndWholeOnesAreThePlainAverage) {
    std::mt19937 random(8);
    std::uniform_int_distribution<int> any(0, 255);
    Grey g{97, 61, {}};
    for (int i = 0; i < 97 * 61; ++i) g.data.push_back(static_cast<std::uint8_t>(any(random)));
    const Grey thirds = reduced(g, 3), same = reducedBy(g, 3.0);
    ASSERT_EQ(same.data.size(), thirds.data.size());
    for (std::size_t i = 0; i < thirds.data.size(); ++i) EXPECT_NEAR(same.data[i], thirds.data[i], 1.5);
    // A ramp stays where it is: cell (i, j) has its middle at ((i + 0.5) f - 0.5, ...).
    Grey ramp{120, 80, {}};
    for (int y = 0; y < 80; ++y)
        for (int x = 0; x < 120; ++x) ramp.data.push_back(static_cast<std::uint8_t>(x + y));
    for (const double f : {1.2, 1.57, 1.9, 2.5}) {
        const Grey small = reducedBy(ramp, f);
        EXPECT_EQ(small.width, static_cast<int>(120 / f));
        for (int y = 0; y < small.height; y += 7)
            for (int x = 0; x < small.width; x += 5)
                EXPECT_NEAR(small.at(x, y), (x + 0.5) * f - 0.5 + (y + 0.5) * f - 0.5, 1.1) << f;
    }
    EXPECT_EQ(reducedBy(ramp, 1.0).data, ramp.data);
}

TEST(Tone, AFileThatNamesItsCurveIsHeard) {
    Picture p;
    p.width = p.height = 8;
    p.data.assign(64, 100);
    for (const double tone : {1.0, 1.8, 2.2}) {
        p.tone = tone;
        const auto read = pictureFromBytes(maker::pngBytes(p, 600), "x.png");
        ASSERT_TRUE(read);
        ASSERT_TRUE(read->tone);
        EXPECT_NEAR(*read->tone, tone, 0.01);
    }
    p.tone.reset();
    EXPECT_FALSE(pictureFromBytes(maker::pngBytes(p, 600), "x.png")->tone);
}

Grey page(const std::vector<std::array<double, 4>>& lines) {
    Grey g{300, 300, std::vector<std::uint8_t>(90000, 255)};
    for (int y = 0; y < 300; ++y)
        for (int x = 0; x < 300; ++x)
            for (const auto& [ax, ay, bx, by] : lines) {
                const double l2 = (bx - ax) * (bx - ax) + (by - ay) * (by - ay);
                const double t = std::clamp(((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / l2, 0.0, 1.0);
                const double d = std::hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay));
                const double cover = std::clamp(1.5 + 0.5 - d, 0.0, 1.0);
                auto& v = g.data[static_cast<std::size_t>(y) * 300 + x];
                v = static_cast<std::uint8_t>(std::min<double>(v, 255 * (1 - cover)));
            }
    return g;
}

TEST(SnapOnPage, MeetsCrossingsEndsAndLines) {
    // An extension line, a dimension line that points at it with an arrow, and a slanted line that ends in the open.
    std::vector<std::array<double, 4>> lines = {{80.3, 20, 80.3, 250}, {80.3, 60.6, 260, 60.6}, {150, 150, 240, 195}};
    for (double k = 0; k < 10; k += 0.5) lines.push_back({80.3 + 2 * k, 60.6 - k / 3, 80.3 + 2 * k, 60.6 + k / 3});
    const Grey g = page(lines);
    const auto tip = snapOnPage(g, {84, 57}, 12);
    ASSERT_TRUE(tip);
    EXPECT_EQ(tip->kind, SnappedPlace::Kind::Crossing);
    EXPECT_NEAR(tip->at.x, 80.3, 0.4);
    EXPECT_NEAR(tip->at.y, 60.6, 0.8);
    const auto end = snapOnPage(g, {146, 153}, 12);
    ASSERT_TRUE(end);
    EXPECT_EQ(end->kind, SnappedPlace::Kind::End);
    EXPECT_NEAR(std::hypot(end->at.x - 150, end->at.y - 150), 0, 2.2);  // half the line's width
    const auto line = snapOnPage(g, {86, 180}, 12);
    ASSERT_TRUE(line);
    EXPECT_EQ(line->kind, SnappedPlace::Kind::Line);
    EXPECT_NEAR(line->at.x, 80.3, 0.3);
    EXPECT_NEAR(line->at.y, 180, 0.3);
    EXPECT_FALSE(snapOnPage(g, {40, 280}, 12));
    EXPECT_FALSE(snapOnPage(Grey{20, 20, std::vector<std::uint8_t>(400, 255)}, {5, 5}, 12));
}

TEST(StatedScales, AreReadFromTitleBlocksAndNotFromOtherNumbers) {
    const auto stated = [](std::initializer_list<const char*> texts) {
        Drawing d;
        for (const char* t : texts) d.texts.push_back({{}, 10, 5, 0, t, {}});
        std::vector<std::string> words;
        for (const StatedScale& s : scalesStated(d)) words.push_back(s.words);
        return words;
    };
    using W = std::vector<std::string>;
    EXPECT_EQ(stated({"Light sensor LX4 · scale 4:1"}), W{"4:1"});
    EXPECT_EQ(stated({"SCALE", "2:1", "A4"}), W{"2:1"});
    EXPECT_EQ(stated({"Scale 1:2.5"}), W{"1:2.5"});
    EXPECT_EQ(stated({"Massstab 5 : 1", "Detail 10:1"}), (W{"5:1", "10:1"}));
    EXPECT_EQ(stated({"ÉCHELLE 2,5:1."}), W{"2.5:1"});
    EXPECT_EQ(stated({"MAßSTAB 1:1, A3"}), W{"1:1"});
    EXPECT_TRUE(
        stated({"12:45:07", "ratio 3:7", "7.62 ±0.05", "ISO 2768:1989", "scale 1:2:3", "scale 1:2.5.1"}).empty());
    const std::string digits(390, '1');
    EXPECT_TRUE(stated({digits.c_str(), ("scale " + digits + ":1").c_str(), "scale 1:", "scale :1", ":"}).empty());
}

/// A scan of a row: places and sizes of four pins, all seen 0.05 mm too large by the same rim.
TEST(RimOffset, OneCaliperReadingTakesItAwayForAll) {
    Picture picture;
    picture.width = 1400;
    picture.height = 600;
    picture.dpi = Dpi{600, 600};
    auto [part, id] = withPicture(*newRow(4), "scan", "scan.png", picture);
    part.sources[0].face = PictureFace::PartSide;
    const double n = 600 / 25.4;
    for (int i = 0; i < 4; ++i)
        part = withPick(std::move(part), id, part.formations[0].pins[static_cast<std::size_t>(i)],
                        {200 + 5.08 * n * i, 300}, 0.05, 1.05 * n, 0.05, 0.9);
    const Adjustment before(part);
    const auto width = [](const Adjustment& a) { return a.parameter("lead.width"); };
    EXPECT_NEAR(before.parameter("lead.width").value(), 1.05, 0.005);
    EXPECT_GT(before.doubt(width(before)), 2 * 0.9 / n * 0.95);
    // The pitch does not feel it: it cancels in centres.
    EXPECT_NEAR(before.doubt(before.parameter("pitch")), 5.08 * 0.005, 0.002);
    Reading across;
    across.contact = Contact::Size;
    across.a = part.formations[0].pins[2];
    RawValue raw;
    raw.typed = "1.00";
    raw.value = Length::fromMm(1);
    across.raw = {raw};
    const Part read = withReading(part, across);
    const Adjustment after(read);
    EXPECT_NEAR(after.parameter("lead.width").value(), 1.0, 0.012);
    EXPECT_LT(after.doubt(width(after)), 0.03);
    EXPECT_NEAR(after.parameter(id + ".rimBright").value(), 0.025, 0.008);
}

}  // namespace
}  // namespace punch::sight_parts_test
