#include "core/release/formats.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>

#include "core/pins/pin_table.h"
#include "core/release/derive_json.h"
#include "core/release/drill.h"
#include "core/release/dxf_out.h"
#include "core/artwork/moved_footprint.h"
#include "core/release/gerber.h"
#include "core/release/gerber_components.h"
#include "core/release/ipc2581_out.h"
#include "core/release/paper_out.h"
#include "core/release/report.h"
#include "core/release/report_pdf.h"
#include "core/release/step_out.h"
#include "core/release/tables.h"
#include "core/symbol/edif.h"

namespace punch {
namespace {

using Files = Result<std::vector<NamedContent>>;

Files gerberFiles(const Part& part, const Footprint& f, const Leaving& as) {
    const ProofBoard board = proofBoard(f);
    std::vector<NamedContent> files;
    for (const BoardLayerKind& kind : boardLayers()) {
        auto image = gerber(part, f, board, kind.layer, as.stamp);
        if (!image) return tl::make_unexpected(image.error());
        files.push_back({as.stem + "-" + kind.fileName + ".gbr", std::move(*image)});
    }
    auto components = gerberComponents({{&part, &f, designatorOf(part), {}}}, {&f}, true, part.name, as.stamp);
    if (!components) return tl::make_unexpected(components.error());
    files.push_back({as.stem + "-top-components.gbr", std::move(*components)});
    return files;
}

Files drillFiles(const Part& part, const Footprint& f, const Leaving& as) {
    std::vector<NamedContent> files;
    for (const Plating plating : {Plating::Plated, Plating::Bare}) {
        if (plating == Plating::Bare && f.bareHoles.empty()) continue;
        auto holes = drill(part, f, plating, as.stamp);
        if (!holes) return tl::make_unexpected(holes.error());
        files.push_back({as.stem + (plating == Plating::Plated ? "-plated.drl" : "-bare.drl"), std::move(*holes)});
    }
    return files;
}

/// One file whose text is made by `write`.
template <Result<std::string> (*write)(const Part&, const Footprint&, const Stamp&)>
Files oneFile(const Part& part, const Footprint& f, const Leaving& as, const std::string& ending) {
    auto text = write(part, f, as.stamp);
    if (!text) return tl::make_unexpected(text.error());
    return std::vector<NamedContent>{{as.stem + ending, std::move(*text)}};
}

Files csvFiles(const Part& part, const Footprint& f, const Leaving& as) {
    return oneFile<coordinateTable>(part, f, as, "-coordinates.csv");
}
Files ipcFiles(const Part& part, const Footprint& f, const Leaving& as) {
    return oneFile<ipc2581>(part, f, as, "-ipc2581.xml");
}
Files dxfFiles(const Part& part, const Footprint& f, const Leaving& as) {
    return oneFile<footprintDxf>(part, f, as, ".dxf");
}
Result<std::string> footprintJson(const Part& part, const Footprint& f, const Stamp& stamp) {
    return deriveJson(part, f, nullptr, stamp.standing);
}
Files jsonFiles(const Part& part, const Footprint& f, const Leaving& as) {
    return oneFile<footprintJson>(part, f, as, ".json");
}
/// As it lies, and with its underside down.
Files paperFiles(const Part& part, const Footprint& f, const Leaving& as) {
    std::vector<NamedContent> files;
    for (const bool mirrored : {false, true}) {
        PaperOptions options;
        options.mirrored = mirrored;
        // What is larger than a page of the printer goes onto a sheet of its own size.
        options.pageWidth = std::max(options.pageWidth, f.courtyard.width().mm() + 75);
        options.pageHeight = std::max(options.pageHeight, f.courtyard.height().mm() + 80);
        auto pdf = paperPdf({{&part, &f, as.stamp.line}}, options);
        if (!pdf) return tl::make_unexpected(pdf.error());
        files.push_back({as.stem + (mirrored ? "-paper-mirrored.pdf" : "-paper.pdf"), std::move(*pdf)});
    }
    return files;
}
Files reportFiles(const Part& part, const Footprint& f, const Leaving& as) {
    const ReportContent content = reportContent(part, f, {}, as.stamp, as.home);
    auto html = reportHtml(part, f, content);
    if (!html) return tl::make_unexpected(html.error());
    auto pdf = reportPdf(part, f, content);
    if (!pdf) return tl::make_unexpected(pdf.error());
    return std::vector<NamedContent>{{as.stem + "-report.html", std::move(*html)}, {as.stem + "-report.pdf", std::move(*pdf)}};
}
Files svgFiles(const Part& part, const Footprint& f, const Leaving& as) {
    return oneFile<sheetSvg>(part, f, as, "-sheet.svg");
}

Files stepsOf(const Part& part, const Footprint& f, const Leaving& as) {
    return stepFiles(part, f, as.stem, as.home, as.stamp.line, as.turn);
}

/// Nothing for a part whose pins nobody named.
Files symbolFiles(const Part& part, const Footprint&, const Leaving& as) {
    if (part.pins.empty()) return std::vector<NamedContent>{};
    auto edif = symbolEdif(part, as.stamp.all());
    if (!edif) return tl::make_unexpected(edif.error());
    auto svg = symbolSvg(part);
    if (!svg) return tl::make_unexpected(svg.error());
    return std::vector<NamedContent>{{as.stem + "-symbol.edf", std::move(*edif)},
                                     {as.stem + "-symbol.svg", std::move(*svg)},
                                     {as.stem + "-pins.csv", pinsCsv(part.pins)}};
}

}  // namespace

const std::vector<FormatKind>& formats() {
    static const std::vector<FormatKind> all = {
        {Format::Gerber, "gerber", "Gerber X3, nine layers and components", gerberFiles},
        {Format::Drill, "drill", "XNC drill, plated and bare apart", drillFiles},
        {Format::Ipc2581, "ipc2581", "IPC-2581 C, land pattern", ipcFiles},
        {Format::Dxf, "dxf", "DXF, a layer for each layer", dxfFiles},
        {Format::Csv, "csv", "CSV coordinate table", csvFiles},
        {Format::Json, "json", "JSON, all that follows", jsonFiles},
        {Format::Svg, "svg", "SVG of the sheet at 1:1", svgFiles},
        {Format::Report, "report", "Report (PDF, HTML)", reportFiles},
        {Format::Paper, "paper", "PDF on paper at 1:1, mirrored too", paperFiles},
        {Format::Step, "step", "STEP, alone and on a board", stepsOf},
        {Format::Symbol, "symbol", "Symbol (EDIF, SVG), pins (CSV)", symbolFiles},
    };
    return all;
}

std::string formatNames() {
    std::string names;
    for (const FormatKind& kind : formats())
        names += (names.empty() ? "" : &kind == &formats().back() ? " or " : ", ") + std::string(kind.name);
    return names;
}

Result<Format> formatFromName(const std::string& name) {
    for (const FormatKind& kind : formats())
        if (kind.name == name) return kind.format;
    return problem(fmt::format("“{}” is no format", name), "--format", "Use " + formatNames());
}

Part withOrigin(Part part, Origin origin) {
    switch (origin) {
        case Origin::Datum: break;
        case Origin::PinOne: part.datum = {DatumKind::PinOne, {}, {}}; break;
        case Origin::MiddleOfPins: part.datum = {}; break;
        case Origin::MiddleOfBody:
            if (part.body.present) part.datum = {DatumKind::Feature, kBody, {}};
            break;
    }
    return part;
}

std::string fileStem(const std::string& name) {
    std::string stem;
    // Endings are added to it, and a file name holds 255 bytes.
    constexpr std::size_t kMost = 100;
    for (const char c : name.substr(0, kMost))
        stem += std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '-' || c == '_' ? c : '_';
    return stem.empty() ? "part" : stem;
}

namespace {

Angle turnOf(const Footprint& f, Turning turning) {
    const Angle turn = zeroTurn(f, turning.zero) + Angle::fromDegrees(90.0 * (turning.quarters % 4));
    return turn.degrees() >= 360 ? turn - Angle::fromDegrees(360) : turn;
}

}  // namespace

Footprint turnedFor(const Part& part, const Footprint& footprint, Turning turning) {
    return moved(footprint, {{}, turnOf(footprint, turning), false}, part.rules.boardThickness);
}

const std::vector<Occasion>& occasions() {
    static const std::vector<Occasion> all = {
        {"layout", "For the layout", {Format::Ipc2581, Format::Csv, Format::Json, Format::Symbol, Format::Step}},
        {"fab", "For the fab: a proof board", {Format::Gerber, Format::Drill}},
        {"mechanics", "For mechanics", {Format::Dxf, Format::Step}},
        {"paper", "To lay the part on", {Format::Paper, Format::Svg}},
        {"tables", "Tables", {Format::Csv, Format::Json}},
        {"report", "A report", {Format::Report}}};
    return all;
}

Result<std::vector<NamedContent>> releaseFiles(const Part& part, const Footprint& footprint,
                                               const std::vector<Format>& chosen, const std::string& home,
                                               const std::optional<Stamp>& stamp, Turning turning) {
    Leaving as{fileStem(part.name), home, stamp ? *stamp : stampOf(part, footprint), {}};
    as.turn = turnOf(footprint, turning);
    const Footprint turned = turnedFor(part, footprint, turning);
    if (as.turn != Angle()) as.stamp.line += fmt::format(", turned by {:g} degrees", as.turn.degrees());
    std::vector<NamedContent> all;
    for (const FormatKind& kind : formats()) {
        if (std::find(chosen.begin(), chosen.end(), kind.format) == chosen.end()) continue;
        // A body's file and marks lie in the part's own frame; what is written of them is turned as a whole.
        auto files = kind.files(part, kind.format == Format::Step ? footprint : turned, as);
        if (!files) return files;
        std::move(files->begin(), files->end(), std::back_inserter(all));
    }
    return all;
}

std::vector<std::string> releaseWarnings(const Footprint& footprint) {
    std::vector<std::string> lines;
    for (const LooseMovement& l : footprint.loose) lines.push_back(l.words);
    for (const Gauge& g : footprint.gauges)
        if (g.state == GaugeState::NoGo) lines.push_back(g.title + ": no-go, " + fill(g.words, g.of, Unit::Mm, 2));
    for (const ReadingResult& r : footprint.readings)
        if (r.state == ReadingState::InDoubt)
            lines.push_back("reading " + std::to_string(&r - footprint.readings.data() + 1) + " is in doubt");
    return lines;
}

}  // namespace punch
