// Marks of every kind with whatever can be typed into them, on parts with and without pins and bodies: nothing ends the
// program, files keep them, ink stays off openings, and every list that says something of a mark says it of one that is
// there.

#include <gtest/gtest.h>

#include "core/artwork/artwork.h"
#include "core/dress/ink.h"
#include "core/dress/silkscreen.h"
#include "core/part/mark_kinds.h"
#include "core/part/names.h"
#include "core/release/derive_json.h"
#include "core/release/formats.h"
#include "tests/support/dice.h"
#include "tests/support/parts.h"

namespace punch::random_marks_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

template <class T>
const T& oneOf(test::Dice& dice, const std::vector<T>& all) {
    return all[static_cast<std::size_t>(dice.below(static_cast<int>(all.size())))];
}

std::string typedFor(test::Dice& dice, const MarkField& field) {
    static const std::vector<std::string> lengths = {"0",  "0.001", "0.3", "1",    "2.5",     "-1",
                                                     "12", "1999",  "",    "7mil", "pitch/3", "nothing"};
    static const std::vector<std::string> drawn = {"0.5",      "3.0..3.4", "3.4..3.0", "1.6 ±0.1",
                                                   "0.2..0.3", "6.2..6.6", ""};
    static const std::vector<std::string> figures = {"", "-5000,0 5000,0 0,4000",
                                                     "-5000,-5000 5000,-5000 5000,5000 -5000,5000;-1,-1 -1,1 1,1 1,-1",
                                                     "-5000,0 5000,0 -5000,1 5000,1"};
    switch (field.value) {
        case MarkValue::Length: return oneOf(dice, lengths);
        case MarkValue::Angle: return oneOf<std::string>(dice, {"0", "90", "-45", "360", "12.5", "pitch"});
        case MarkValue::Choice:
            return field.choices[static_cast<std::size_t>(dice.below(static_cast<int>(field.choices.size())))];
        case MarkValue::Flag: return dice.coin() ? "yes" : "no";
        case MarkValue::Count: return oneOf<std::string>(dice, {"0", "1", "2", "7", "60", "900"});
        case MarkValue::Drawn: return oneOf(dice, drawn);
        case MarkValue::Figure: return oneOf(dice, figures);
        case MarkValue::Text: return oneOf<std::string>(dice, {"", "A", "{name} {reference}", "Ω ±µ", "(((("});
        case MarkValue::Pins: return oneOf<std::string>(dice, {"all", "1", "2-3", "9", ""});
        case MarkValue::Feature: break;
    }
    return oneOf<std::string>(dice, {"p1", "p4", "peg5", "body", "datum", "gone", ""});
}

Hold holdOf(test::Dice& dice) {
    static const std::vector<std::string> features = {"datum",     "origin",     "p1",   "p4",    "peg5",  "body",
                                                      "body.left", "body.front", "m1.0", "m31.0", "m32.1", "gone"};
    Hold h;
    h.of = oneOf(dice, features);
    h.at = static_cast<HoldAt>(dice.below(3));
    h.off = oneOf<std::string>(dice, {"", "0", "1.5", "-4", "8", "pitch", "0.1in"});
    if (dice.below(5) == 0) h.with = oneOf(dice, features);
    return h;
}

Part randomPart(test::Dice& dice) {
    Part part = test::demoPart();
    const int without = dice.below(4);
    if (without == 1 || without == 2) {
        part = newPartWithoutPins();
        part.body.present = without == 1;
    }
    const int n = 1 + dice.below(6);
    for (int i = 0; i < n; ++i) {
        const MarkKindInfo& kind =
            markKinds()[static_cast<std::size_t>(dice.below(static_cast<int>(markKinds().size())))];
        Mark m = newMark(kind.kind, part);
        if (dice.coin()) {
            m.points.clear();
            for (int k = dice.below(std::min(kind.points.most, 6) + 1); k > 0; --k)
                m.points.push_back({holdOf(dice), holdOf(dice), static_cast<CornerForm>(dice.below(3)),
                                    dice.coin() ? "0.4" : "", dice.below(4) == 0 ? "0.5" : ""});
        }
        for (const MarkField& field : kind.fields)
            if (dice.below(3) == 0) {
                const std::string typed = typedFor(dice, field);
                if (checkedMarkValue(field, typed)) m.set[field.key] = typed;
            }
        part = withMark(std::move(part), m);
    }
    return part;
}

