#include "core/board/board_files.h"

#include <fmt/format.h>

#include <cmath>
#include <map>

#include "core/base/csv.h"
#include "core/board/board_check.h"
#include "core/release/drill.h"
#include "core/release/formats.h"
#include "core/release/gerber.h"
#include "core/release/gerber_components.h"
#include "core/release/ipc2581_out.h"
#include "core/release/zero_orientation.h"

namespace punch {
namespace {

double within360(double degrees) {
    const double d = std::fmod(degrees, 360);
    return d < 0 ? d + 360 : d;
}

/// What the board says of itself in its files: which parts, in which versions.
Stamp stampOf(const LaidBoard& b) {
    Stamp s;
    s.line = b.board.name + ", trial board";
    s.revision = "trial";
    for (const LaidPart& p : b.parts)
        if (p.there()) {
            s.passes.push_back(fmt::format("{}: {}, {}", p.placing.designator, p.of.part.name, p.of.standing));
        }
    return s;
}

}  // namespace

std::string placementTable(const LaidBoard& b) {
    std::string text = "designator,part,value,side,pick_x_mm,pick_y_mm,datum_x_mm,datum_y_mm,turn_deg\r\n";
    for (const LaidPart& p : b.parts) {
        if (!p.there() || !isPlaced(p.of.part.kind)) continue;
        const Point pick = pickPoint(p.lies);
        text +=
            fmt::format("{},{},{},{},{},{},{},{},{:.3f}\r\n", csvCell(p.placing.designator), csvCell(p.of.part.name),
                        csvCell(p.of.part.value), p.placing.bottom ? "bottom" : "top", csvMm(pick.x), csvMm(pick.y),
                        csvMm(p.placing.at.x), csvMm(p.placing.at.y), within360(p.placing.turn.degrees()));
    }
    return text;
}

std::string billOfMaterial(const LaidBoard& b) {
    struct Item {
        int quantity = 0;
        std::string designators;
    };
    std::map<std::array<std::string, 3>, Item> items;
    for (const LaidPart& p : b.parts) {
        if (!p.there() || !isBought(p.of.part.kind)) continue;
        Item& item = items[{p.of.part.name, p.of.part.value, p.of.part.description}];
        ++item.quantity;
        item.designators += (item.designators.empty() ? "" : " ") + p.placing.designator;
    }
    std::string text = "quantity,designators,part,value,description\r\n";
    for (const auto& [what, item] : items)
        text += fmt::format("{},{},{},{},{}\r\n", item.quantity, csvCell(item.designators), csvCell(what[0]),
                            csvCell(what[1]), csvCell(what[2]));
    return text;
}

Result<std::vector<NamedContent>> fabFiles(const LaidBoard& b) {
    for (const LaidPart& p : b.parts)
        if (!p.there()) return problem(p.of.trouble, p.placing.designator, "Find its file, or take it off the board");
    if (b.parts.empty() && b.board.holes.empty()) return problem("nothing is on it", b.board.name, "Place a part");
    const std::string stem = fileStem(b.board.name);
    const Stamp stamp = stampOf(b);
    std::vector<NamedContent> files;
    for (const BoardLayerKind& kind : boardLayers()) {
        auto image = gerber(b.whole, b.all, b.outline, kind.layer, stamp);
        if (!image) return tl::make_unexpected(image.error());
        files.push_back({stem + "-" + kind.fileName + ".gbr", std::move(*image)});
    }
    for (const Plating plating : {Plating::Plated, Plating::Bare}) {
        auto holes = drill(b.whole, b.all, plating, stamp);
        if (!holes) return tl::make_unexpected(holes.error());
        files.push_back({stem + (plating == Plating::Plated ? "-plated.drl" : "-bare.drl"), std::move(*holes)});
    }
    return files;
}

Result<std::vector<NamedContent>> boardFiles(const LaidBoard& b) {
    auto made = fabFiles(b);
    if (!made) return made;
    std::vector<NamedContent> files = std::move(*made);
    const std::string stem = fileStem(b.board.name);
    const Stamp stamp = stampOf(b);
    if (!b.parts.empty()) {
        std::vector<IpcComponent> components;
        std::vector<const Footprint*> lies;
        for (const LaidPart& p : b.parts) {
            components.push_back({&p.of.part, &p.of.footprint, p.placing.designator, p.placing.frame()});
            lies.push_back(&p.lies);
        }
        for (const bool top : {true, false}) {
            auto layer = gerberComponents(components, lies, top, b.board.name, stamp);
            if (!layer) return tl::make_unexpected(layer.error());
            files.push_back({stem + (top ? "-top-components.gbr" : "-bottom-components.gbr"), std::move(*layer)});
        }
        auto xml = ipc2581(b.whole, b.all, b.outline, components, stamp);
        if (!xml) return tl::make_unexpected(xml.error());
        files.push_back({stem + "-ipc2581.xml", std::move(*xml)});
    }
    files.push_back({stem + "-placement.csv", placementTable(b)});
    files.push_back({stem + "-bill-of-material.csv", billOfMaterial(b)});
    return files;
}

}  // namespace punch
