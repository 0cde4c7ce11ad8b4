#include "core/release/drill.h"

#include <fmt/format.h>

#include <map>

#include "core/geometry/shapes.h"
#include "core/version.h"

namespace punch {

std::string drill(const Part& part, const Footprint& footprint, Plating plating) {
    const bool plated = plating == Plating::Plated;
    std::map<Length, std::vector<RoundedPolygon>> tools;
    if (plated) {
        for (const Pad& p : copperPads(footprint))
            if (p.hole > Length()) tools[p.hole].push_back(holeShape(p, false));
    } else {
        for (const BareHole& h : footprint.bareHoles)
            if (!h.plated) tools[h.size].push_back(holeShape(h, false));
    }
    std::string name;
    for (const char c : part.name) name += c == ',' || c == '*' ? '_' : c;
    std::string text = "M48\n";
    text += fmt::format("; {}; finished sizes; origin at the datum\n", name);
    text += fmt::format("; #@! TF.GenerationSoftware,Punchbit,Punchbit,{}\n", kVersion);
    text += fmt::format("; #@! TF.FileFunction,{},1,2,{}\n", plated ? "Plated" : "NonPlated", plated ? "PTH" : "NPTH");
    text += "; #@! TF.SameCoordinates,datum\nMETRIC\n";
    int number = 1;
    for (const auto& [size, places] : tools) {
        text += fmt::format("; #@! TA.AperFunction,{},{},ComponentDrill\n", plated ? "Plated" : "NonPlated",
                            plated ? "PTH" : "NPTH");
        text += fmt::format("T{:02}C{:.4f}\n", number++, size.mm());
    }
    text += "%\nG05\n";
    number = 1;
    for (const auto& [size, places] : tools) {
        text += fmt::format("T{:02}\n", number++);
        const auto at = [](Point p) { return fmt::format("X{:.4f}Y{:.4f}", p.x.mm() + 0.0, p.y.mm() + 0.0); };
        // A slot is a canned one: from the middle of one rounded end to that of the other (XNC, G85).
        for (const RoundedPolygon& shape : places)
            text +=
                at(shape.corners.front()) + (shape.corners.size() > 1 ? "G85" + at(shape.corners.back()) : "") + "\n";
    }
    return text + "M30\n";
}

}  // namespace punch