TEST(RandomMarks, EndNothingAndAreKept) {
    test::Dice dice(15);
    int drawn = 0, wrong = 0;
    for (int round = 0; round < 150; ++round) {
        const Part part = randomPart(dice);
        const Footprint f = derive(part);
        ASSERT_EQ(f.laid.size(), part.marks.size());
        for (const LaidMark& m : f.laid) (m.wrong.empty() ? drawn : wrong) += 1;
        // What cannot be drawn is no-go, with its name.
        const bool any = std::any_of(f.laid.begin(), f.laid.end(), [](const LaidMark& m) { return !m.wrong.empty(); });
        EXPECT_EQ(f.gauge("marks")->state == GaugeState::NoGo, any || !f.attached.missing.empty()) << round;
        const auto back = fromText(toText(part), "memory");
        ASSERT_TRUE(back) << back.error().text();
        EXPECT_EQ(*back, part);
        // Whoever says something of a mark means one that is there.
        for (const auto& [id, words] : f.inkWords) EXPECT_NE(markById(part, id), nullptr) << words;
        for (const auto& [id, words] : f.attached.notes) EXPECT_NE(markById(part, id), nullptr) << words;
        for (const Shape& k : f.keepouts) EXPECT_NE(markById(part, k.id), nullptr);
        for (const Shape& c : f.cutOuts) EXPECT_NE(markById(part, c.id), nullptr);
        EXPECT_FALSE(deriveJson(part, f, nullptr).empty());
        const auto files = releaseFiles(part, f, {Format::Gerber, Format::Drill, Format::Csv, Format::Svg});
        if (!files) {
            EXPECT_FALSE(files.error().todo.empty()) << files.error().text();
        }
    }
    EXPECT_GT(drawn, 150);
    EXPECT_GT(wrong, 50);
}

TEST(RandomMarks, NoInkOfThemLiesOnAnOpening) {
    test::Dice dice(4711);
    int inked = 0;
    for (int round = 0; round < 120; ++round) {
        const Part part = randomPart(dice);
        const Footprint f = derive(part);
        if (const auto nearest = nearestInk(f.board(), f)) {
            ++inked;
            EXPECT_GE(nearest->gap, leastInkGap() - mm(0.002))
                << round << ": " << nearest->stroke << " at " << nearest->feature;
        }
    }
    EXPECT_GT(inked, 40);
}

TEST(RandomMarks, CopperIsWhereItIsSaidToBe) {
    // Whatever lies on a copper layer is held by the conductors that distances are taken from.
    test::Dice dice(99);
    for (int round = 0; round < 60; ++round) {
        const Part part = randomPart(dice);
        const Footprint f = derive(part);
        for (const Layer layer : {Layer::TopCopper, Layer::BottomCopper}) {
            Polygons drawn, counted;
            for (const Shape& s : artwork(part, f, layer)) {
                if (const RoundedPolygon* one = s.rounded())
                    for (const auto& ring : polygonsOf(*one)) drawn.push_back(ring);
                if (const Polygons* rings = s.polygons()) drawn.insert(drawn.end(), rings->begin(), rings->end());
            }
            for (const Conductor& c : f.board().copper())
                if (const Land& land = layer == Layer::TopCopper ? c.top : c.bottom; land.there())
                    for (const auto& ring : polygonsOf(copperShape(land), Chords::Outside)) counted.push_back(ring);
            EXPECT_LT(areaOf(without(united(drawn), grown(united(counted), mm(0.003)))), 1e-3) << round;
        }
    }
}

}  // namespace
}  // namespace punch::random_marks_test
