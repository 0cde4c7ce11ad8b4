// The lists of fields: files, the schema, inheriting and several features at once read the same ones.

#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <set>

#include "core/base/atomic_file.h"
#include "core/part/edit_several.h"
#include "core/part/field_lists.h"
#include "core/part/file.h"
#include "tests/support/parts.h"

namespace punch::field_lists_test {
namespace {

using Json = nlohmann::json;

Json schema() {
    static const Json j = Json::parse(*readWhole(test::sourceFolder() + "/docs/punch.schema.json"));
    return j.at("properties");
}

/// What the schema has to say of a field.
template <class S>
void expectInSchema(const std::vector<Field<S>>& fields, const Json& properties, std::set<std::string> others) {
    for (const Field<S>& f : fields) {
        ASSERT_TRUE(properties.contains(f.key)) << f.key;
        const Json& said = properties.at(f.key);
        if (const auto* choice = std::get_if<Choice<S>>(&f.member)) {
            std::set<std::string> words(choice->words.begin(), choice->words.end());
            EXPECT_EQ(said.at("enum").template get<std::set<std::string>>(), words) << f.key;
        } else if (std::holds_alternative<bool S::*>(f.member) ||
                   std::holds_alternative<std::optional<bool> S::*>(f.member)) {
            EXPECT_EQ(said.at("type"), "boolean") << f.key;
        } else if (std::holds_alternative<double S::*>(f.member)) {
            EXPECT_EQ(said.at("type"), "number") << f.key;
        } else if (std::holds_alternative<std::vector<Length> S::*>(f.member)) {
            EXPECT_EQ(said.at("type"), "array") << f.key;
        } else {
            EXPECT_NE(said.at("type").dump().find("number"), std::string::npos) << f.key;
        }
        others.insert(f.key);
    }
    for (const auto& [key, value] : properties.items())
        EXPECT_TRUE(others.contains(key)) << key << " stands in the schema alone";
}

TEST(FieldLists, TheSchemaSaysTheSame) {
    const Json all = schema();
    const Json& rules = all.at("rules").at("properties");
    expectInSchema(ruleFields(), rules, {"iec60664", "fab"});
    expectInSchema(insulatingFields(), rules.at("iec60664").at("properties"), {});
    expectInSchema(fabFields(), rules.at("fab").at("properties"), {"name"});
    expectInSchema(dressFields(), all.at("dress").at("properties"), {"keepouts"});
    expectInSchema(overrideFields(), all.at("overrides").at("additionalProperties").at("properties"), {"reason"});
}

/// Something else than what a field has, and allowed.
template <class S>
void change(S& s, const Field<S>& f) {
    std::visit(
        [&](const auto& m) {
            using M = std::decay_t<decltype(m)>;
            if constexpr (std::is_same_v<M, Choice<S>>)
                m.set(s, (m.get(s) + 1) % static_cast<int>(m.words.size()));
            else if constexpr (std::is_same_v<M, Length S::*>)
                s.*m += Length::fromMm(0.125);
            else if constexpr (std::is_same_v<M, double S::*>)
                s.*m = (f.range.least + std::min(f.range.most, 1000.0)) / 2;
            else if constexpr (std::is_same_v<M, bool S::*>)
                s.*m = !(s.*m);
            else if constexpr (std::is_same_v<M, std::vector<Length> S::*>)
                s.*m = {Length::fromMm(0.75), Length::fromMm(1.5)};
            else if constexpr (std::is_same_v<M, std::optional<Length> S::*>)
                s.*m = Length::fromMm(0.375);
            else if constexpr (std::is_same_v<M, std::optional<bool> S::*>)
                s.*m = true;
            else
                s.*m = Angle::fromDegrees(30);
        },
        f.member);
}

template <class S, class In>
void expectKept(const std::vector<Field<S>>& fields, In in) {
    std::set<std::string> names;
    for (const Field<S>& f : fields) {
        Part part = test::demoPart();
        change(in(part), f);
        EXPECT_FALSE(part == test::demoPart()) << f.key;
        const auto again = fromText(toText(part), "again");
        ASSERT_TRUE(again) << f.key;
        EXPECT_TRUE(*again == part) << f.key << " is not what it was written as";
        EXPECT_TRUE(names.insert(f.name).second) << f.name << " twice";
        EXPECT_NE(std::string(f.help), "") << f.key;
    }
}

TEST(FieldLists, EveryFieldIsWrittenAndReadAgain) {
    expectKept(ruleFields(), [](Part& p) -> Rules& { return p.rules; });
    expectKept(insulatingFields(), [](Part& p) -> Insulating& { return p.rules.iec; });
    expectKept(fabFields(), [](Part& p) -> FabProfile& { return p.rules.fab; });
    expectKept(dressFields(), [](Part& p) -> Dress& { return p.dress; });
    expectKept(overrideFields(), [](Part& p) -> PadOverride& { return p.overrides["p2"]; });
}

TEST(FieldLists, TheNearerOverrideWinsFieldByField) {
    PadOverride far, near;
    for (const Field<PadOverride>& f : overrideFields()) change(far, f);
    near.land = 2.25_mm;
    PadOverride both = near;
    inherit(both, far);
    PadOverride expected = far;
    expected.land = 2.25_mm;
    EXPECT_TRUE(both == expected);
}

TEST(FieldLists, WrongValuesAreSaidWithTheirLimits) {
    const auto with = [](const char* path, const Json& value) {
        Json j = Json::parse(toText(test::demoPart()));
        j[Json::json_pointer(path)] = value;
        const auto part = fromText(j.dump(), "wrong");
        return part ? std::string() : part.error().what;
    };
    EXPECT_NE(with("/rules/holeFactor", 11).find("rules.holeFactor: a number from 1 to 10"), std::string::npos);
    EXPECT_NE(with("/rules/ring", -0.1).find("rules.ring: a length from 0 to 1 m"), std::string::npos);
    EXPECT_NE(with("/rules/land", "none of it").find("IPC-2221, fixed ring"), std::string::npos);
    EXPECT_NE(with("/overrides/p2/land", 0).find("a size above 0"), std::string::npos);
    EXPECT_NE(with("/rules/ring", nullptr), "") << "a rule is not left open";
    EXPECT_EQ(with("/dress/courtyardExcess", nullptr), "") << "this one may be";
}

// ------------------------------------------------------------------ several features at once

TEST(Several, OneOverrideForAllAndWhatTheyHaveInCommon) {
    Part part = test::demoPart();
    part.overrides["p1"].land = 2_mm;
    part = withOverrides(part, {"p1", "p3"}, [](PadOverride& o) { o.hole = 1.6_mm; });
    EXPECT_EQ(part.overrides.at("p3").hole, 1.6_mm);
    const PadOverride common = commonOverride(part, {"p1", "p3"});
    EXPECT_EQ(common.hole, 1.6_mm);
    EXPECT_FALSE(common.land) << "one of them alone has it";
    part = withOverrides(part, {"p1", "p3"}, [](PadOverride& o) { o.hole.reset(); });
    EXPECT_FALSE(part.overrides.contains("p3")) << "nothing is left of it";
    EXPECT_TRUE(part.overrides.contains("p1"));
}

TEST(Several, RemovalIsAllOrNothing) {
    const Part part = withSpot(test::demoPart());
    const FeatureId peg = part.spots[0].id, other = part.spots[1].id;
    EXPECT_TRUE(withoutFeatures(part, {peg, other})->spots.empty());
    // The end of a row may go with them, a pin inside it may not.
    const auto shorter = withoutFeatures(part, {"p4", peg});
    ASSERT_TRUE(shorter);
    EXPECT_EQ(shorter->formations[0].pins.size(), 3U);
    EXPECT_EQ(shorter->spots.size(), 1U);
    const auto inside = withoutFeatures(part, {peg, "p2"});
    ASSERT_FALSE(inside);
    EXPECT_NE(inside.error().what.find("pin 2 stands inside its pattern"), std::string::npos) << inside.error().what;
    EXPECT_TRUE(withoutFeatures(part, {"p1", "p2", "p3", "p4"})->formations.empty()) << "a part may have no pins";
    EXPECT_FALSE(withoutFeatures(part, {kBody}));
    // Of a grid any position can be left out.
    FormationPlan plan;
    plan.kind = FormationKind::Grid;
    plan.rows = {3, 3, 3};
    const Part grid = *newPart(plan);
    const auto holed = withoutFeatures(grid, {grid.formations[0].pins[4], grid.formations[0].pins[0]});
    ASSERT_TRUE(holed);
    EXPECT_EQ(holed->formations[0].pins.size(), 7U);
    EXPECT_EQ(holed->formations[0].leftOut.size(), 2U);
}

}  // namespace
}  // namespace punch::field_lists_test
