#include "core/release/drill.h"

#include <fmt/format.h>

#include <cmath>
#include <map>

#include "core/artwork/artwork.h"
#include "core/version.h"

namespace punch {
namespace {

/// By the finished size: each hole or slot as the middles of its rounded ends.
using Tools = std::map<Length, std::vector<std::vector<Point>>>;

Result<Tools> toolsOf(const std::vector<Shape>& holes) {
    Tools tools;
    for (const Shape& hole : holes) {
        const RoundedPolygon& area = *hole.rounded();
        const auto wrong = [&](const char* why) {
            return problem(fmt::format("the hole of {} {}", hole.name, why), "drill file",
                           "Look at its readings and at what is set against the rule");
        };
        // Four digits behind the point are written.
        if (!(area.radius.mm() >= 0.5e-4)) return wrong("has no size");
        for (const Point& p : area.corners)
            if (!(std::abs(p.x.mm()) < 1e4 && std::abs(p.y.mm()) < 1e4)) return wrong("lies 10 m or more away");
        tools[2.0 * area.radius].push_back(area.corners);
    }
    return tools;
}

/// Where the middle of the bit goes for a plated cut-out.
struct Rout {
    Length bit;
    std::vector<std::vector<Point>> paths;  ///< closed
};

/// Slots among plated cut-outs become holes of their tool; what else is milled is routed.
std::vector<Rout> routsOf(const Footprint& footprint, Tools& tools) {
    std::vector<Rout> routs;
    for (const Shape& cut : footprint.cutOuts) {
        if (!cut.plated()) continue;
        if (const RoundedPolygon* one = cut.rounded(); one != nullptr && one->corners.size() < 3) {
            tools[2.0 * one->radius].push_back(one->corners);
            continue;
        }
        Rout rout{min(cut.milled.bit, cut.milled.width), {}};
        for (std::vector<Point> path : grown(polygonsOf(cut.milled.outline), -(rout.bit / 2 - Length::fromUm(1)))) {
            path.push_back(path.front());
            rout.paths.push_back(std::move(path));
        }
        routs.push_back(std::move(rout));
    }
    return routs;
}

}  // namespace

Result<std::string> drill(const Part& part, const Footprint& footprint, Plating plating, const Stamp& stamp) {
    const bool plated = plating == Plating::Plated;
    auto tools = toolsOf(artwork(part, footprint, plated ? Layer::PlatedHoles : Layer::BareHoles));
    if (!tools) return tl::make_unexpected(tools.error());
    const std::vector<Rout> routs = plated ? routsOf(footprint, *tools) : std::vector<Rout>();
    const auto oneLine = [](const std::string& words) {
        std::string line;
        for (const char c : words) line += c == ',' || c == '*' || static_cast<unsigned char>(c) < 0x20 ? '_' : c;
        return line;
    };
    const std::string name = oneLine(part.name);
    std::string text = "M48\n";
    text += fmt::format("; {}; finished sizes; origin at the datum\n", name);
    for (const std::string& line : stamp.all()) text += "; " + oneLine(line) + "\n";
    text += fmt::format("; #@! TF.GenerationSoftware,Punchbit,Punchbit,{}\n", kVersion);
    text += fmt::format("; #@! TF.FileFunction,{},1,2,{}\n", plated ? "Plated" : "NonPlated", plated ? "PTH" : "NPTH");
    text += "; #@! TF.SameCoordinates,datum\nMETRIC\n";
    int number = 1;
    for (const auto& [size, places] : *tools) {
        text += fmt::format("; #@! TA.AperFunction,{},{},ComponentDrill\n", plated ? "Plated" : "NonPlated",
                            plated ? "PTH" : "NPTH");
        text += fmt::format("T{:02}C{:.4f}\n", number++, size.mm());
    }
    for (const Rout& rout : routs) {
        text += "; #@! TA.AperFunction,Plated,PTH,SlotDrill\n";
        text += fmt::format("T{:02}C{:.4f}\n", number++, rout.bit.mm());
    }
    text += "%\nG05\n";
    number = 1;
    const auto at = [](Point p) { return fmt::format("X{:.4f}Y{:.4f}", p.x.mm() + 0.0, p.y.mm() + 0.0); };
    for (const auto& [size, places] : *tools) {
        text += fmt::format("T{:02}\n", number++);
        // A slot is a canned one: from the middle of one rounded end to that of the other (XNC, G85).
        for (const std::vector<Point>& ends : places)
            text += at(ends.front()) + (ends.size() > 1 ? "G85" + at(ends.back()) : "") + "\n";
    }
    for (const Rout& rout : routs) {
        text += fmt::format("T{:02}\n", number++);
        for (const std::vector<Point>& path : rout.paths) {
            text += "G00" + at(path.front()) + "\nM15\n";
            for (std::size_t i = 1; i < path.size(); ++i) text += "G01" + at(path[i]) + "\n";
            text += "M16\nG05\n";
        }
    }
    return text + "M30\n";
}

}  // namespace punch
