// punch: every computation without a display.

#include <fmt/format.h>

#include <CLI/CLI.hpp>
#include <cstdio>
#include <filesystem>
#include <iostream>

#include "cli/find_command.h"
#include "core/base/atomic_file.h"
#include "core/derive.h"
#include "core/part/file.h"
#include "core/release/derive_json.h"
#include "core/release/proof_board.h"
#include "core/verdicts/gauges.h"
#include "core/version.h"

namespace {

using namespace punch;

// Exit codes of `punch check`; 2 serves every unreadable file and failed write.
constexpr int kGood = 0;
constexpr int kNoGo = 1;
constexpr int kFailed = 2;
constexpr int kUnknown = 3;

int report(const Problem& problem) {
    fmt::print(stderr, "punch: {}\n", problem.text());
    return kFailed;
}

void printTable(const Footprint& f) {
    fmt::print("{}   mm from the datum, x right, y up, seen from the part side\n", f.name);
    fmt::print("{:<10}{:>10}{:>10}{:>10}{:>8}{:>8}\n", "pad", "x", "y", "±", "hole", "land");
    const auto doubt = [](const PlaceDoubt& d) { return d.fitted ? fmt::format("{:.3f}", d.fitted->mm()) : "loose"; };
    for (const Pad& p : f.pads)
        fmt::print("{:<10}{:>10.3f}{:>10.3f}{:>10}{:>8.2f}{:>8.2f}\n", p.number, p.at.x.mm() + 0.0, p.at.y.mm() + 0.0,
                   doubt(p.doubt), p.hole.mm(), p.land.mm());
    for (const BareHole& h : f.bareHoles)
        fmt::print("{:<10}{:>10.3f}{:>10.3f}{:>10}{:>8.2f}{:>8}\n", h.name, h.at.x.mm(), h.at.y.mm(), doubt(h.doubt),
                   h.size.mm(), "bare");
    for (const SizeAdvice& a : f.sizes)
        if (a.firm)
            fmt::print("{} as read {:.3f} ± {:.3f} mm. {}\n", a.parameter, a.asRead, kNinetyFive * a.u, a.words);
    for (const LooseMovement& m : f.loose) fmt::print("loose: {}\n", m.words);
    for (const Slip& s : f.slips) fmt::print("asked: {}{}{}\n", s.words, s.todo.empty() ? "" : " ", s.todo);
    for (const Model::Complaint& c : f.complaints) fmt::print("wrong: {}: {}\n", c.parameter, c.words);
    fmt::print("next: {}\n", f.next.words);
}

int derivePart(const std::string& file, bool json) {
    const auto part = loadPart(file);
    if (!part) return report(part.error());
    const Footprint f = derive(*part);
    if (json)
        std::cout << deriveJson(*part, f);
    else
        printTable(f);
    return kGood;
}

int check(const std::vector<std::string>& files) {
    bool failed = false;
    bool noGo = false;
    bool unknown = false;
    for (const std::string& file : files) {
        const auto part = loadPart(file);
        if (!part) {
            report(part.error());
            failed = true;
            continue;
        }
        const Footprint f = derive(*part);
        fmt::print("{}\n", part->name);
        for (const Gauge& g : f.gauges) {
            std::string about;
            for (const std::string& id : g.about)
                about += (about.empty() ? "   " : ", ") +
                         (featureExists(*part, id) ? featureWords(*part, id) : "reading " + id);
            fmt::print("  {:<8} {:<18} {}{}\n", stateName(g.state), g.name, fill(g.words, g.of, Unit::Mm, 2), about);
            noGo |= g.state == GaugeState::NoGo;
            unknown |= g.state == GaugeState::Unknown;
        }
    }
    return failed ? kFailed : noGo ? kNoGo : unknown ? kUnknown : kGood;
}

int exportPart(const std::string& file, const std::string& folder, const std::vector<std::string>& names) {
    const auto part = loadPart(file);
    if (!part) return report(part.error());
    std::vector<Format> formats;
    for (const std::string& name : names) {
        const auto format = formatFromName(name);
        if (!format) return report(format.error());
        formats.push_back(*format);
    }
    if (formats.empty()) formats = {Format::Gerber, Format::Drill, Format::Csv, Format::Svg};
    const Footprint f = derive(*part);
    const auto files = releaseFiles(*part, f, formats);
    for (const std::string& line : releaseWarnings(*part, f)) fmt::print(stderr, "punch: note: {}\n", line);
    if (const auto written = writeAllAtomically(folder, files); !written) return report(written.error());
    for (const NamedContent& c : files) fmt::print("{}\n", (std::filesystem::path(folder) / c.name).string());
    return kGood;
}

int format(const std::string& file) {
    const auto part = loadPart(file);
    if (!part) return report(part.error());
    if (const auto saved = savePart(*part, file); !saved) return report(saved.error());
    return kGood;
}

}  // namespace

int main(int argc, char** argv) {
    CLI::App app("Punchbit on the command line: from readings and scans to a checked footprint.", "punch");
    app.set_version_flag("--version", std::string("punch ") + punch::kVersion);
    app.require_subcommand(1);
    std::string file;
    std::string folder;
    bool json = false;
    std::vector<std::string> files;
    std::vector<std::string> formats;

    auto* deriveCommand = app.add_subcommand("derive", "Print the footprint that follows from a part");
    deriveCommand->add_option("FILE", file, "a .punch file")->required();
    deriveCommand->add_flag("--json", json, "as JSON (docs/derive-json.md)");
    auto* checkCommand = app.add_subcommand(
        "check", "Read the gauges: exit 0 go or watch, 1 a no-go, 3 something unknown, 2 unreadable");
    checkCommand->add_option("FILE", files, ".punch files")->required();
    auto* exportCommand = app.add_subcommand("export", "Write the proof board and the tables");
    exportCommand->add_option("FILE", file, "a .punch file")->required();
    exportCommand->add_option("--to", folder, "folder for the files; made when missing")->required();
    exportCommand->add_option("--format", formats, "gerber, drill, csv, svg; all when none is named");
    FindArguments find;
    auto* findOption =
        app.add_subcommand("find", "Find pins, pads, holes and their formation in a scan (docs/find-json.md)");
    findOption->add_option("IMAGE", find.image, "PNG, JPEG, TIFF, BMP, WebP, PDF or DXF")->required();
    findOption->add_flag("--json", find.json, "as JSON");
    findOption->add_option("--dpi", find.dpi, "scale, instead of a ruler or the file's own dpi");
    findOption->add_option("--pair", find.pairs, "X1,Y1,X2,Y2,LENGTH: two pixels a known length apart; may be repeated")
        ->take_all();
    findOption->add_option("--face", find.face, "the face that the picture shows")
        ->required()
        ->check(CLI::IsMember({"part", "solder"}));
    findOption->add_option("--page", find.page, "page of a PDF, from 1");
    findOption->add_option("--unit", find.unit, "unit of a DXF that does not say it")
        ->check(CLI::IsMember({"mm", "inch", "mil"}));
    findOption->add_option("--region", find.region, "X,Y,W,H: pixels to look in");
    auto* formatCommand = app.add_subcommand("fmt", "Write a .punch file in its standard form");
    formatCommand->add_option("FILE", file, "a .punch file")->required();

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        const int code = app.exit(e);
        return code == 0 ? 0 : kFailed;
    }
    if (deriveCommand->parsed()) return derivePart(file, json);
    if (checkCommand->parsed()) return check(files);
    if (findOption->parsed()) return findCommand(find);
    if (exportCommand->parsed()) return exportPart(file, folder, formats);
    return format(file);
}
