// Loose is loose: with readings removed one at a time, rank and named movement are those that follow by hand.

#include "core/measure/loose.h"

#include <gtest/gtest.h>

#include "tests/support/notebooks.h"

namespace punch::loose_test {
namespace {

using K = LooseMovement::Kind;
using test::reading;

/// A reading, and what is expected to come loose without it.
struct Step {
    Reading r;
    K kind;
    std::vector<std::string> parameters;
};

struct Case {
    std::string name;
    Part part;
    std::vector<Step> steps;
};

Reading centres(const FeatureId& a, const FeatureId& b, Axis axis, double mm) {
    return reading(a, b, Contact::Centres, axis, {mm});
}
Reading size(const FeatureId& a, Axis axis, double mm) { return reading(a, "", Contact::Size, axis, {mm}); }

Part bare(const FormationPlan& plan) {
    Part part = *newPart(plan);
    part.body.present = false;
    part.formations[0].lead = LeadShape::Round;
    return part;
}

/// Every parameter but those named is given, so that only what the case is about can be loose.
Part onlyFree(Part part, const std::vector<std::string>& free) {
    const Model model(part);
    for (const Parameter& p : model.parameters())
        if (p.state == Parameter::State::Free && std::find(free.begin(), free.end(), p.name) == free.end())
            part.given[p.name] = {fmt::format("{}", p.assumed), Unit::Mm};
    return part;
}

std::vector<Case> cases() {
    std::vector<Case> all;
    const auto plan = [](FormationKind kind, std::vector<int> rows) {
        FormationPlan p;
        p.kind = kind;
        p.rows = std::move(rows);
        return p;
    };
    const Step lead{size("p1", Axis::Along, 0.6), K::Size, {"lead.width"}};
    const Step length{size("p1", Axis::Height, 3.2), K::Height, {"lead.length"}};
    all.push_back({"row",
                   bare(plan(FormationKind::Row, {4})),
                   {{centres("p1", "p4", Axis::Along, 15), K::Spread, {"pitch"}}, lead, length}});
    {
        Part part = bare(plan(FormationKind::TwoRows, {4, 3}));
        part.formations[0].ownPitch = true;
        part.given.clear();
        all.push_back({"two unlike rows",
                       part,
                       {{centres("p1", "p4", Axis::Along, 15), K::Spread, {"pitch"}},
                        {centres("p5", "p7", Axis::Along, 8), K::Spread, {"rearPitch"}},
                        {centres("p1", "p5", Axis::Across, 9), K::Across, {"rowGap"}},
                        {centres("p1", "p5", Axis::Along, 2), K::Along, {"rowShift"}},
                        lead,
                        length}});
    }
    all.push_back({"staggered",
                   bare(plan(FormationKind::Staggered, {4, 3})),
                   {{centres("p1", "p4", Axis::Along, 15), K::Spread, {"pitch"}},
                    {centres("p1", "p5", Axis::Across, 3), K::Across, {"rowGap"}},
                    lead,
                    length}});
    all.push_back({"grid",
                   bare(plan(FormationKind::Grid, {4, 4, 4})),
                   {{centres("p1", "p4", Axis::Along, 15), K::Spread, {"pitch"}},
                    {centres("p1", "p9", Axis::Across, 6), K::Spread, {"rowGap"}},
                    lead,
                    length}});
    {
        Part part = bare(plan(FormationKind::Ring, {6}));
        part.body.present = true;
        all.push_back({"ring",
                       onlyFree(part, {"circle", "start"}),
                       {{centres("p1", "p4", Axis::Direct, 12), K::Spread, {"circle"}},
                        {[] {
                             Reading r = reading("p4", "p1", Contact::Angle, Axis::Direct, {});
                             r.instrument = kProtractor;
                             r.raw.push_back({});
                             r.raw.back().angle = Angle::fromDegrees(80);
                             return r;
                         }(),
                         K::Turn,
                         {"start"}}}});
    }
    {
        Part part = bare(plan(FormationKind::Ring, {5}));
        part.formations[0].arc = true;
        part.body.present = true;
        all.push_back({"arc",
                       onlyFree(part, {"circle", "step"}),
                       {{centres("p1", "p3", Axis::Direct, 10), K::Spread, {"circle", "step"}},
                        {centres("p1", "p5", Axis::Direct, 12), K::Spread, {"circle", "step"}}}});
    }
    {
        Part part = *withFormation(bare(plan(FormationKind::Row, {4})), plan(FormationKind::Single, {1}));
        const FeatureId pin = part.formations[1].pins[0];
        all.push_back(
            {"single",
             onlyFree(part, {"pitch", "f5.x", "f5.y", part.formations[1].id + ".x", part.formations[1].id + ".y"}),
             {{centres("p1", "p4", Axis::Along, 15), K::Spread, {"pitch"}},
              {centres("p1", pin, Axis::Along, 3), K::Along, {part.formations[1].id + ".x"}},
              {centres("p1", pin, Axis::Across, 9), K::Across, {part.formations[1].id + ".y"}}}});
    }
    {
        Part part = *withFormation(bare(plan(FormationKind::Row, {4})), plan(FormationKind::Row, {3}));
        const std::string f = part.formations[1].id;
        part.given.clear();
        const FeatureId first = part.formations[1].pins[0];
        const FeatureId last = part.formations[1].pins[2];
        all.push_back({"second row",
                       onlyFree(part, {"pitch", f + ".x", f + ".y", f + ".turn", f + ".pitch"}),
                       {{centres("p1", "p4", Axis::Along, 15), K::Spread, {"pitch"}},
                        {centres("p1", first, Axis::Along, 3), K::Along, {f + ".x"}},
                        // Its far pin is held across, so that it turns about that one.
                        {centres("p1", first, Axis::Across, 9), K::Turn, {f + ".y", f + ".turn"}},
                        {centres(first, last, Axis::Direct, 10), K::Spread, {f + ".pitch"}},
                        {centres("p1", last, Axis::Across, 9), K::Turn, {f + ".turn"}}}});
    }
    {
        FormationPlan twin = plan(FormationKind::Twin, {});
        Part part = bare(plan(FormationKind::Row, {4}));
        twin.twinOf = part.formations[0].id;
        twin.mirror = Axis::Across;
        part = *withFormation(part, twin);
        const std::string f = part.formations[1].id;
        all.push_back({"twin",
                       onlyFree(part, {"pitch", f + ".axis"}),
                       {{centres("p1", "p4", Axis::Along, 15), K::Spread, {"pitch"}},
                        {centres("p1", part.formations[1].pins[0], Axis::Across, 9), K::Across, {f + ".axis"}}}});
    }
    {
        Part part = withMovedPin(bare(plan(FormationKind::Row, {5})), "p3", true);
        all.push_back({"moved pin",
                       onlyFree(part, {"pitch", "p3.dx", "p3.dy"}),
                       // Pin 3 is held where it was read, whatever the pitch.
                       {{centres("p1", "p5", Axis::Along, 15), K::Spread, {"pitch", "p3.dx"}},
                        {centres("p1", "p3", Axis::Along, 7.5), K::Along, {"p3.dx"}},
                        {centres("p1", "p3", Axis::Across, 0.5), K::Across, {"p3.dy"}}}});
    }
    {
        Part part = withSpot(bare(plan(FormationKind::Row, {4})), SpotKind::Lock);
        const FeatureId lock = part.spots[0].id;
        all.push_back({"lock",
                       onlyFree(part, {"pitch", lock + ".x", lock + ".y", lock + ".diameter"}),
                       {{centres("p1", "p4", Axis::Along, 15), K::Spread, {"pitch"}},
                        {centres("p1", lock, Axis::Along, 6), K::Along, {lock + ".x"}},
                        {centres("p1", lock, Axis::Across, 4), K::Across, {lock + ".y"}},
                        {size(lock, Axis::Along, 2), K::Size, {lock + ".diameter"}}}});
    }
    return all;
}

TEST(Loose, RankAndMovementFollowByHandForEveryFormation) {
    for (const Case& c : cases()) {
        SCOPED_TRACE(c.name);
        Part whole = c.part;
        for (const Step& s : c.steps) whole = withReading(whole, s.r);
        const Adjustment all(whole);
        ASSERT_EQ(all.loose().cols(), 0) << (looseMovements(whole, all).empty() ? ""
                                                                                : looseMovements(whole, all)[0].words);
        EXPECT_EQ(all.redundancy(), 0) << "no reading too many, so that each is needed";
        for (std::size_t removed = 0; removed < c.steps.size(); ++removed) {
            SCOPED_TRACE(readingWords(whole, whole.readings[removed]));
            Part part = whole;
            part.readings.erase(part.readings.begin() + static_cast<std::ptrdiff_t>(removed));
            const Adjustment a(part);
            EXPECT_EQ(a.loose().cols(), 1);
            const auto loose = looseMovements(part, a);
            ASSERT_EQ(loose.size(), 1u);
            EXPECT_EQ(loose[0].kind, c.steps[removed].kind) << loose[0].words;
            EXPECT_EQ(loose[0].parameters, c.steps[removed].parameters) << loose[0].words;
            EXPECT_FALSE(loose[0].words.empty());
        }
        // With nothing read, everything that is free is loose.
        const Adjustment none(c.part);
        EXPECT_EQ(none.loose().cols(), static_cast<Eigen::Index>(none.model().unknowns()));
    }
}

TEST(Loose, WhatCannotBeToldApartIsNamedTogether) {
    Part part = bare({FormationKind::Row, {4}, {}, false, false, {}, {}});
    part = withReading(part, reading("p1", "p4", Contact::Outside, Axis::Along, {15.6}));
    part = withReading(part, size("p1", Axis::Height, 3));
    const Adjustment a(part);
    ASSERT_EQ(a.loose().cols(), 1);
    const auto loose = looseMovements(part, a);
    ASSERT_EQ(loose.size(), 1u);
    EXPECT_EQ(loose[0].parameters, (std::vector<std::string>{"pitch", "lead.width"}));
    EXPECT_NE(loose[0].words.find("pitch and lead diameter are not told apart"), std::string::npos) << loose[0].words;
}

TEST(Loose, AFeatureIsFirmWhenNoMovementTouchesIt) {
    // The second row's turn is loose: its origin is firm, its far pins are not.
    Part part = *withFormation(bare({FormationKind::Row, {4}, {}, false, false, {}, {}}),
                               {FormationKind::Row, {3}, {}, false, false, {}, {}});
    const std::string f = part.formations[1].id;
    part.given.clear();
    part = onlyFree(part, {f + ".turn"});
    const Footprint footprint = derive(part);
    EXPECT_TRUE(footprint.pad(part.formations[1].pins[0])->doubt.x.has_value());
    EXPECT_FALSE(footprint.pad(part.formations[1].pins[2])->firm);
    ASSERT_EQ(footprint.loose.size(), 1u);
    EXPECT_NE(footprint.loose[0].words.find("it may turn"), std::string::npos) << footprint.loose[0].words;
}

TEST(Loose, TheNextReadingsMakeEveryKindFirm) {
    test::Notebooks notebooks(9);
    for (const test::Kind kind : test::kAllKinds) {
        const auto c = notebooks.draw(kind);
        const Part part = notebooks.notebook(c, "caliper-0.01", 0);
        EXPECT_TRUE(test::Notebooks::pinsFirm(part, Adjustment(part))) << test::kindName(kind);
        EXPECT_LT(part.readings.size(), 14u) << test::kindName(kind);
    }
}

}  // namespace
}  // namespace punch::loose_test
