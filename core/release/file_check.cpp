#include "core/release/file_check.h"

#include <fmt/format.h>
#include <unistd.h>

#include <atomic>
#include <cmath>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>

#include "core/drawing/dxf_entities.h"
#include "core/drawing/pdf_pages.h"
#include "core/foreign/csv_pads.h"
#include "core/foreign/drill_holes.h"
#include "core/foreign/gerber_pads.h"
#include "core/foreign/ipc2581_pads.h"

namespace punch {
namespace {

/// Something that has to be in a file: a place, and a size where the format says one.
struct Wanted {
    std::string name;
    Point at;
    double size = 0;  ///< mm; 0: any
};

struct Seen {
    double x = 0, y = 0, size = 0;
};

using Verdict = Result<std::string>;
Verdict wrong(const std::string& what) { return problem(what); }

/// All that is wanted is seen, within half of the format's last digit and what doubles lose.
Verdict compared(const std::vector<Wanted>& wanted, const std::vector<Seen>& seen, double resolution,
                 const char* what) {
    const double within = resolution / 2 + 1e-9;
    for (const Wanted& w : wanted) {
        const bool there = std::any_of(seen.begin(), seen.end(), [&](const Seen& s) {
            return std::abs(s.x - w.at.x.mm()) <= within && std::abs(s.y - w.at.y.mm()) <= within &&
                   (w.size <= 0 || std::abs(s.size - w.size) <= 2 * within);
        });
        if (!there) return wrong(fmt::format("{} is not in it, where the footprint has it", w.name));
    }
    return fmt::format("{} {}, as on the sheet", wanted.size(), what);
}

std::vector<Wanted> holesOf(const Footprint& f, bool plated, bool bare, bool roundOnly) {
    std::vector<Wanted> all;
    const auto add = [&](const std::string& name, Point at, Length size, Length slot) {
        if (slot <= Length() || !roundOnly) all.push_back({"the hole of " + name, at, size.mm()});
    };
    if (plated)
        for (const Conductor& c : f.board().copper())
            if (c.hole > Length()) add(c.number, c.at, c.hole, c.slotLength);
    if (bare)
        for (const BareHole& h : f.bareHoles)
            if (!h.plated) add(h.name, h.at, h.size, h.slotLength);
    return all;
}

bool ends(const std::string& text, const std::string& with) {
    const auto last = text.find_last_not_of(" \r\n\t");
    return last != std::string::npos && last + 1 >= with.size() &&
           text.compare(last + 1 - with.size(), with.size(), with) == 0;
}

Verdict gerberVerdict(const NamedContent& file, const Footprint& f) {
    if (!ends(file.content, "M02*")) return wrong("its end is missing");
    const bool top = file.name.ends_with("-top-copper.gbr"), bottom = file.name.ends_with("-bottom-copper.gbr");
    if (file.name.ends_with("-components.gbr")) {
        std::size_t pins = 0;
        for (std::size_t at = 0; (at = file.content.find("%TO.P,", at)) != std::string::npos; ++at) ++pins;
        return fmt::format("{} pins", pins);
    }
    const auto read = padsFromGerber(file.content, file.name);
    if (!read) return wrong(read.error().what);
    if (!top && !bottom) return std::string("can be read");
    std::vector<Seen> seen;
    for (const GerberObject& o : read->pads) seen.push_back({o.pad.x, o.pad.y, 0});
    // What is no standard shape is a region: its middle is that of its outline, not of its hole.
    std::vector<Wanted> wanted;
    for (const Conductor& c : f.board().copper()) {
        const Land& land = top ? c.top : c.bottom;
        if (!land.there() || c.outlined) continue;
        const bool flashed = land.shape == LandShape::Round ||
                             (std::fmod(land.turn.degrees(), 90) == 0 && land.shape != LandShape::Polygon &&
                              land.shape != LandShape::Octagon && land.shape != LandShape::RoundedRectangle);
        if (flashed) wanted.push_back({"the land of " + c.number, land.at});
    }
    return compared(wanted, seen, 1e-6, "lands");
}

Verdict drillVerdict(const NamedContent& file, const Footprint& f) {
    const bool bare = file.name.ends_with("-bare.drl");
    const auto read = holesFromDrill(file.content, bare, file.name);
    if (!read) return wrong(read.error().what);
    std::vector<Seen> seen;
    for (const DrilledHole& h : read->holes) seen.push_back({h.x, h.y, h.size});
    return compared(holesOf(f, !bare, bare, false), seen, 1e-4, "holes");
}

Verdict patternVerdict(const Result<ForeignFile>& read, const Footprint& f, double resolution) {
    if (!read)
        return f.pads.empty() && f.bareHoles.empty() &&
                       std::none_of(f.attached.lands.begin(), f.attached.lands.end(), isSurfaceLand)
                   ? Verdict("no pads")
                   : wrong(read.error().what);
    std::vector<Seen> seen;
    for (const ForeignPattern& p : read->patterns)
        for (const ForeignPad& pad : p.pads) seen.push_back({pad.x, pad.y, pad.hole});
    std::vector<Wanted> wanted;
    for (const Pad& p : f.pads) wanted.push_back({"pad " + p.number, p.at, p.hole.mm()});
    for (const Conductor& c : f.attached.lands)
        if (isSurfaceLand(c)) wanted.push_back({"land " + c.number, c.at});
    return compared(wanted, seen, resolution, "pads");
}

Verdict dxfVerdict(const NamedContent& file, const Footprint& f) {
    dxf::File read;
    if (!dxf::readEntities(file.content, read)) return wrong("it is no DXF");
    if (!ends(file.content, "EOF")) return wrong("its end is missing");
    std::vector<Seen> seen;
    for (const dxf::Arc& a : read.model.arcs) seen.push_back({a.centre.x, a.centre.y, 2 * a.radius});
    return compared(holesOf(f, true, true, true), seen, 1e-4, "round holes");
}

Verdict jsonVerdict(const NamedContent& file, const Footprint& f) {
    const auto j = nlohmann::json::parse(file.content, nullptr, false);
    if (j.is_discarded() || !j.contains("pads")) return wrong("it cannot be read");
    std::vector<Seen> seen;
    for (const auto& p : j["pads"]) seen.push_back({p.value("x", 1e9), p.value("y", 1e9), 0});
    std::vector<Wanted> wanted;
    for (const Pad& p : f.pads) wanted.push_back({"pad " + p.number, p.at});
    for (const Conductor& c : f.attached.lands)
        if (isSurfaceLand(c)) wanted.push_back({"land " + c.number, c.at});
    return compared(wanted, seen, 1e-6, "pads");
}

Verdict svgVerdict(const NamedContent& file, const Footprint& f) {
    pugi::xml_document doc;
    if (!doc.load_string(file.content.c_str())) return wrong("it is no XML");
    if (!file.name.ends_with("-sheet.svg")) return std::string("can be read");
    std::vector<Seen> seen;
    for (const auto& node : doc.child("svg").select_nodes(".//circle"))
        seen.push_back({node.node().attribute("cx").as_double(), -node.node().attribute("cy").as_double(),
                        2 * node.node().attribute("r").as_double()});
    return compared(holesOf(f, true, true, true), seen, 2e-4, "round holes");
}

Verdict pdfVerdict(const NamedContent& file) {
    static std::atomic<int> count{0};
    std::error_code error;
    const auto path =
        std::filesystem::temp_directory_path(error) / fmt::format("punch-check-{}-{}.pdf", ::getpid(), count++);
    if (const auto written = writeAtomically(path, file.content); !written) return wrong(written.error().what);
    const auto pages = PdfPages::open(path.string());
    // It is read as it is asked for: the file goes once that is over.
    const Verdict verdict =
        !pages ? wrong(pages.error().what) : fmt::format("{} page{}", pages->count(), pages->count() == 1 ? "" : "s");
    std::filesystem::remove(path, error);
    return verdict;
}

Verdict stepVerdict(const NamedContent& file) {
    if (!file.content.starts_with("ISO-10303-21;") || !ends(file.content, "END-ISO-10303-21;"))
        return wrong("it is not whole");
    std::size_t solids = 0;
    for (std::size_t at = 0; (at = file.content.find("MANIFOLD_SOLID_BREP(", at)) != std::string::npos; ++at) ++solids;
    return solids == 0 ? wrong("there is no body in it") : Verdict(fmt::format("{} bodies", solids));
}

Verdict edifVerdict(const NamedContent& file) {
    int depth = 0;
    bool quoted = false;
    for (const char c : file.content) {
        if (c == '"') quoted = !quoted;
        if (quoted) continue;
        depth += c == '(' ? 1 : c == ')' ? -1 : 0;
        if (depth < 0) return wrong("its brackets do not match");
    }
    return depth != 0 || quoted ? wrong("its brackets do not match") : Verdict("can be read");
}

Verdict verdictOf(const NamedContent& file, const Footprint& f) {
    if (file.content.empty()) return wrong("it is empty");
    const std::string ending = std::filesystem::path(file.name).extension().string();
    if (ending == ".gbr") return gerberVerdict(file, f);
    if (ending == ".drl") return drillVerdict(file, f);
    if (ending == ".xml") return patternVerdict(padsFromIpc2581(file.content, file.name), f, 1e-6);
    if (file.name.ends_with("-coordinates.csv")) return patternVerdict(padsFromCsv(file.content, file.name), f, 1e-4);
    if (ending == ".dxf") return dxfVerdict(file, f);
    if (ending == ".json") return jsonVerdict(file, f);
    if (ending == ".svg") return svgVerdict(file, f);
    if (ending == ".pdf") return pdfVerdict(file);
    if (ending == ".step") return stepVerdict(file);
    if (ending == ".edf") return edifVerdict(file);
    if (ending == ".html") return ends(file.content, "</html>") ? Verdict("whole") : wrong("its end is missing");
    return std::string("not looked into");
}

}  // namespace

CheckedFile checkedFile(const NamedContent& file, const Footprint& f) {
    const Verdict v = verdictOf(file, f);
    return {file.name, file.content.size(), v.has_value(), v ? *v : v.error().what};
}

std::vector<CheckedFile> checkedFiles(const std::vector<NamedContent>& files, const Footprint& f) {
    std::vector<CheckedFile> all;
    for (const NamedContent& file : files) all.push_back(checkedFile(file, f));
    return all;
}

Result<void> allGood(const std::vector<CheckedFile>& files) {
    for (const CheckedFile& f : files)
        if (!f.good) return problem(f.words, f.name, "Leave this format out, and report the part that does this");
    return {};
}

}  // namespace punch
