// Honest doubt, alarms and blunders over simulated notebooks of every formation kind.

#include <gtest/gtest.h>

#include <cmath>

#include "tests/support/notebooks.h"

namespace punch::honest_doubt_test {
namespace {

using test::Kind;
using test::Notebooks;

bool alarmed(const Adjustment& a) {
    for (const ReadingResult& r : a.readings())
        if (r.state == ReadingState::InDoubt || r.state == ReadingState::OneOf) return true;
    return !a.wholeTestHolds();
}

/// Does one rectangular part, a stated limit or a step, make more than half of the variance of a value?
bool oneRectangularRules(const Part& part, const Adjustment& a, const Expr& e) {
    for (const auto& [i, share] : a.weightsIn(e)) {
        const Instrument& instrument = *instrumentByName(part, part.readings[i].instrument);
        const double u2 = a.readings()[i].stats.u * a.readings()[i].stats.u;
        const double limit = a.readings()[i].stats.mean > 100 ? instrument.limitLong : instrument.limit;
        if (share * limit * limit / 3 / u2 > 0.5 || share * instrument.step * instrument.step / 12 / u2 > 0.5)
            return true;
    }
    return false;
}

class EveryKind : public testing::TestWithParam<Kind> {};

TEST_P(EveryKind, TheTruePadLiesInsideTheStatedInterval) {
    Notebooks notebooks(100 + static_cast<unsigned>(GetParam()));
    struct Count {
        int inside = 0, all = 0;
    };
    Count mixed[2], ruled[2];
    constexpr int kTrials = 2000;
    for (int t = 0; t < kTrials; ++t) {
        const auto c = notebooks.draw(GetParam());
        const test::Truth truth(c.truth);
        const Part part = notebooks.notebook(c, notebooks.instrument(), notebooks.whole(4, 14));
        const Adjustment a(part);
        ASSERT_TRUE(Notebooks::pinsFirm(part, a)) << test::kindName(GetParam()) << " " << t;
        const auto pins = allPins(part);
        const FeatureId& id = pins[notebooks.index(pins.size())];
        const Feature& found = a.features().at(id);
        const Feature real = truth.feature(id);
        const std::pair<const Expr*, double> axes[] = {{&found.x, real.x.value()}, {&found.y, real.y.value()}};
        for (int axis = 0; axis < 2; ++axis) {
            const Expr& e = *axes[axis].first;
            if (a.u(e) < 1e-9) {
                EXPECT_NEAR(e.value(), axes[axis].second, 1e-6);
                continue;
            }
            Count& count = (oneRectangularRules(part, a, e) ? ruled : mixed)[axis];
            ++count.all;
            count.inside += std::abs(e.value() - axes[axis].second) <= a.doubt(e);
        }
    }
    for (int axis = 0; axis < 2; ++axis) {
        // A count is judged within three of its own standard deviations.
        const auto slack = [](const Count& c) { return 3 * std::sqrt(0.05 * 0.95 / std::max(c.all, 1)); };
        const auto share = [](const Count& c) { return static_cast<double>(c.inside) / std::max(c.all, 1); };
        SCOPED_TRACE(fmt::format("{} {}: {} of {}, ruled by one part {} of {}", test::kindName(GetParam()),
                                 axis == 0 ? "along" : "across", mixed[axis].inside, mixed[axis].all,
                                 ruled[axis].inside, ruled[axis].all));
        RecordProperty(axis == 0 ? "along" : "across", std::to_string(share(mixed[axis])));
        if (mixed[axis].all >= 500) {
            EXPECT_GE(share(mixed[axis]), 0.93);
            EXPECT_LE(share(mixed[axis]), 0.97);
        } else if (mixed[axis].all >= 50) {
            EXPECT_GE(share(mixed[axis]), 0.93 - slack(mixed[axis]));
        }
        if (ruled[axis].all >= 50) {
            EXPECT_GE(share(ruled[axis]), 0.93 - (ruled[axis].all >= 500 ? 0 : slack(ruled[axis])));
        }
    }
}

TEST_P(EveryKind, CleanNotebooksSeldomRaiseAnAlarmAndBlundersAreNamed) {
    Notebooks notebooks(300 + static_cast<unsigned>(GetParam()));
    int alarms = 0;
    int clean = 0;
    int named = 0;
    int first = 0;
    int alone = 0;
    int planted = 0;
    while (clean < 400) {
        const auto c = notebooks.draw(GetParam());
        Part part = notebooks.notebook(c, notebooks.instrument(), notebooks.whole(12, 20));
        const Adjustment before(part);
        ++clean;
        alarms += alarmed(before);
        if (planted >= 250) continue;
        const std::size_t victim = notebooks.index(part.readings.size());
        const ReadingResult& r = before.readings()[victim];
        // What the clean notebook set aside already is no victim.
        if (r.redundancy < 0.2 || r.state != ReadingState::Agrees) continue;
        ++planted;
        // Can its residual be told from every other one's?
        const Eigen::MatrixXd q = Eigen::MatrixXd::Identity(before.rows().size(), before.rows().size()) -
                                  before.jacobian() * before.covariances() * before.jacobian().transpose();
        const auto row =
            std::find(before.rows().begin(), before.rows().end(), static_cast<int>(victim)) - before.rows().begin();
        double most = 0;
        for (Eigen::Index k = 0; k < q.rows(); ++k)
            if (k != row && q(k, k) > 1e-6)
                most = std::max(most, std::abs(q(row, k)) / std::sqrt(q(row, row) * q(k, k)));
        const double size = 6 * r.stats.u / std::sqrt(r.redundancy) * (notebooks.index(2) == 0 ? 1 : -1);
        for (RawValue& v : part.readings[victim].raw) v.value += Length::fromMm(size);
        const Adjustment after(part);
        const ReadingState state = after.readings()[victim].state;
        named += state == ReadingState::InDoubt || state == ReadingState::OneOf;
        constexpr double kToldApart = 0.8;  // correlation of residuals
        if (most < kToldApart) {
            ++alone;
            // Set aside alone, or the best of the ways.
            int doubtful = 0;
            for (const ReadingResult& other : after.readings()) doubtful += other.state == ReadingState::InDoubt;
            first += (state == ReadingState::InDoubt && doubtful == 1) ||
                     (!after.ways().empty() && after.ways().front().readings == std::vector{victim});
        }
    }
    EXPECT_LT(alarms, clean * 5 / 100) << test::kindName(GetParam());
    EXPECT_GE(named, planted * 95 / 100) << test::kindName(GetParam()) << " of " << planted;
    EXPECT_GE(first, alone * 95 / 100) << test::kindName(GetParam()) << " of " << alone;
    EXPECT_GT(planted, 100);
}

INSTANTIATE_TEST_SUITE_P(Formations, EveryKind, testing::ValuesIn(test::kAllKinds), [](const auto& kind) {
    std::string name = test::kindName(kind.param);
    std::replace(name.begin(), name.end(), ' ', '_');
    return name;
});

TEST(MixedEvidence, DrawingsAndCalipersTogetherStayHonest) {
    // A drawing's tolerance counts as the doubt of its value for the part that was measured.
    Notebooks notebooks(77);
    int inside = 0;
    constexpr int kTrials = 2000;
    for (int t = 0; t < kTrials; ++t) {
        const auto c = notebooks.draw(Kind::Row);
        const test::Truth truth(c.truth);
        Part part = notebooks.notebook(c, "vernier-0.05", 3);
        const FeatureId last = part.formations[0].pins.back();
        Reading r = test::reading("p1", last, Contact::Centres, Axis::Along, {});
        const double real = truth.shown(r);
        const double tolerance = notebooks.uniform(0.05, 0.3);
        const double nominal = real + notebooks.uniform(-tolerance, tolerance);
        r.drawing = DrawingValue{"",
                                 Unit::Mm,
                                 DrawingForm::Tolerance,
                                 Length::fromMm(nominal),
                                 Length::fromMm(nominal - tolerance),
                                 Length::fromMm(nominal + tolerance)};
        part = withReading(part, r);
        const Adjustment a(part);
        const Expr& x = a.features().at(last).x;
        inside += std::abs(x.value() - truth.feature(last).x.value()) <= a.doubt(x);
    }
    EXPECT_GE(inside, kTrials * 93 / 100);
    EXPECT_LE(inside, kTrials * 98 / 100);
}

}  // namespace
}  // namespace punch::honest_doubt_test
