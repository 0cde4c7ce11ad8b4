#include "core/release/gerber_components.h"

#include <fmt/format.h>

#include <cmath>

#include "core/release/gerber.h"
#include "core/release/zero_orientation.h"
#include "core/version.h"

namespace punch {
namespace {

std::string at(Point p) { return fmt::format("X{}Y{}", std::llround(p.x.nm()), std::llround(p.y.nm())); }

bool held(Point p) { return std::abs(p.x.mm()) < 9999.999999 && std::abs(p.y.mm()) < 9999.999999; }

std::string outline(const std::vector<Point>& ring) {
    if (ring.size() < 2) return {};
    std::string text = at(ring.front()) + "D02*\n";
    for (std::size_t i = 1; i <= ring.size(); ++i) text += at(ring[i % ring.size()]) + "D01*\n";
    return text;
}

}  // namespace

Result<std::string> gerberComponents(const std::vector<IpcComponent>& components,
                                     const std::vector<const Footprint*>& lies, bool top, const std::string& name,
                                     const Stamp& stamp) {
    std::string text = fmt::format("%TF.GenerationSoftware,Punchbit,Punchbit,{}*%\n%TF.Part,Single*%\n", kVersion);
    text += fmt::format("%TF.FileFunction,Component,{}*%\n%TF.FilePolarity,Positive*%\n%TF.SameCoordinates,datum*%\n",
                        top ? "L1,Top" : "L2,Bot");
    text += fmt::format("G04 {}*\n", gerberText(name));
    for (const std::string& line : stamp.all()) text += fmt::format("G04 {}*\n", gerberText(line));
    text +=
        "%FSLAX46Y46*%\n%MOMM*%\n"
        "%TA.AperFunction,ComponentMain*%\n%ADD10C,0.300*%\n"
        "%TA.AperFunction,ComponentOutline,Body*%\n%ADD11C,0.100*%\n"
        "%TA.AperFunction,ComponentOutline,Courtyard*%\n%ADD12C,0.100*%\n"
        "%TA.AperFunction,ComponentPin*%\n%ADD13P,0.360X4X0.0*%\n%ADD14C,0.300*%\n%TD.AperFunction*%\n"
        "%LPD*%\nG01*\n";
    for (std::size_t i = 0; i < components.size(); ++i) {
        const IpcComponent& c = components[i];
        if (c.frame.mirrored == top || !isPlaced(c.part->kind)) continue;
        const Footprint& f = *lies[i];
        const bool through = std::any_of(f.pads.begin(), f.pads.end(), [](const Pad& p) { return p.hole > Length(); });
        double turn = std::fmod(c.frame.turn.degrees(), 360);
        if (turn < 0) turn += 360;
        const std::string designator = gerberText(c.designator);
        text += fmt::format("%TO.C,{}*%\n%TO.CRot,{:g}*%\n%TO.CFtp,{}*%\n%TO.CMnt,{}*%\n", designator, turn,
                            gerberText(c.part->name), through ? "TH" : "SMD");
        if (!c.part->value.empty()) text += fmt::format("%TO.CVal,{}*%\n", gerberText(c.part->value));
        if (f.body && f.body->heightFirm)
            text += fmt::format("%TO.CHgt,{:.3f}*%\n", (f.body->height + c.part->body.standoff).mm());
        const Point pick = pickPoint(f);
        if (!held(pick)) return problem(c.designator + " lies 10 m or more away", "Gerber", "Look at its readings");
        text += "D10*\n" + at(pick) + "D03*\n";
        if (f.body) text += "D11*\n" + outline(f.body->ring());
        const Polygons& yard = top ? f.courtyardTop : f.courtyardBottom;
        if (!yard.empty()) text += "D12*\n" + outline(yard.front());
        for (const Pad& p : f.pads) {
            text += fmt::format("%TO.P,{},{}*%\n", designator, gerberText(p.number));
            text += (p.first ? "D13*\n" : "D14*\n") + at(p.at) + "D03*\n";
        }
        text += "%TD*%\n";
    }
    return text + "M02*\n";
}

}  // namespace punch
