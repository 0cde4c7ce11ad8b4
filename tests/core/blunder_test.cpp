// Blunders among many honest readings: simulated notebooks of one true geometry, drawn from the stated laws.

#include <gtest/gtest.h>

#include <cmath>

#include "core/measure/adjust.h"
#include "core/measure/instruments.h"
#include "tests/support/parts.h"

namespace punch::blunder_test {
namespace {

/// Draws notebooks of a row with a peg. Laws: limit rectangular, one for each reading; handling normal; read to the
/// step.
class Notebooks {
public:
    explicit Notebooks(unsigned seed) : random_(seed) {}

    Part draw() {
        Part part = withSpot(*newRow(6));
        part.body.present = false;
        const FeatureId peg = part.spots[0].id;
        Part truth = part;
        truth.taken = {{"pitch", Length::fromMm(uniform(2.5, 6))},
                       {"lead.width", Length::fromMm(uniform(0.6, 1.2))},
                       {"lead.thickness", Length::fromMm(uniform(0.4, 0.8))},
                       {"lead.length", 3_mm},
                       {peg + ".x", Length::fromMm(uniform(1, 9))},
                       {peg + ".y", Length::fromMm(uniform(-7, -3))},
                       {peg + ".diameter", Length::fromMm(uniform(1, 2))}};
        part.assumed = {{peg + ".x", truth.taken[peg + ".x"]},
                        {peg + ".y", truth.taken[peg + ".y"]},
                        {"pitch", truth.taken["pitch"]}};
        const test::Truth known(truth);
        for (const auto& [a, b, contact, axis] : std::vector<std::tuple<FeatureId, FeatureId, Contact, Axis>>{
                 {"p1", "p6", Contact::Outside, Axis::Along},
                 {"p1", "p6", Contact::Inside, Axis::Along},
                 {"p1", "", Contact::Size, Axis::Along},
                 {"p6", "", Contact::Size, Axis::Along},
                 {"p1", "p4", Contact::Outside, Axis::Along},
                 {"p2", "p5", Contact::Inside, Axis::Along},
                 {"p3", "p6", Contact::Outside, Axis::Along},
                 {peg, "", Contact::Size, Axis::Along},
                 {peg, "p1", Contact::Outside, Axis::Across},
                 {peg, "p1", Contact::Inside, Axis::Across},
                 {peg, "p6", Contact::Outside, Axis::Across},
                 {peg, "p6", Contact::Outside, Axis::Along},
                 {peg, "p6", Contact::Inside, Axis::Along},
                 {peg, "p1", Contact::Outside, Axis::Direct}}) {
            Reading r = test::reading(a, b, contact, axis, {});
            const double value = known.shown(r);
            const double bias = uniform(-0.02, 0.02);
            for (int k = 0; k < 3; ++k) {
                const double shown =
                    std::round((value + bias + std::normal_distribution<double>(0, 0.01)(random_)) * 100) / 100;
                r.raw.push_back({Length::fromMm(shown), fmt::format("{:.2f}", shown), Unit::Mm, false, {}});
            }
            part = withReading(part, r);
        }
        return part;
    }
    double uniform(double a, double b) { return std::uniform_real_distribution<double>(a, b)(random_); }
    std::size_t index(std::size_t n) { return random_() % n; }

private:
    std::mt19937 random_;
};

bool alarmed(const Adjustment& a) {
    for (const ReadingResult& r : a.readings())
        if (r.state == ReadingState::InDoubt || r.state == ReadingState::OneOf) return true;
    return !a.wholeTestHolds();
}

TEST(Blunders, CleanNotebooksSeldomRaiseAnAlarm) {
    Notebooks notebooks(2);
    int alarms = 0;
    const int trials = 300;
    for (int t = 0; t < trials; ++t) alarms += alarmed(Adjustment(notebooks.draw()));
    EXPECT_LT(alarms, trials * 5 / 100);
}

TEST(Blunders, APlantedOneIsNamed) {
    Notebooks notebooks(3);
    int named = 0;
    int trials = 0;
    while (trials < 300) {
        Part part = notebooks.draw();
        const Adjustment clean(part);
        const std::size_t victim = notebooks.index(part.readings.size());
        const ReadingResult& before = clean.readings()[victim];
        if (before.redundancy < 0.2) continue;
        ++trials;
        const double size = 6 * before.stats.u / std::sqrt(before.redundancy) * (notebooks.index(2) == 0 ? 1 : -1);
        for (RawValue& v : part.readings[victim].raw) v.value += Length::fromMm(size);
        const Adjustment a(part);
        const ReadingState state = a.readings()[victim].state;
        named += state == ReadingState::InDoubt || state == ReadingState::OneOf;
    }
    EXPECT_GE(named, trials * 95 / 100);
}

TEST(Blunders, ASetAsideReadingNoLongerMovesTheResult) {
    Notebooks notebooks(4);
    Part part = notebooks.draw();
    const Adjustment clean(part);
    const double pitch = clean.parameter("pitch").value();
    for (RawValue& v : part.readings[4].raw) v.value += 1_mm;
    const Adjustment a(part);
    ASSERT_EQ(a.readings()[4].state, ReadingState::InDoubt);
    EXPECT_NEAR(a.parameter("pitch").value(), pitch, 0.01);
    EXPECT_NEAR(a.readings()[4].stats.mean - a.readings()[4].expected, 1.0, 0.05);
}

TEST(Blunders, OneOfThreeMistypedByAMillimetreMovesNothing) {
    Notebooks notebooks(5);
    for (int t = 0; t < 50; ++t) {
        Part part = notebooks.draw();
        const Adjustment clean(part);
        const std::size_t victim = notebooks.index(part.readings.size());
        part.readings[victim].raw[notebooks.index(3)].value += 1_mm;
        const Adjustment a(part);
        for (std::size_t k = 0; k < clean.values().size(); ++k) EXPECT_NEAR(a.values()[k], clean.values()[k], 0.02);
        EXPECT_FALSE(a.readings()[victim].stats.question.empty());
    }
}

TEST(Blunders, PegDoubtsAreHonestInEachAxis) {
    Notebooks notebooks(6);
    int insideX = 0;
    int insideY = 0;
    const int trials = 400;
    for (int t = 0; t < trials; ++t) {
        const Part part = notebooks.draw();
        const FeatureId peg = part.spots[0].id;
        const Adjustment a(part);
        const Feature& f = a.features().at(peg);
        insideX += std::abs(f.x.value() - part.assumed.at(peg + ".x").mm()) <= a.doubt(f.x);
        insideY += std::abs(f.y.value() - part.assumed.at(peg + ".y").mm()) <= a.doubt(f.y);
    }
    for (const int inside : {insideX, insideY}) {
        EXPECT_GE(inside, trials * 92 / 100);
        EXPECT_LE(inside, trials * 99 / 100);
    }
}

}  // namespace
}  // namespace punch::blunder_test
