// Files against docs/punch.schema.json, by an independent validator.

#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validator.hpp>

#include "core/base/atomic_file.h"
#include "core/part/file.h"
#include "tests/support/demo_files.h"

namespace punch::schema_test {
namespace {

TEST(Schema, FilesMatchIt) {
    const auto schemaText = readWhole(test::sourceFolder() + "/docs/punch.schema.json");
    ASSERT_TRUE(schemaText);
    const auto schemaJson = nlohmann::json::parse(*schemaText);
    valijson::Schema schema;
    valijson::SchemaParser parser;
    const valijson::adapters::NlohmannJsonAdapter schemaAdapter(schemaJson);
    parser.populateSchema(schemaAdapter, schema);
    const auto valid = [&](const nlohmann::json& j) {
        valijson::Validator validator;
        return validator.validate(schema, valijson::adapters::NlohmannJsonAdapter(j), nullptr);
    };
    EXPECT_TRUE(valid(nlohmann::json::parse(toText(test::demoPart()))));
    EXPECT_TRUE(valid(nlohmann::json::parse(toText(withSpot(*newRow(9))))));
    const auto all = test::demoFiles();
    ASSERT_GE(all.size(), 6U);
    for (const std::string& file : all) EXPECT_TRUE(valid(nlohmann::json::parse(*readWhole(file)))) << file;
    auto bad = nlohmann::json::parse(toText(test::demoPart()));
    bad["readings"][0]["contact"] = "sideways";
    EXPECT_FALSE(valid(bad));
}

}  // namespace
}  // namespace punch::schema_test
