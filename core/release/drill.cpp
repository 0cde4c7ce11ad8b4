#include "core/release/drill.h"

#include <fmt/format.h>

#include <map>

#include "core/version.h"

namespace punch {

std::string drill(const Part& part, const Footprint& footprint, Plating plating) {
    const bool plated = plating == Plating::Plated;
    std::map<Length, std::vector<Point>> tools;
    if (plated)
        for (const Pad& p : footprint.pads) tools[p.hole].push_back(p.at);
    else
        for (const BareHole& h : footprint.bareHoles) tools[h.size].push_back(h.at);
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
        for (const Point& p : places) text += fmt::format("X{:.4f}Y{:.4f}\n", p.x.mm() + 0.0, p.y.mm() + 0.0);
    }
    return text + "M30\n";
}

}  // namespace punch
