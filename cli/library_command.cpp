#include "cli/library_command.h"
#include "cli/take_command.h"

#include <fmt/format.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "cli/parts_read.h"
#include "core/base/atomic_file.h"
#include "core/base/text_table.h"
#include "core/derive.h"
#include "core/foreign/found_pads.h"
#include "core/library/check_report.h"
#include "core/library/compare.h"
#include "core/library/difference.h"
#include "core/library/index.h"
#include "core/library/merge.h"
#include "core/library/search.h"
#include "core/part/file.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

using Json = nlohmann::ordered_json;

bool isPicture(const std::string& file) {
    const std::string ending = lower(std::filesystem::path(file).extension().string());
    for (const char* one : {".png", ".jpg", ".jpeg", ".tif", ".tiff", ".bmp", ".webp", ".pdf", ".dxf"})
        if (ending == one) return true;
    return false;
}

/// Of a part, as far as it is known; of the files of a board; of what a scan shows.
Result<PadPattern> wantedPattern(const MatchArguments& a) {
    const std::string& first = a.files.front();
    if (isPicture(first)) {
        FindArguments find = a.find;
        find.image = first;
        if (find.face.empty())
            return problem("which face it shows is not said", first, "Give --face part or --face solder");
        const auto by = foundBy(find);
        if (!by) return tl::make_unexpected(by.error());
        auto pattern = patternOf(by->found);
        if (!pattern) return problem("fewer than two pins were found in it", first, "Look at it on the bench");
        return std::move(*pattern);
    }
    if (a.files.size() > 1 || std::filesystem::path(first).extension() != kFileSuffix) {
        const auto foreign = foreignPattern(a.files, a.pattern);
        if (!foreign) return tl::make_unexpected(foreign.error());
        return patternOf(*foreign);
    }
    const auto part = loadPart(first);
    if (!part) return tl::make_unexpected(part.error());
    const Footprint f = derive(*part);
    if (auto whole = patternOf(*part, f)) return std::move(*whole);
    if (auto firm = firmPatternOf(*part, f)) {
        fmt::print(stderr, "punch: note: some of it is loose: looked for by the {} places that are known\n",
                   firm->pads.size());
        return std::move(*firm);
    }
    return problem("its pads are loose: there is no pattern to look for yet", part->name, "Read what it asks for");
}

}  // namespace

