#include "cli/library_command.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <nlohmann/json.hpp>

#include "core/derive.h"
#include "core/library/difference.h"
#include "core/library/library.h"
#include "core/part/file.h"

namespace punch {
namespace {

using Json = nlohmann::ordered_json;

int failed(const Problem& problem) {
    fmt::print(stderr, "punch: {}\n", problem.text());
    return 2;
}

double kept(double v) { return std::round(v * 1e6) / 1e6 + 0.0; }

}  // namespace

int matchCommand(const MatchArguments& arguments) {
    const auto part = loadPart(arguments.part);
    if (!part) return failed(part.error());
    const auto pattern = patternOf(*part, derive(*part));
    if (!pattern)
        return failed({"its pads are loose: there is no pattern to look for yet", part->name, "Read what it asks for"});
    const auto library = readLibrary(arguments.folder);
    if (!library) return failed(library.error());
    for (const LibraryPart& p : *library)
        if (!p.trouble.empty()) fmt::print(stderr, "punch: note: {}\n", p.trouble);
    const auto found = matching(*library, *pattern, arguments.part);
    Json all = Json::array();
    for (const LibraryMatch& m : found) {
        if (arguments.json) {
            Json pairs = Json::array();
            for (const PadPair& pair : m.how.pairs) {
                const auto& other = std::find_if(library->begin(), library->end(), [&](const LibraryPart& p) {
                                        return p.file == m.file;
                                    })->pattern;
                pairs.push_back({{"pad", pattern->pads[pair.one].number},
                                 {"there", other->pads[pair.other].number},
                                 {"off", kept(pair.off)}});
            }
            all.push_back({{"file", m.file.string()},
                           {"name", m.name},
                           {"mirrored", m.how.mirrored},
                           {"turn", kept(m.how.turn)},
                           {"x", kept(m.how.x)},
                           {"y", kept(m.how.y)},
                           {"worst", kept(m.how.worst)},
                           {"differs", m.how.differs},
                           {"pads", pairs}});
            continue;
        }
        fmt::print("{}: {}{}, worst {:.3f} mm\n", m.file.string(), m.how.mirrored ? "mirrored, " : "",
                   std::abs(m.how.turn) < 0.05 ? "as it is" : fmt::format("turned by {:.1f}°", m.how.turn),
                   m.how.worst);
        for (const std::string& words : m.how.differs) fmt::print("  {}\n", words);
    }
    if (arguments.json)
        fmt::print("{}\n", all.dump(2));
    else if (found.empty())
        fmt::print("no part of {} has these pads\n", library->size());
    return found.empty() ? 1 : 0;
}

int diffCommand(const std::string& one, const std::string& other) {
    const auto a = loadPart(one);
    if (!a) return failed(a.error());
    const auto b = loadPart(other);
    if (!b) return failed(b.error());
    const auto words = differenceWords(*a, derive(*a), *b, derive(*b));
    for (const std::string& line : words) fmt::print("{}\n", line);
    return words.empty() ? 0 : 1;
}

}  // namespace punch
