#include "cli/take_command.h"

#include <fmt/chrono.h>
#include <fmt/format.h>

#include <algorithm>
#include <cstdio>
#include <ctime>
#include <filesystem>

#include "cli/parts_read.h"
#include "core/derive.h"
#include "core/foreign/take_in.h"
#include "core/part/file.h"
#include "core/release/formats.h"

namespace punch {
namespace {

Result<ForeignFile> readAny(const std::vector<std::string>& files) {
    if (files.size() != 1 || std::filesystem::path(files.front()).extension() != kFileSuffix) return readForeign(files);
    const auto part = loadPart(files.front());
    if (!part) return tl::make_unexpected(part.error());
    return ForeignFile{{foreignOf(*part, derive(*part))}, {}};
}

std::string listed(const ForeignFile& file) {
    std::string names;
    for (const ForeignPattern& p : file.patterns) names += (names.empty() ? "" : ", ") + p.name;
    return names;
}

/// "4 pads, 1 bare hole".
std::string padsAndHoles(const ForeignPattern& p) {
    const auto bare = static_cast<std::size_t>(
        std::count_if(p.pads.begin(), p.pads.end(), [](const ForeignPad& pad) { return !pad.plated; }));
    std::string words = fmt::format("{} pads", p.pads.size() - bare);
    if (bare > 0) words += fmt::format(", {} bare hole{}", bare, bare == 1 ? "" : "s");
    return words;
}

}  // namespace

Result<ForeignPattern> foreignPattern(const std::vector<std::string>& files, const std::string& name) {
    auto read = readForeign(files);
    if (!read) return tl::make_unexpected(read.error());
    for (const std::string& note : read->notes) fmt::print(stderr, "punch: note: {}\n", note);
    if (name.empty() && read->patterns.size() == 1) return read->patterns.front();
    for (const ForeignPattern& p : read->patterns)
        if (!name.empty() && p.name == name) return p;
    return problem(name.empty() ? "there are several patterns" : "there is no pattern “" + name + "”", files.front(),
                   "Name one with --pattern: " + listed(*read));
}

int takeCommand(const TakeArguments& arguments) {
    const auto read = readAny(arguments.files);
    if (!read) return failed(read.error());
    for (const std::string& note : read->notes) fmt::print(stderr, "punch: note: {}\n", note);
    if (!arguments.all && arguments.patterns.empty()) {
        for (const ForeignPattern& p : read->patterns) fmt::print("{:<24} {}\n", p.name, padsAndHoles(p));
        return 0;
    }
    if (arguments.folder.empty()) return failed({"nowhere to write them to", "punch take", "Give a folder with --to"});
    for (const std::string& name : arguments.patterns)
        if (std::none_of(read->patterns.begin(), read->patterns.end(), [&](const auto& p) { return p.name == name; }))
            return failed(
                {"there is no pattern “" + name + "”", arguments.files.front(), "There are " + listed(*read)});
    std::vector<NamedContent> made;
    const std::string today = fmt::format("{:%Y-%m-%d}", fmt::localtime(std::time(nullptr)));
    for (const ForeignPattern& p : read->patterns) {
        if (!arguments.all &&
            std::find(arguments.patterns.begin(), arguments.patterns.end(), p.name) == arguments.patterns.end())
            continue;
        const std::string file = std::filesystem::path(arguments.files.front()).filename().string();
        const auto taken = takenIn(p, {p.name + " of " + file, file, today});
        if (!taken) return failed(taken.error());
        for (const std::string& note : taken->notes) fmt::print(stderr, "punch: note: {}: {}\n", p.name, note);
        // Two of one name both come.
        std::string name = fileStem(taken->part.name);
        for (int n = 2;
             std::any_of(made.begin(), made.end(), [&](const NamedContent& c) { return c.name == name + kFileSuffix; });
             ++n)
            name = fileStem(taken->part.name) + "-" + std::to_string(n);
        if (std::filesystem::exists(std::filesystem::path(arguments.folder) / (name + kFileSuffix)))
            return failed({"it is there already", name + kFileSuffix, "Choose another folder, or move it"});
        made.push_back({name + kFileSuffix, toText(taken->part)});
    }
    if (const auto written = writeAllAtomically(arguments.folder, made); !written) return failed(written.error());
    for (const NamedContent& c : made) fmt::print("{}\n", (std::filesystem::path(arguments.folder) / c.name).string());
    return 0;
}

}  // namespace punch
