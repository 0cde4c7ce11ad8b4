#include "core/release/proof_board.h"

#include <fmt/format.h>

#include <cctype>

#include "core/release/drill.h"
#include "core/release/gerber.h"
#include "core/release/tables.h"
#include "core/verdicts/gauges.h"

namespace punch {

ProofBoard proofBoard(const Footprint& footprint) {
    // A fiducial's centre stands 5.0 and its clear ring (1.0) inside the edge, and 2.0 clear of the courtyard.
    const Length in = Length::fromMm(6.0);
    const Length margin = in + Length::fromMm(3.0);
    Rect content = footprint.courtyard;
    for (const Stroke& s : footprint.silkscreen)
        for (const Point& p : s.points) content.add(p);
    ProofBoard board;
    board.outline = content.grown(margin);
    // Whole millimetres outwards make a board that is easy to order and to check.
    const auto down = [](Length l) { return Length::fromMm(std::floor(l.mm())); };
    const auto up = [](Length l) { return Length::fromMm(std::ceil(l.mm())); };
    board.outline = {down(board.outline.left), up(board.outline.right), down(board.outline.bottom),
                     up(board.outline.top), false};
    const Rect f = board.outline.grown(-in);
    // Three of four corners, the third moved along, so that no turn or mirror lays the three on themselves.
    board.fiducials = {{f.left, f.bottom}, {f.right, f.bottom}, {f.left + Length::fromMm(2.5), f.top}};
    return board;
}

std::string formatName(Format format) {
    switch (format) {
        case Format::Gerber: return "gerber";
        case Format::Drill: return "drill";
        case Format::Csv: return "csv";
        case Format::Svg: break;
    }
    return "svg";
}

Result<Format> formatFromName(const std::string& name) {
    for (const Format f : {Format::Gerber, Format::Drill, Format::Csv, Format::Svg})
        if (formatName(f) == name) return f;
    return problem(fmt::format("“{}” is no format", name), "--format", "Use gerber, drill, csv or svg");
}

std::string fileStem(const std::string& name) {
    std::string stem;
    // Endings are added to it, and a file name holds 255 bytes.
    constexpr std::size_t kMost = 100;
    for (const char c : name.substr(0, kMost))
        stem += std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '-' || c == '_' ? c : '_';
    return stem.empty() ? "part" : stem;
}

std::vector<NamedContent> releaseFiles(const Part& part, const Footprint& footprint,
                                       const std::vector<Format>& formats) {
    const std::string stem = fileStem(part.name);
    const ProofBoard board = proofBoard(footprint);
    std::vector<NamedContent> files;
    for (const Format format : formats) switch (format) {
            case Format::Gerber:
                for (const BoardLayer layer : allBoardLayers())
                    files.push_back(
                        {stem + "-" + layerFileName(layer) + ".gbr", gerber(part, footprint, board, layer)});
                break;
            case Format::Drill:
                files.push_back({stem + "-plated.drl", drill(part, footprint, Plating::Plated)});
                if (!footprint.bareHoles.empty())
                    files.push_back({stem + "-bare.drl", drill(part, footprint, Plating::Bare)});
                break;
            case Format::Csv: files.push_back({stem + "-coordinates.csv", coordinateTable(part, footprint)}); break;
            case Format::Svg: files.push_back({stem + "-sheet.svg", sheetSvg(part, footprint)}); break;
        }
    return files;
}

std::vector<std::string> releaseWarnings(const Part& part, const Footprint& footprint) {
    std::vector<std::string> lines;
    for (const LooseMovement& l : footprint.loose) lines.push_back(l.words);
    for (const Gauge& g : footprint.gauges)
        if (g.state == GaugeState::NoGo) lines.push_back(g.title + ": no-go, " + fill(g.words, g.of, Unit::Mm, 2));
    for (const ReadingResult& r : footprint.readings)
        if (r.state == ReadingState::InDoubt)
            lines.push_back("reading " + std::to_string(&r - footprint.readings.data() + 1) + " is in doubt");
    (void)part;
    return lines;
}

}  // namespace punch
