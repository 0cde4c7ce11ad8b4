// Hard pictures, as people make them: read rightly, or what is not sure is said. The generator paints in light and
// codes afterwards, unlike the one the finder was made with; `./dev sight` runs a thousand of them.

#include <gtest/gtest.h>

#include <cmath>

#include "core/measure/reading_result.h"
#include "demo/maker/sight_score.h"

namespace punch::sight_test {
namespace {

using maker::HardPicture;
using maker::SightScore;

/// The `which`th picture of a kind.
HardPicture ofKind(const std::string& kind, int which = 0) {
    const auto& kinds = maker::hardKinds();
    const auto at = std::find(kinds.begin(), kinds.end(), kind) - kinds.begin();
    EXPECT_LT(static_cast<std::size_t>(at), kinds.size()) << kind;
    return maker::hardPicture(static_cast<int>(at) + which * static_cast<int>(kinds.size()));
}

Found found(const HardPicture& p) {
    auto f = findInPicture(p.picture, p.options);
    EXPECT_TRUE(f) << f.error().text();
    return f ? *f : Found{};
}

bool isNoted(const Found& f, NoteAbout about) {
    return std::any_of(f.notes.begin(), f.notes.end(), [&](const FindNote& n) { return n.about == about; });
}

class Sight : public ::testing::TestWithParam<int> {};

TEST_P(Sight, IsReadRightlyOrSaid) {
    const HardPicture p = maker::hardPicture(GetParam());
    const SightScore s = scoreOf(p, findInPicture(p.picture, p.options));
    EXPECT_TRUE(s.silent.empty()) << p.kind << ": " << s.silent.front() << " wrong without a word; " << s.words;
    EXPECT_TRUE(s.formationRight) << p.kind << ": " << s.words;
    EXPECT_EQ(s.missed, 0) << p.kind;
    EXPECT_FALSE(s.scaleOff) << p.kind << ": off by " << s.scaleOffBy << " doubts";
}

std::string kindName(const ::testing::TestParamInfo<int>& info) {
    std::string name = maker::hardKinds()[static_cast<std::size_t>(info.param)];
    std::erase_if(name, [](char c) { return std::isalnum(static_cast<unsigned char>(c)) == 0; });
    return name;
}
INSTANTIATE_TEST_SUITE_P(EachKind, Sight, ::testing::Range(0, 30), kindName);

TEST(SightRuler, ItsBodyEndsWhereThePartBegins) {
    // The graduations lie on the far side of the body: what stands beyond it is no graduation.
    const HardPicture p = ofKind("turned away");
    const Found f = found(p);
    ASSERT_FALSE(f.scaleRulers.empty());
    const Ruler& r = f.rulers[f.scaleRulers.front()];
    EXPECT_TRUE(r.bodySeen);
    for (const maker::TruePin& t : p.pins) EXPECT_FALSE(r.covers(t.at));
    EXPECT_TRUE(r.covers({(r.first.x + r.last.x) / 2, (r.first.y + r.last.y) / 2}));
}

TEST(SightRuler, AWrongTagIsSetBesideItAndTheRulerCounts) {
    for (int which = 0; which < 6; ++which) {
        const HardPicture p = ofKind("wrong dpi", which);
        const Found f = found(p);
        EXPECT_EQ(f.scale.from, ScaleFrom::Ruler);
        ASSERT_EQ(f.witnesses.size(), 2U);
        EXPECT_TRUE(f.witnesses[0].rules);
        EXPECT_TRUE(f.witnesses[1].differs);
        EXPECT_TRUE(isNoted(f, NoteAbout::Scale));
        EXPECT_NEAR(f.scale.x / p.mmPerPixelX, 1, 0.004);
        // Who insists on the tag gets it, and the ruler is the one that differs.
        FindOptions byDpi = p.options;
        byDpi.scaleBy = ScaleFrom::Dpi;
        const auto other = findInPicture(p.picture, byDpi);
        ASSERT_TRUE(other);
        EXPECT_EQ(other->scale.from, ScaleFrom::Dpi);
        EXPECT_TRUE(isNoted(*other, NoteAbout::Scale));
    }
}

TEST(SightRuler, ATagThatIsWrongByTwoDoesNotHalveItsInches) {
    for (const double tag : {300.0, 1200.0}) {
        HardPicture p = ofKind("inches");
        p.picture.dpi = Dpi{tag, tag};
        const Found f = found(p);
        EXPECT_EQ(f.scale.from, ScaleFrom::Ruler);
        EXPECT_NEAR(f.scale.x / p.mmPerPixelX, 1, 0.006) << tag;
        EXPECT_TRUE(isNoted(f, NoteAbout::Scale)) << tag;
    }
}

TEST(SightRuler, OneThatIsChosenAgainstItsMarksSaysWhatAStepIsTakenFor) {
    // Even marks without an order: offered, and taken only by hand.
    Picture p;
    p.width = 900;
    p.height = 400;
    p.data.assign(360000, 200);
    for (int k = 0; k < 40; ++k)
        for (int y = 300; y < 350; ++y)
            for (int x = 0; x < 3; ++x) p.row(y)[30 + 20 * k + x] = 30;
    FindOptions o;
    EXPECT_FALSE(findInPicture(p, o)) << "even spacing alone is believed";
    o.ruler = 0;
    const auto f = findInPicture(p, o);
    ASSERT_TRUE(f) << f.error().text();
    EXPECT_FALSE(f->rulers[0].believed);
    EXPECT_TRUE(isNoted(*f, NoteAbout::Ruler));
}

TEST(SightRuler, WhatTheUserSaysAgainstItIsSaidBack) {
    const HardPicture p = ofKind("plain");
    FindOptions o = p.options;
    o.dpi = Dpi{300, 300};
    const auto f = findInPicture(p.picture, o);
    ASSERT_TRUE(f);
    EXPECT_EQ(f->scale.from, ScaleFrom::Ruler);
    EXPECT_TRUE(isNoted(*f, NoteAbout::Scale));
}

TEST(SightRuler, BladesAtEvenStepsAreNone) {
    for (int which = 0; which < 3; ++which) {
        const HardPicture p = ofKind("blades", which);
        const Found f = found(p);
        ASSERT_TRUE(f.formation);
        EXPECT_EQ(f.formation->positions.size(), 14U);
        EXPECT_NEAR(f.formation->pitch->value, 2.5, 0.02);
        for (const Ruler& r : f.rulers) {
            const bool overBlades = r.covers(p.pins[5].at) && r.covers(p.pins[9].at);
            EXPECT_FALSE(overBlades && r.believed);
        }
    }
}

TEST(SightRuler, ARefusedOneGivesItsMarksBack) {
    const HardPicture p = ofKind("plain");
    FindOptions o = p.options;
    o.dpi = Dpi{600, 600};
    o.refused = {0};
    const auto f = findInPicture(p.picture, o);
    ASSERT_TRUE(f);
    ASSERT_FALSE(f->rulers.empty());
    EXPECT_TRUE(f->rulers[0].refused);
    EXPECT_TRUE(f->scaleRulers.empty());
    EXPECT_EQ(f->scale.from, ScaleFrom::Dpi);
}

TEST(SightSize, NamedToneTakesItsOffsetAwayAndUnnamedCountsIt) {
    // Both are coded with the same exponent; only one file says so.
    double named = 0, unnamed = 0;
    for (int which = 0; which < 4; ++which) {
        HardPicture p = ofKind("tone named", which);
        const SightScore with = scoreOf(p, findInPicture(p.picture, p.options));
        p.picture.tone.reset();
        const SightScore without = scoreOf(p, findInPicture(p.picture, p.options));
        EXPECT_EQ(with.sizesHeld, with.sizes);
        EXPECT_EQ(without.sizesHeld, without.sizes);
        for (const double v : with.sizeOff) named = std::max(named, std::abs(v));
        for (const double v : without.sizeOff) unnamed = std::max(unnamed, std::abs(v));
    }
    EXPECT_LT(named, 0.008);
    EXPECT_LT(unnamed, 0.05);
}

TEST(SightSize, OutOfFocusAndGlossStayInTheirDoubt) {
    for (const char* kind : {"focus 3 px", "focus 5 px", "gloss"})
        for (int which = 0; which < 3; ++which) {
            const HardPicture p = ofKind(kind, which);
            const SightScore s = scoreOf(p, findInPicture(p.picture, p.options));
            EXPECT_GE(s.sizesHeld, 0.9 * s.sizes) << kind;
        }
}

TEST(SightFormation, ASecondPartIsOfferedByItself) {
    const HardPicture p = ofKind("two parts");
    const Found f = found(p);
    ASSERT_EQ(f.others.size(), 1U);
    EXPECT_TRUE(isNoted(f, NoteAbout::Formation));
    std::array<std::size_t, 2> pins{};
    for (const maker::TruePin& t : p.pins) ++pins[static_cast<std::size_t>(t.part)];
    EXPECT_EQ(f.formation->positions.size(), std::max(pins[0], pins[1]));
    EXPECT_EQ(f.others[0].members.size(), std::min(pins[0], pins[1]));
    const Found other = withOther(f, 0, p.options.fromBelow);
    ASSERT_TRUE(other.formation);
    EXPECT_EQ(other.formation->positions.size(), std::min(pins[0], pins[1]));
}

TEST(SightFormation, StrangersOfThePinsSizeAreNamedAndStayOut) {
    for (int which = 0; which < 3; ++which) {
        const HardPicture p = ofKind("letters", which);
        const Found f = found(p);
        ASSERT_TRUE(f.formation);
        EXPECT_EQ(f.formation->positions.size(), p.pins.size());
        EXPECT_TRUE(isNoted(f, NoteAbout::LeftOut));
        EXPECT_LT(f.sure, 1);
    }
}

TEST(SightFormation, ThickerEndsArePins) {
    const HardPicture p = ofKind("thick ends");
    const Found f = found(p);
    ASSERT_TRUE(f.formation);
    EXPECT_EQ(f.formation->positions.size(), p.pins.size());
    for (const FoundFeature& g : f.features) EXPECT_EQ(g.kind, FoundKind::Pin);
}

TEST(SightFormation, DarkPinsOfAWhiteBodyArePins) {
    const HardPicture p = ofKind("white body");
    const Found f = found(p);
    ASSERT_TRUE(f.formation);
    for (const FoundFeature& g : f.features) EXPECT_TRUE(g.slot < 0 || g.kind == FoundKind::Pin);
    EXPECT_TRUE(isNoted(f, NoteAbout::Formation));
}

TEST(SightFormation, ASmallBodyIsNoHole) {
    for (int which = 0; which < 4; ++which) {
        const HardPicture p = ofKind("small body", which);
        const Found f = found(p);
        ASSERT_TRUE(f.formation);
        EXPECT_EQ(f.features.size(), p.pins.size());
    }
}

TEST(SightFormation, WhatIsLeftOutComesBack) {
    const HardPicture p = ofKind("letters");
    Found f = found(p);
    ASSERT_FALSE(f.leftOut.empty());
    const std::size_t out = f.leftOut.size(), in = f.features.size();
    f = withTakenBack(std::move(f), 0, p.options.fromBelow);
    EXPECT_EQ(f.leftOut.size(), out - 1);
    EXPECT_EQ(f.features.size(), in + 1);
}

TEST(SightSlant, IsSaidAndItsScaleHoldsTheTruth) {
    for (int which = 0; which < 4; ++which) {
        const HardPicture p = ofKind("slanted", which);
        const Found f = found(p);
        EXPECT_TRUE(f.slant);
        EXPECT_TRUE(isNoted(f, NoteAbout::Slant));
        EXPECT_LT(std::abs(f.scale.x / p.mmPerPixelX - 1), kNinetyFive * f.scale.ux / f.scale.x);
        EXPECT_LT(std::abs(f.scale.y / p.mmPerPixelY - 1), kNinetyFive * f.scale.uy / f.scale.y);
    }
    EXPECT_FALSE(found(ofKind("plain")).slant);
}

TEST(SightGround, APatternToTheEdgesIsSaidToBeGround) {
    for (const char* kind : {"on a plate", "on a mesh", "on cloth"})
        EXPECT_TRUE(isNoted(found(ofKind(kind)), NoteAbout::Ground)) << kind;
}

TEST(SightGround, WithNothingElseItIsWhatThereIsToSee) {
    // Holes up to the edges, and no part.
    Picture p;
    p.width = p.height = 600;
    p.data.assign(360000, 180);
    p.dpi = Dpi{300, 300};
    for (int y = 0; y < 600; ++y)
        for (int x = 0; x < 600; ++x)
            if (std::hypot(x % 50 - 25, y % 50 - 25) < 9) p.row(y)[x] = 30;
    FindOptions o;
    o.lookForRuler = false;
    const auto f = findInPicture(p, o);
    ASSERT_TRUE(f);
    EXPECT_GT(f->features.size(), 100U);
    EXPECT_TRUE(isNoted(*f, NoteAbout::Ground));
}

TEST(SightEdge, ARowThatGoesOnOverItIsSaid) {
    EXPECT_TRUE(isNoted(found(ofKind("cut off")), NoteAbout::Missing));
    EXPECT_FALSE(isNoted(found(ofKind("blades")), NoteAbout::Missing));
}

}  // namespace
}  // namespace punch::sight_test
