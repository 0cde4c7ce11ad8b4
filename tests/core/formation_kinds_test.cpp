// The table of formation kinds: every kind has a row that its edits and its numbers follow.

#include <gtest/gtest.h>

#include "core/model/model.h"
#include "core/part/formation_kinds.h"
#include "core/part/names.h"
#include "core/part/numbering.h"
#include "core/part/parameters.h"
#include "core/part/slots.h"
#include "tests/support/parts.h"

namespace punch::formation_kinds_test {
namespace {

FormationPlan usualPlan(const FormationTraits& traits) {
    FormationPlan plan;
    plan.kind = traits.kind;
    plan.rows = traits.usual;
    return plan;
}

TEST(FormationKinds, EachNameHasARow) {
    ASSERT_EQ(formationKinds().size(), Names<FormationKind>::table.size());
    for (const auto& [kind, name] : Names<FormationKind>::table) EXPECT_EQ(traitsOf(kind).kind, kind) << name;
}

TEST(FormationKinds, TheUsualOnesCanBeMadeAndKeepWhatTheirRowSays) {
    for (const FormationTraits& traits : formationKinds()) {
        FormationPlan plan = usualPlan(traits);
        Part part = *newRow(3);
        plan.twinOf = part.formations[0].id;
        const auto with = withFormation(part, plan);
        ASSERT_TRUE(with) << nameOf(traits.kind) << ": " << with.error().text();
        const Formation& f = with->formations.back();
        EXPECT_EQ(!f.rows.empty(), traits.rows) << nameOf(traits.kind);
        EXPECT_EQ(f.numbers.order, traits.order);
        EXPECT_EQ(f.numbers.rowLetters, traits.grid);
        EXPECT_EQ(slotsOf(*with, f).size(), f.pins.size());
        EXPECT_EQ(slotCount(*with, f), f.pins.size());
        const Footprint d = derive(*with);
        const std::string prefix = f.id + ".";
        EXPECT_EQ(d.parameter(prefix + "rowGap") != nullptr, traits.rowGap) << nameOf(traits.kind);
        EXPECT_EQ(d.parameter(prefix + "rowShift") != nullptr, traits.rowShift) << nameOf(traits.kind);
        EXPECT_EQ(d.parameter(prefix + "circle") != nullptr, traits.around) << nameOf(traits.kind);
        EXPECT_EQ(d.parameter(prefix + "pitch") != nullptr, traits.straight) << nameOf(traits.kind);
        EXPECT_EQ(d.parameter(prefix + "axis") != nullptr, traits.mirrors) << nameOf(traits.kind);
    }
}

TEST(FormationKinds, ChangingTheKindKeepsAboutAsManyPins) {
    for (const FormationTraits& from : formationKinds())
        for (const FormationTraits& to : formationKinds()) {
            if (from.mirrors || to.mirrors) continue;
            FormationPlan plan = usualPlan(to);
            plan.rows = rowsOfKind(to.kind, from.usual);
            EXPECT_TRUE(newPart(plan)) << nameOf(from.kind) << " to " << nameOf(to.kind);
        }
    EXPECT_EQ(rowsOfKind(FormationKind::TwoRows, {7}), (std::vector<int>{4, 3}));
    EXPECT_EQ(rowsOfKind(FormationKind::Staggered, {5, 4}), (std::vector<int>{5, 4}));
    EXPECT_EQ(rowsOfKind(FormationKind::Row, {5, 4}), (std::vector<int>{9}));
    EXPECT_EQ(rowsOfKind(FormationKind::Grid, {6}), (std::vector<int>{3, 3}));
}

TEST(ParameterKinds, AreToldByTheEndingOfTheirNames) {
    using K = ParameterKind;
    for (const auto& [name, kind] : std::initializer_list<std::pair<const char*, K>>{{"pitch", K::Pitch},
                                                                                     {"f2.pitch", K::Pitch},
                                                                                     {"f2.rearPitch", K::RearPitch},
                                                                                     {"lead.width", K::LeadWidth},
                                                                                     {"f3.lead.width", K::LeadWidth},
                                                                                     {"lead.end.width", K::EndWidth},
                                                                                     {"peg5.width", K::Width},
                                                                                     {"s1.scaleY", K::Scale},
                                                                                     {"body.height", K::BodyHeight},
                                                                                     {"body.left", K::Other},
                                                                                     {"mypitch", K::Other},
                                                                                     {"", K::Other}})
        EXPECT_EQ(parameterKind(name), kind) << name;
    // Whatever a model makes of every kind of formation is what the table says of it.
    for (const FormationTraits& traits : formationKinds()) {
        FormationPlan plan = usualPlan(traits);
        Part part = withSpot(*newRow(3));
        plan.twinOf = part.formations[0].id;
        const Model model(*withFormation(part, plan));
        for (const Parameter& p : model.parameters()) {
            EXPECT_EQ(p.isPositive, traitsOf(p.kind).positive && !p.isAngle) << p.name;
            if (traitsOf(p.kind).pattern) {
                EXPECT_TRUE(p.isPositive) << p.name;
            }
        }
    }
}

}  // namespace
}  // namespace punch::formation_kinds_test