int matchCommand(const MatchArguments& arguments) {
    const auto pattern = wantedPattern(arguments);
    if (!pattern) return failed(pattern.error());
    const std::string& itself = arguments.files.front();
    const auto library = indexedLibrary(arguments.folder);
    if (!library) return failed(library.error());
    for (const LibraryPart& p : library->parts)
        if (!p.trouble.empty()) fmt::print(stderr, "punch: note: {}\n", p.trouble);
    const auto found = matching(library->parts, *pattern, itself);
    Json all = Json::array();
    for (const LibraryMatch& m : found) {
        if (arguments.json) {
            Json pairs = Json::array();
            for (const PadPair& pair : m.how.pairs) {
                const auto& other =
                    std::find_if(library->parts.begin(), library->parts.end(), [&](const LibraryPart& p) {
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
        fmt::print("no part of {} has these pads\n", library->parts.size());
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

int listCommand(const ListArguments& arguments) {
    const auto library = indexedLibrary(arguments.folder);
    if (!library) return failed(library.error());
    Json all = Json::array();
    std::size_t count = 0;
    for (const LibraryPart* p : searched(library->parts, arguments.words)) {
        if (arguments.wrong && p->trouble.empty() && p->state == GaugeState::Go) continue;
        ++count;
        const std::string why = !p->trouble.empty() ? p->trouble : p->wrong.empty() ? "" : p->wrong.front().words;
        if (arguments.json) {
            Json one = {{"file", p->file.string()}, {"name", p->name}, {"description", p->description}};
            one["state"] = p->trouble.empty() ? stateName(p->state) : "unreadable";
            one["pads"] = p->pattern ? p->pattern->pads.size() : 0;
            one["wrong"] = Json::array();
            for (const LibraryTrouble& t : p->wrong) one["wrong"].push_back(t.words);
            if (!p->trouble.empty()) one["wrong"].push_back(p->trouble);
            all.push_back(std::move(one));
        } else
            fmt::print("{:<10} {:<20} {}{}{}\n", p->trouble.empty() ? stateName(p->state) : "unreadable", p->name,
                       p->description, why.empty() ? "" : "; ", why);
    }
    if (arguments.json) fmt::print("{}\n", all.dump(2, ' ', false, Json::error_handler_t::replace));
    return count == 0 ? 1 : 0;
}

int libraryCheckCommand(const LibraryCheckArguments& arguments) {
    const auto library = indexedLibrary(arguments.folder);
    if (!library) return failed(library.error());
    std::size_t noGo = 0, unknown = 0, broken = 0;
    for (const LibraryPart& p : library->parts) {
        broken += p.trouble.empty() ? 0 : 1;
        if (!p.trouble.empty()) fmt::print("unreadable {}: {}\n", p.file.string(), p.trouble);
        if (!p.trouble.empty()) continue;
        noGo += p.state == GaugeState::NoGo ? 1 : 0;
        unknown += p.state == GaugeState::Unknown ? 1 : 0;
        for (const LibraryTrouble& t : p.wrong) fmt::print("{:<10} {}: {}\n", stateName(t.state), p.name, t.words);
    }
    fmt::print("{} parts: {} no-go, {} unknown, {} unreadable\n", library->parts.size(), noGo, unknown, broken);
    for (const auto& [file, text] : {std::pair(arguments.junit, junitReport(library->parts)),
                                     std::pair(arguments.sarif, sarifReport(library->parts, arguments.folder))})
        if (!file.empty())
            if (const auto written = writeAtomically(file, text); !written) return failed(written.error());
    return broken > 0 ? 2 : noGo > 0 ? 1 : unknown > 0 ? 3 : 0;
}

int compareCommand(const CompareArguments& arguments) {
    std::vector<PadPattern> patterns;
    for (const std::vector<std::string>& files : {std::vector<std::string>{arguments.one}, arguments.others}) {
        if (files.size() > 1 || std::filesystem::path(files.front()).extension() != kFileSuffix) {
            const auto foreign = foreignPattern(files, arguments.pattern);
            if (!foreign) return failed(foreign.error());
            patterns.push_back(patternOf(*foreign));
            continue;
        }
        const auto part = loadPart(files.front());
        if (!part) return failed(part.error());
        auto pattern = patternOf(*part, derive(*part));
        if (!pattern)
            return failed({"its pads are loose: nothing can be laid onto them", part->name, "Read what it asks for"});
        patterns.push_back(std::move(*pattern));
    }
    const Comparison c = compared(patterns[0], patterns[1], arguments.by == "datum" ? AlignBy::Datum : AlignBy::Pads);
    if (!arguments.svg.empty())
        if (const auto written =
                writeAtomically(arguments.svg, comparisonSvg(patterns[0], patterns[1], c, arguments.times));
            !written)
            return failed(written.error());
    if (arguments.json) {
        Json out = {{"turn", kept(c.turn)},   {"x", kept(c.x)},     {"y", kept(c.y)},
                    {"worst", kept(c.worst)}, {"rms", kept(c.rms)}, {"differs", c.differs}};
        out["pads"] = Json::array();
        for (const PadDeviation& d : c.pads)
            out["pads"].push_back({{"pad", d.one},
                                   {"there", d.other},
                                   {"dx", kept(d.dx)},
                                   {"dy", kept(d.dy)},
                                   {"off", kept(d.off)},
                                   {"doubt", kept(d.doubt)}});
        fmt::print("{}\n", out.dump(2, ' ', false, Json::error_handler_t::replace));
    } else {
        fmt::print("turned by {:.3f}°, shifted by {:.3f}, {:.3f}; worst {:.3f}, rms {:.3f} mm{}\n", c.turn, c.x, c.y,
                   c.worst, c.rms, c.byNumber ? "" : "; paired by where they lie");
        for (const PadDeviation& d : c.pads)
            fmt::print("  {:>5}  {:+.3f} {:+.3f}  {:.3f} ±{:.3f}{}\n", d.one, d.dx, d.dy, d.off, d.doubt,
                       d.off <= d.doubt ? "  within their doubt" : "");
        for (const std::string& words : c.differs) fmt::print("  {}\n", words);
    }
    return c.worst > std::max(arguments.within, 0.0005) || !c.differs.empty() ? 1 : 0;
}

int mergeCommand(const std::string& base, const std::string& ours, const std::string& theirs) {
    std::string texts[3];
    int at = 0;
    for (const std::string& file : {base, ours, theirs}) {
        const auto text = readWhole(file);
        if (!text) return failed(text.error());
        texts[at++] = *text;
    }
    const auto merged = mergedPart(texts[0], texts[1], texts[2]);
    if (!merged) return failed(merged.error());
    if (const auto written = writeAtomically(ours, merged->text); !written) return failed(written.error());
    for (const std::string& conflict : merged->conflicts) fmt::print(stderr, "punch: {}\n", conflict);
    return merged->conflicts.empty() ? 0 : 1;
}

int mergeSetUpCommand(const std::string& folder) {
    namespace fs = std::filesystem;
    const fs::path attributes = fs::path(folder) / ".gitattributes";
    std::error_code error;
    if (!fs::is_directory(folder, error)) return failed({"there is no such folder", folder, "Name the library's"});
    std::string text;
    if (const auto known = readWhole(attributes)) text = *known;
    const std::string line = "*.punch merge=punch diff=punch\n";
    if (text.find(line) == std::string::npos) {
        if (!text.empty() && text.back() != '\n') text += '\n';
        if (const auto written = writeAtomically(attributes, text + line); !written) return failed(written.error());
    }
    const fs::path self = fs::read_symlink("/proc/self/exe", error);
    const std::string program = error ? "punch" : self.string();
    // Git runs it by a shell: what stands in the way of quotes is taken apart.
    std::string quoted = "'";
    for (const char c : program) quoted += c == '\'' ? std::string("'\\''") : std::string(1, c);
    quoted += "'";
    for (const auto& [key, value] : {std::pair(std::string("merge.punch.name"), std::string("parts, fact by fact")),
                                     std::pair(std::string("merge.punch.driver"), quoted + " merge %O %A %B")}) {
        const pid_t child = fork();
        if (child == 0) {
            execlp("git", "git", "-C", folder.c_str(), "config", key.c_str(), value.c_str(),
                   static_cast<char*>(nullptr));
            _exit(127);
        }
        int status = 0;
        if (child < 0 || waitpid(child, &status, 0) < 0 || status != 0)
            return failed({"git could not be told", folder, "Is it a git repository?"});
    }
    fmt::print("git merges the parts of {} fact by fact\n", folder);
    return 0;
}

}  // namespace punch
