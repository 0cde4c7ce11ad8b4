#include "core/release/step_out.h"

#include <fmt/format.h>
#include <unistd.h>

#include <atomic>
#include <filesystem>

#include "core/artwork/artwork.h"
#include "core/body/pieces.h"
#include "core/geometry/shapes.h"
#include "core/part/source_file.h"
#include "core/solid/solid_worker.h"

namespace punch {
namespace {

namespace fs = std::filesystem;

constexpr Colour kBoard = 0xEFE7CF, kCopper = 0xB9783B;
constexpr double kCopperThick = 0.035;       // mm
const Length kChord = Length::fromUm(5);     // of lands that are cut into
const Length kAround = Length::fromMm(2.5);  // of board beyond the courtyard

std::vector<FlatBend> flatRing(const std::vector<Point>& corners) { return punch::flatRing(ringOf(corners)); }

/// What goes through the board, each with its outline.
std::vector<std::vector<FlatBend>> openingsOf(const Part& part, const Footprint& f, std::vector<Rect>& boxes) {
    std::vector<std::vector<FlatBend>> all;
    for (const Layer layer : {Layer::PlatedHoles, Layer::BareHoles, Layer::CutOuts})
        for (const Shape& s : artwork(part, f, layer)) {
            if (const RoundedPolygon* area = s.rounded()) {
                all.push_back(flatRing(ringOf(*area)));
                boxes.push_back(boundsOf(*area));
            } else if (const Polygons* rings = s.polygons()) {
                for (const auto& ring : *rings) {
                    all.push_back(flatRing(ring));
                    boxes.push_back(boundsOf(Polygons{ring}));
                }
            }
        }
    return all;
}

bool meet(const Rect& a, const Rect& b) {
    return a.left <= b.right && b.left <= a.right && a.bottom <= b.top && b.bottom <= a.top;
}

void addBoard(const Part& part, const Footprint& f, SolidsToMake& to) {
    const double t = part.rules.boardThickness.mm();
    Rect box = f.courtyard;
    for (const Conductor& c : f.board().copper()) box.add(boundsOf(landShape(c)));
    if (box.empty) return;
    box = box.grown(kAround);
    std::vector<Rect> boxes;
    const auto openings = openingsOf(part, f, boxes);
    MadeBody board{"board", kBoard, {}, {}, {}};
    Prism sheet{flatRectangle(box.left.mm(), box.bottom.mm(), box.right.mm(), box.top.mm()), -t, 0};
    for (std::size_t i = 0; i < openings.size(); ++i) {
        // One that meets another or the edge is cut out; the rest are holes of the outline from the start.
        bool alone = boxes[i].left > box.left && boxes[i].right < box.right && boxes[i].bottom > box.bottom &&
                     boxes[i].top < box.top;
        for (std::size_t k = 0; k < openings.size() && alone; ++k) alone = k == i || !meet(boxes[i], boxes[k]);
        if (alone)
            sheet.outline.holes.push_back(openings[i]);
        else
            board.cut.push_back(Prism{{openings[i], {}}, -t - 1, 1});
    }
    board.form = sheet;
    to.bodies.push_back(board);
    Polygons holes;
    for (const Layer layer : {Layer::PlatedHoles, Layer::BareHoles, Layer::CutOuts})
        for (const Shape& s : artwork(part, f, layer))
            if (const RoundedPolygon* area = s.rounded()) holes.push_back(flattened(ringOf(*area), kChord));
    holes = united(holes);
    for (const bool top : {true, false}) {
        const double low = top ? 0 : -t - kCopperThick, high = top ? kCopperThick : -t;
        int number = 0;
        for (const Shape& s : artwork(part, f, top ? Layer::TopCopper : Layer::BottomCopper)) {
            const std::string name = fmt::format("{} {} {}", top ? "top" : "bottom", s.name, ++number);
            const RoundedPolygon* land = s.rounded();
            // A land with its own hole keeps its arcs. Vias are called after the pad that they belong to.
            const Pad* pad = f.pad(s.id);
            if (pad != nullptr && land != nullptr && distance(boundsOf(*land).middle(), pad->at) > Length::fromUm(1))
                pad = nullptr;
            if (land != nullptr && pad != nullptr && pad->hole > Length() && s.purpose == Purpose::ComponentPad) {
                to.bodies.push_back(
                    {name,
                     kCopper,
                     Prism{{flatRing(ringOf(*land)), {flatRing(ringOf(holeShape(*pad, false)))}}, low, high},
                     {},
                     {}});
                continue;
            }
            const Polygons area = land != nullptr           ? united({flattened(ringOf(*land), kChord)})
                                  : s.polygons() != nullptr ? *s.polygons()
                                                            : Polygons();
            for (const Area& piece : areasOf(without(area, holes))) {
                to.bodies.push_back({name, kCopper, Prism{flatArea(piece), low, high}, {}, {}});
            }
        }
    }
}

/// A comment after the file's first line (ISO 10303-21, 5.6), ASCII.
std::string withComment(const std::string& step, const std::string& says) {
    const std::size_t end = step.find('\n');
    if (says.empty() || end == std::string::npos) return step;
    std::string words;
    for (const char c : says) words += c == '*' || c < 0x20 || c > 0x7E ? '_' : c;
    return step.substr(0, end + 1) + "/* " + words + " */\n" + step.substr(end + 1);
}

}  // namespace

SolidsToMake partAsSolids(const Part& part, const Footprint& f, const std::string& home) {
    SolidsToMake all;
    all.name = part.name;
    for (const StandingSolid& s : f.solids)
        if (const SolidFile* file = solidById(part, s.id)) {
            // Only what lies beside the part is read, whatever its file says.
            const auto path = sourceFile(fs::path(home) / "part.punch", file->file);
            if (path) all.bodies.push_back({s.name, kNoColour, FromFile{path->string()}, s.pose, {}});
        }
    const auto add = [&](std::vector<MadeBody> bodies) {
        std::move(bodies.begin(), bodies.end(), std::back_inserter(all.bodies));
    };
    if (f.solids.empty()) {
        // A package body has leads of its own.
        const bool packaged = std::any_of(f.laid.begin(), f.laid.end(), [](const LaidMark& m) {
            return m.kind == MarkKind::PackageBody && m.wrong.empty();
        });
        if (!packaged) {
            add(measuredBlock(part, f));
            add(measuredLeads(part, f));
        }
    }
    for (MarkedBody& b : markedBodies(part, f)) all.bodies.push_back(std::move(b.body));
    return all;
}

SolidsToMake boardAsSolids(const Part& part, const Footprint& f, const std::string& home) {
    SolidsToMake all = partAsSolids(part, f, home);
    all.name = part.name + " on its board";
    addBoard(part, f, all);
    return all;
}

std::vector<std::string> missingBodies(const Part& part, const std::string& home) {
    std::vector<std::string> words;
    std::error_code error;
    for (const SolidFile& s : part.solids) {
        const auto path = sourceFile(fs::path(home) / "part.punch", s.file);
        if (!path || !fs::is_regular_file(*path, error))
            words.push_back(fmt::format("no STEP is written: the body {} is not there ({})", s.name, s.file));
    }
    return words;
}

Result<std::vector<NamedContent>> stepFiles(const Part& part, const Footprint& f, const std::string& stem,
                                            const std::string& home, const std::string& says, Angle turn) {
    static std::atomic<int> count{0};
    SolidWorker worker;
    std::vector<NamedContent> files;
    if (!missingBodies(part, home).empty()) return files;
    SolidsToMake alone = partAsSolids(part, f, home);
    alone.pose = turnAbout({0, 0, 1}, turn.degrees());
    const auto write = [&](const SolidsToMake& all, const std::string& name) -> Result<void> {
        std::error_code error;
        const fs::path path = fs::temp_directory_path(error) / fmt::format("punch-{}-{}.step", ::getpid(), count++);
        const auto written = worker.writeStep(all, path.string());
        if (!written) return tl::make_unexpected(Problem{written.error().what, name, written.error().todo});
        const auto text = readWhole(path);
        fs::remove(path, error);
        if (!text) return tl::make_unexpected(text.error());
        files.push_back({name, withComment(*text, says)});
        return {};
    };
    // A part of which no body is known has its board all the same.
    if (!alone.bodies.empty())
        if (const auto done = write(alone, stem + ".step"); !done) return tl::make_unexpected(done.error());
    SolidsToMake board = boardAsSolids(part, f, home);
    board.pose = alone.pose;
    // Of a part of which nothing is known there is nothing to write.
    if (board.bodies.empty()) return files;
    if (const auto done = write(board, stem + "-on-board.step"); !done) return tl::make_unexpected(done.error());
    return files;
}

}  // namespace punch
