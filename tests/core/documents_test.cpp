// What the documentation promises holds: its examples are read from the pages themselves.

#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <sstream>

#include "core/base/atomic_file.h"
#include "core/measure/entry.h"
#include "core/measure/instruments.h"
#include "core/model/contacts.h"
#include "core/part/mark_kinds.h"
#include "core/part/names.h"
#include "core/release/derive_json.h"
#include "tests/support/parts.h"

namespace punch::documents_test {
namespace {

std::string page(const std::string& name) {
    const auto text = readWhole(test::sourceFolder() + "/docs/" + name);
    EXPECT_TRUE(text) << name;
    return text ? *text : std::string();
}

TEST(Documents, TheSmallestUsefulFileWorks) {
    const std::string text = page("file-format.md");
    const std::size_t from = text.find("```json");
    const std::size_t to = text.find("```", from + 7);
    ASSERT_NE(to, std::string::npos);
    const auto part = fromText(text.substr(from + 7, to - from - 7), "file-format.md");
    ASSERT_TRUE(part) << part.error().text();
    const Footprint f = derive(*part);
    ASSERT_EQ(f.pads.size(), 2u);
    // Outside 3.175 less 25 mil.
    EXPECT_NEAR((f.pads[1].at.x - f.pads[0].at.x).mm(), 3.175 - 0.635, 1e-9);
    EXPECT_TRUE(f.pads[0].firm);
}

TEST(Documents, EveryExampleOfTheEntryLineIsUnderstood) {
    Part part = withSpot(*newRow(4));
    part.formations[0].end = LeadEnd::Formed;
    std::istringstream lines(page("entry-line.md"));
    int examples = 0;
    for (std::string line; std::getline(lines, line);) {
        if (line.rfind("| `", 0) != 0) continue;
        const std::string cell = line.substr(0, line.find('|', 2));
        for (std::size_t at = cell.find('`'); at != std::string::npos; at = cell.find('`', at + 1)) {
            const std::size_t end = cell.find('`', at + 1);
            const std::string typed = cell.substr(at + 1, end - at - 1);
            const auto entry = parseEntry(part, {}, typed, Unit::Mm);
            EXPECT_TRUE(entry) << typed << ": " << (entry ? "" : entry.error().text());
            ++examples;
            at = end;
        }
    }
    EXPECT_GE(examples, 10);
}

TEST(Documents, EveryInstrumentAndChoiceIsNamed) {
    const std::string numbers = page("numbers.md");
    for (const Instrument& i : instruments())
        EXPECT_NE(numbers.find("`" + std::string(i.name) + "`"), std::string::npos) << i.name;
    const std::string format = page("file-format.md");
    for (const auto& [value, word] : Names<Contact>::table) EXPECT_NE(format.find(word), std::string::npos) << word;
    for (const auto& [value, word] : Names<DatumKind>::table) EXPECT_NE(format.find(word), std::string::npos) << word;
    const std::string schema = page("punch.schema.json");
    for (const auto& [value, word] : Names<VoltageColumn>::table)
        EXPECT_NE(schema.find("\"" + std::string(word) + "\""), std::string::npos) << word;
    for (const auto& [value, word] : Names<PinOneMark>::table)
        EXPECT_NE(schema.find("\"" + std::string(word) + "\""), std::string::npos) << word;
}

TEST(Documents, EveryKindOfMarkIsDescribedWithItsFields) {
    const std::string format = page("file-format.md"), schema = page("punch.schema.json");
    for (const MarkKindInfo& kind : markKinds()) {
        const std::string word(nameOf(kind.kind));
        EXPECT_NE(schema.find("\"" + word + "\""), std::string::npos) << word;
        const std::size_t at = format.find("\n| `" + word + "` |");
        ASSERT_NE(at, std::string::npos) << word;
        const std::string row = format.substr(at + 1, format.find('\n', at + 1) - at - 1);
        for (const MarkField& f : kind.fields) {
            // Those of outlines stand above the table.
            const std::string field = "`" + std::string(f.key) + "`";
            EXPECT_NE((kind.points.area ? format : row).find(field), std::string::npos) << word << ": " << f.key;
        }
    }
}

TEST(Documents, EveryFieldOfTheJsonIsDescribed) {
    const std::string text = page("derive-json.md");
    const auto json = nlohmann::json::parse(deriveJson(test::demoPart(), derive(test::demoPart())));
    for (const auto& [key, value] : json.items()) {
        EXPECT_NE(text.find("`" + key), std::string::npos) << key;
        if (!value.is_array() || value.empty()) continue;
        for (const auto& [inner, ignored] : value[0].items())
            EXPECT_NE(text.find("`" + inner), std::string::npos) << key << "." << inner;
    }
    for (const auto& g : json["gauges"])
        EXPECT_NE(text.find("`" + g["name"].get<std::string>() + "`"), std::string::npos) << g["name"];
}

TEST(Documents, TheReadmesFirstFiveMinutes) {
    // Two readings of the new part give the pitch that the page shows.
    Part part = withSpot(*newRow(4));
    for (const char* typed : {"1 4 outside 16.25 16.23 16.26", "1 width 1.00 1.00"}) {
        const auto entry = parseEntry(part, {}, typed, Unit::Mm);
        ASSERT_TRUE(entry);
        part = withReading(part, entry->reading);
    }
    const SizeAdvice a = *derive(part).size("pitch");
    const std::string shown = fmt::format("Pitch {:.3f} ± {:.3f} mm", a.asRead, kNinetyFive * a.u);
    EXPECT_NE(readWhole(test::sourceFolder() + "/README.md")->find(shown), std::string::npos) << shown;
    for (const Pad& p : derive(part).pads) EXPECT_TRUE(p.firm);
}

}  // namespace
}  // namespace punch::documents_test
