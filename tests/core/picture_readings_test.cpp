// Readings taken in a picture, in one adjustment with those of calipers.

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/derive.h"
#include "core/measure/adjust.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "core/picture/take.h"
#include "tests/support/scenes.h"

namespace punch::picture_readings_test {
namespace {

struct Taken {
    Part part;
    std::string source;
    Found found;
};

Taken takeScan(const test::TrueScene& t, bool pairs) {
    const maker::Scan scan = maker::makeScan(t.scene);
    Taken out;
    out.part = *newRow(4);
    std::tie(out.part, out.source) = withPicture(out.part, "underside.png", "underside.png", scan.picture);
    out.part.sources[0].face = t.scene.fromBelow ? PictureFace::SolderSide : PictureFace::PartSide;
    FindOptions options;
    options.fromBelow = t.scene.fromBelow;
    options.lookForRuler = false;
    out.found = *findInPicture(scan.picture, options);
    if (pairs) {
        const PixelPoint a{20, 20};
        const PixelPoint x{20 + 15 * scan.pixelsPerMmX, 20};
        const PixelPoint y{20, 20 + 15 * scan.pixelsPerMmY};
        out.part = *withKnownLength(out.part, out.source, a, x, "15", Unit::Mm, 0.1);
        out.part = *withKnownLength(out.part, out.source, a, y, "15mm", Unit::Mm, 0.1);
    }
    out.part = *withFound(out.part, out.source, out.found, {});
    return out;
}

TEST(PictureReadings, EveryKindOfFormationComesOutFirmWhereItIs) {
    for (const int number : {0, 1, 2, 3, 4, 5, 6, 7, 8, 14, 17}) {
        const test::TrueScene t = test::randomScene(number, 600);
        const Taken taken = takeScan(t, true);
        const Footprint f = derive(taken.part);
        ASSERT_EQ(f.pads.size(), t.pins) << number;
        double worst = 0;
        for (const Pad& p : f.pads) {
            EXPECT_TRUE(p.firm) << number << " pad " << p.number << (f.loose.empty() ? "" : ": " + f.loose[0].words);
            // The nearest true pin, from the middle of all.
            double nearest = 1e9;
            double left = 1e9, right = -1e9, low = 1e9, high = -1e9, pl = 1e9, pr = -1e9, plo = 1e9, phi = -1e9;
            for (std::size_t i = 0; i < t.pins; ++i) {
                left = std::min(left, t.scene.things[i].x);
                right = std::max(right, t.scene.things[i].x);
                low = std::min(low, t.scene.things[i].y);
                high = std::max(high, t.scene.things[i].y);
            }
            for (const Pad& q : f.pads) {
                pl = std::min(pl, q.at.x.mm());
                pr = std::max(pr, q.at.x.mm());
                plo = std::min(plo, q.at.y.mm());
                phi = std::max(phi, q.at.y.mm());
            }
            for (std::size_t i = 0; i < t.pins; ++i)
                nearest = std::min(nearest,
                                   std::hypot(p.at.x.mm() - (pl + pr) / 2 - t.scene.things[i].x + (left + right) / 2,
                                              p.at.y.mm() - (plo + phi) / 2 - t.scene.things[i].y + (low + high) / 2));
            worst = std::max(worst, nearest);
        }
        EXPECT_LT(worst, 0.08) << number;  // what two known lengths of 15 mm leave open over 20 mm
        for (const Gauge& g : f.gauges) {
            if (g.name == "readings") {
                EXPECT_NE(g.state, GaugeState::NoGo) << number << " " << g.words;
            }
        }
    }
}

test::TrueScene rowOfEight() {
    test::TrueScene t;
    t.kind = FormationKind::Row;
    t.scene.ruler = false;
    t.scene.tilt = 1.4;
    t.scene.stretchX = 1.004;
    t.scene.dust = 5;
    t.scene.things = maker::rowOfPins(8, 2.54, 0.8);
    t.pins = 8;
    return t;
}

Reading caliper(const FeatureId& a, const FeatureId& b, double mm) {
    Reading r;
    r.a = a;
    r.b = b;
    RawValue v;
    v.value = Length::fromMm(mm);
    v.typed = std::to_string(mm);
    r.raw = {v};
    return r;
}

TEST(PictureReadings, OneCaliperReadingSharpensAWholeScan) {
    const Taken taken = takeScan(rowOfEight(), false);
    const Adjustment before(taken.part);
    EXPECT_NEAR(before.doubt(before.parameter(taken.source + ".scaleX")), 0.005, 0.0005);  // by the dpi alone
    const double loosely = before.doubt(before.parameter("pitch"));
    EXPECT_NEAR(before.parameter("pitch").value(), 2.54 * 1.004, 0.003);
    const auto pins = taken.part.formations[0].pins;
    const Part sharp = withReading(taken.part, caliper(pins[0], pins[7], 7 * 2.54 + 0.8));
    const Adjustment after(sharp);
    // The outside distance counts the rims of both outer pins, whose common offset is not known.
    EXPECT_LT(after.doubt(after.parameter("pitch")), loosely / 2.2);
    // Across one pin it is measured, and then the outside is worth what the calipers are.
    Reading across = caliper(pins[3], "", 0.8);
    across.contact = Contact::Size;
    const Adjustment best(withReading(sharp, across));
    EXPECT_LT(best.doubt(best.parameter("pitch")), loosely / 2.5);
    EXPECT_NEAR(after.parameter("pitch").value(), 2.54, after.doubt(after.parameter("pitch")) + 0.001);
    EXPECT_NEAR(after.parameter(taken.source + ".scaleX").value(), 1 / 1.004, 0.0015);
}

TEST(PictureReadings, CalipersThatContradictTheScanAreNamed) {
    Taken taken = takeScan(rowOfEight(), true);
    const auto pins = taken.part.formations[0].pins;
    taken.part = withReading(taken.part, caliper(pins[0], pins[7], 7 * 2.54 + 0.8));
    taken.part = withReading(taken.part, caliper(pins[1], pins[6], 5 * 2.54 + 0.8));
    taken.part = withReading(taken.part, caliper(pins[2], pins[5], 3 * 2.54 + 0.8 + 0.35));
    const Adjustment a(taken.part);
    const ReadingResult& last = a.readings().back();
    EXPECT_EQ(last.state, ReadingState::InDoubt);
    EXPECT_NE(last.words.find("0.35"), std::string::npos) << last.words;
}

TEST(PictureReadings, AWildValueIsNamedAndDragsNothing) {
    Taken taken = takeScan(rowOfEight(), true);
    const auto pins = taken.part.formations[0].pins;
    taken.part = withReading(taken.part, caliper(pins[0], pins[7], 7 * 2.54 + 0.8));
    const double pitch = Adjustment(taken.part).parameter("pitch").value();
    for (const double wild : {45.0, 3.0, 120.0}) {
        Reading r = caliper(pins[1], pins[5], wild);
        r.axis = Axis::Direct;
        const Adjustment a(withReading(taken.part, r));
        EXPECT_EQ(a.readings().back().state, ReadingState::InDoubt) << wild;
        EXPECT_NEAR(a.parameter("pitch").value(), pitch, 0.002) << wild;
        int inDoubt = 0;
        for (const ReadingResult& result : a.readings()) inDoubt += result.state == ReadingState::InDoubt ? 1 : 0;
        EXPECT_EQ(inDoubt, 1) << wild;
    }
}

TEST(PictureReadings, TheFaceIsAskedAndMirrors) {
    test::TrueScene t = rowOfEight();
    t.scene.things[7].x += 2.54;  // a gap says which end is which
    Taken taken = takeScan(t, true);
    ASSERT_EQ(taken.part.formations[0].kind, FormationKind::Grid);
    EXPECT_EQ(taken.part.formations[0].leftOut, std::vector<int>{7});
    taken.part.sources[0].face = PictureFace::NotSaid;
    EXPECT_FALSE(withFound(taken.part, taken.source, taken.found, {}));
    EXPECT_EQ(Adjustment(taken.part).readings().back().stats.usable, true);  // a size needs no face
    const auto results = readingStats(taken.part);
    for (std::size_t i = 0; i < results.size(); ++i) {
        if (taken.part.readings[i].contact == Contact::Picture) {
            EXPECT_FALSE(results[i].usable);
        }
    }
}

TEST(PictureReadings, AreWrittenAndReadBack) {
    const Taken taken = takeScan(test::randomScene(1, 600), true);
    const auto again = fromText(toText(taken.part), "again");
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, taken.part);
}

TEST(PictureReadings, AnArcStandsByItsOwnSymmetryAndPegsComeAlong) {
    test::TrueScene t;
    t.scene.ruler = false;
    t.scene.tilt = -2;
    t.scene.things = maker::arcOfPins(6, 15, 165, 15, 1);
    maker::Thing lug;
    lug.look = maker::Look::Lug;
    lug.round = false;
    lug.x = 8.6;
    lug.y = -6.1;
    lug.width = 0.8;
    lug.height = 2.0;
    t.scene.things.push_back(lug);
    t.pins = 6;
    const Taken taken = takeScan(t, true);
    ASSERT_EQ(taken.part.spots.size(), 1u);
    EXPECT_TRUE(taken.part.spots[0].flat);
    const Adjustment a(taken.part);
    EXPECT_NEAR(a.parameter("circle").value(), 15, 0.05);
    EXPECT_NEAR(a.parameter("step").value(), 30, 0.03);
    EXPECT_NEAR(a.parameter("start").value(), 15, 0.08);
    const std::string id = taken.part.spots[0].id;
    EXPECT_TRUE(a.firm(a.parameter(id + ".x")));
    EXPECT_NEAR(a.parameter(id + ".x").value(), 8.6, 0.05);
    EXPECT_NEAR(a.parameter(id + ".y").value(), -6.1, 0.05);
    EXPECT_NEAR(a.parameter(id + ".width").value(), 0.8, 0.02);
    EXPECT_NEAR(a.parameter(id + ".thickness").value(), 2.0, 0.02);
}

TEST(PictureReadings, NumbersBeginAtThePinThatIsChosen) {
    test::TrueScene t;
    t.scene.ruler = false;
    t.scene.things = maker::arcOfPins(6, 15, 165, 15, 1);
    t.pins = 6;
    Taken taken = takeScan(t, true);
    for (const std::size_t one : {std::size_t{0}, std::size_t{5}}) {
        auto [part, source] = withPicture(*newRow(2), "again", "again.png", maker::makeScan(t.scene).picture);
        part.sources[0].face = PictureFace::SolderSide;
        TakeOptions options;
        options.pinOne = one;
        part = *withFound(part, source, taken.found, options);
        const Footprint f = derive(part);
        for (int k = 0; k < 6; ++k) {
            // From the right end counter-clockwise, or from the left end clockwise.
            const double a = (one == 0 ? 15 + 30 * k : 165 - 30 * k) * 3.14159265358979 / 180;
            const auto pad = std::find_if(f.pads.begin(), f.pads.end(),
                                          [&](const Pad& p) { return p.number == std::to_string(k + 1); });
            ASSERT_NE(pad, f.pads.end());
            EXPECT_NEAR(pad->at.x.mm(), 7.5 * std::cos(a), 0.1) << one << " pin " << k + 1;
        }
    }
}

TEST(PictureReadings, TakenTwiceIsReadAnewAndNothingComesTwice) {
    test::TrueScene t;
    t.scene.ruler = false;
    t.scene.tilt = 1;
    t.scene.things = maker::arcOfPins(6, 15, 165, 15, 1);
    maker::Thing peg;
    peg.look = maker::Look::Peg;
    peg.y = -5;
    peg.width = peg.height = 1.6;
    t.scene.things.push_back(peg);
    t.scene.plastic = 130;
    t.pins = 6;
    Taken taken = takeScan(t, true);
    ASSERT_EQ(taken.part.spots.size(), 1u);
    // Whichever pin is called the first now: the pins are there already.
    for (const std::size_t one : {std::size_t{0}, std::size_t{5}}) {
        TakeOptions options;
        options.pinOne = one;
        const auto again = withFound(taken.part, taken.source, taken.found, options);
        ASSERT_TRUE(again);
        EXPECT_EQ(*again, taken.part);
    }
    // Read as of the other face before: the places went, and come back joined to the same peg.
    std::erase_if(taken.part.readings, [](const Reading& r) { return r.contact == Contact::Picture; });
    TakeOptions farEnd;
    farEnd.pinOne = 5;  // what is there keeps its numbers
    const auto back = withFound(taken.part, taken.source, taken.found, farEnd);
    ASSERT_TRUE(back);
    EXPECT_EQ(back->spots.size(), 1u);
    EXPECT_EQ(back->formations.size(), 1u);
    const Adjustment a(*back);
    EXPECT_NEAR(a.parameter("circle").value(), 15, 0.05);
    for (const ReadingResult& r : a.readings()) EXPECT_NE(r.state, ReadingState::InDoubt);
}

TEST(PictureReadings, HonestOverManyPictures) {
    // Places drawn from the model itself: scales, turn and shift as a scanner has them, picks with their doubt.
    std::mt19937 random(3);
    std::normal_distribution<double> normal;
    std::uniform_real_distribution<double> even(-1, 1);
    int held = 0, total = 0;
    for (int run = 0; run < 400; ++run) {
        Part p = *newRow(6);
        Picture blank;
        blank.width = 1400;
        blank.height = 1000;
        blank.dpi = Dpi{600, 600};
        std::string source;
        std::tie(p, source) = withPicture(p, "a", "a.png", blank);
        p.sources[0].face = PictureFace::PartSide;
        const double n = 25.4 / 600;
        const double sx = 1 + 0.002 * normal(random), sy = sx + 0.0025 * normal(random);
        const double turn = 0.03 * even(random);
        const auto pixel = [&](double x, double y) {
            const double dx = std::cos(turn) * x - std::sin(turn) * y;
            const double dy = std::sin(turn) * x + std::cos(turn) * y;
            return PixelPoint{(dx / sx + 12) / n, -(dy / sy - 20) / n};
        };
        p.assumed[source + ".x"] = Length::fromMm(12);
        p.assumed[source + ".y"] = Length::fromMm(-20 + 40);
        for (int i = 0; i < 6; ++i) {
            PixelPoint at = pixel(i * 5.08, 0);
            at.x += 0.1 * normal(random);
            at.y += 0.1 * normal(random);
            p = withPick(p, source, p.formations[0].pins[i], at, 0.1);
        }
        const double l = 30 * (1 + 0.0);
        PixelPoint a{50, 900}, b{50 + l / sx / n, 900};
        b.x += 0.05 / std::sqrt(3.0) * normal(random) / n;
        p = *withKnownLength(p, source, a, b, "30", Unit::Mm, 1e-6);
        const Adjustment adj(p);
        ++total;
        held += std::abs(adj.parameter("pitch").value() - 5.08) <= adj.doubt(adj.parameter("pitch")) ? 1 : 0;
        ASSERT_TRUE(adj.firm(adj.parameter("pitch")));
    }
    EXPECT_GE(held, 0.92 * total);
    EXPECT_LE(held, 0.98 * total);
}

}  // namespace
}  // namespace punch::picture_readings_test
