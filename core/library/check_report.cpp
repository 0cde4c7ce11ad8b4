#include "core/library/check_report.h"

#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>
#include <set>
#include <sstream>

#include "core/version.h"

namespace punch {
namespace {

/// XML has no place for most control characters.
std::string printable(const std::string& text) {
    std::string out;
    for (const char c : text) out += static_cast<unsigned char>(c) < 0x20 && c != '\n' && c != '\t' ? '?' : c;
    return out;
}

std::string joined(const std::vector<LibraryTrouble>& all) {
    std::string out;
    for (const LibraryTrouble& t : all) out += (out.empty() ? "" : "\n") + t.words;
    return out;
}

}  // namespace

std::string junitReport(const std::vector<LibraryPart>& parts) {
    pugi::xml_document xml;
    pugi::xml_node suite = xml.append_child("testsuite");
    int failures = 0, errors = 0, skipped = 0;
    suite.append_attribute("name") = "punch check";
    suite.append_attribute("tests") = static_cast<unsigned long long>(parts.size());
    for (const LibraryPart& p : parts) {
        pugi::xml_node one = suite.append_child("testcase");
        one.append_attribute("name") = printable(p.name).c_str();
        one.append_attribute("classname") = printable(p.file.string()).c_str();
        if (!p.trouble.empty()) {
            ++errors;
            one.append_child("error").append_attribute("message") = printable(p.trouble).c_str();
        } else if (p.state == GaugeState::NoGo) {
            ++failures;
            pugi::xml_node failure = one.append_child("failure");
            failure.append_attribute("message") = printable(p.wrong.front().words).c_str();
            failure.text() = printable(joined(p.wrong)).c_str();
        } else if (p.state == GaugeState::Unknown) {
            ++skipped;
            one.append_child("skipped").append_attribute("message") =
                printable(p.wrong.empty() ? "not judged" : p.wrong.front().words).c_str();
        }
    }
    suite.append_attribute("failures") = failures;
    suite.append_attribute("errors") = errors;
    suite.append_attribute("skipped") = skipped;
    std::ostringstream out;
    xml.save(out, "  ");
    return out.str();
}

std::string sarifReport(const std::vector<LibraryPart>& parts, const std::filesystem::path& folder) {
    using Json = nlohmann::ordered_json;
    Json results = Json::array(), rules = Json::array();
    std::set<std::string> seen;
    for (const LibraryPart& p : parts) {
        const Json file = {{"uri", p.file.lexically_relative(folder).generic_string()}};
        const Json place = {{"artifactLocation", file}};
        const Json where = Json::array({Json{{"physicalLocation", place}}});
        const auto add = [&](const std::string& rule, const char* level, const std::string& text) {
            if (seen.insert(rule).second) rules.push_back(Json{{"id", rule}});
            Json result = {{"ruleId", rule}, {"level", level}};
            result["message"]["text"] = p.name + ": " + text;
            result["locations"] = where;
            results.push_back(std::move(result));
        };
        if (!p.trouble.empty()) add("file", "error", p.trouble);
        for (const LibraryTrouble& t : p.wrong)
            add(t.gauge, t.state == GaugeState::NoGo ? "error" : "warning", t.words);
    }
    Json run;
    run["tool"]["driver"] = {{"name", "punch"}, {"version", kVersion}, {"rules", rules}};
    run["results"] = results;
    const Json sarif = {{"$schema", "https://json.schemastore.org/sarif-2.1.0.json"},
                        {"version", "2.1.0"},
                        {"runs", Json::array({run})}};
    return sarif.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace punch
