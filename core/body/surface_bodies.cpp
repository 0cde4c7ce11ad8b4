// Bodies with surface terminals, from the dimensions that their lands are made from.

#include <algorithm>
#include <charconv>
#include <cmath>

#include "core/body/package_bodies.h"
#include "core/body/pieces.h"
#include "core/part/drawing_value.h"
#include "core/part/mark_kinds.h"
#include "core/size/package_form.h"

namespace punch {
namespace {

constexpr double kTerminalIn = 0.1;  // mm that a terminal reaches into its body
constexpr double kCap = 0.02;        // that an end cap stands over a chip
constexpr double kUnderside = 0.02;  // that flat terminals stand below
constexpr Colour kBlack = 0x26292C, kCeramic = 0xC9B79A, kCarrier = 0x5C7F69;

/// In the frame of one side: its terminals look towards +x, side by side along y.
struct Terminal {
    double overall = 0, length = 0, width = 0, body = 0, low = 0, high = 0, thick = 0;
};

Prism box(double left, double bottom, double right, double top, double low, double high) {
    return {flatRectangle(left, bottom, right, top), low, high};
}

MadeBody metal(std::string name, Prism form) {
    MadeBody body;
    body.name = std::move(name);
    body.colour = kMetalColour;
    body.look = Look::Metal;
    body.form = std::move(form);
    return body;
}

MadeBody terminalOf(LeadForm form, const Terminal& t, double y, const std::string& name) {
    const double end = t.overall / 2, foot = t.thick / 2, middle = (t.low + t.high) / 2, w = t.width;
    const double inside = t.body / 2 - kTerminalIn;
    switch (form) {
        case LeadForm::GullWing:
        case LeadForm::FineGullWing: {
            // Along the board, up, and into the body's side.
            const double up = std::max(end - t.length, t.body / 2 + foot);
            if (up < end - t.thick)
                return formedLead(name, {{end, y, foot}, {up, y, foot}, {up, y, middle}, {inside, y, middle}},
                                  1.2 * t.thick, w, t.thick, false);
            return metal(name, box(inside, y - w / 2, end, y + w / 2, 0, middle));
        }
        case LeadForm::JLead: {
            const double out = end - foot;
            return formedLead(name, {{end - t.length, y, foot}, {out, y, foot}, {out, y, middle}, {inside, y, middle}},
                              1.2 * t.thick, w, t.thick, false);
        }
        case LeadForm::FlatLead: return metal(name, box(inside, y - w / 2, end, y + w / 2, 0, t.thick));
        case LeadForm::Castellated:
            return metal(name, box(end - t.length, y - w / 2, end, y + w / 2, 0, t.high + kCap));
        case LeadForm::Chip:
        case LeadForm::SmallChip:
        case LeadForm::NoLead: break;
    }
    return metal(name, box(end - t.length, y - w / 2, end, y + w / 2, 0, std::max(t.low, kUnderside) + kTerminalIn));
}

}  // namespace

std::vector<MadeBody> surfaceBody(const Part& part, const Mark& mark, const LaidMark& laid) {
    const PackageForm* package = packageForm(valueOf(mark, "package"));
    const auto drawn = [&](const char* key) {
        const auto value = parseDrawingValue(valueOf(mark, key), Unit::Mm);
        return value ? (value->low.mm() + value->high.mm()) / 2 : 0.0;
    };
    Terminal t;
    t.overall = drawn("overall");
    t.length = drawn("terminal");
    t.width = drawn("width");
    t.low = laid.length("bodyStandoff").mm();
    t.high = laid.length("bodyHeight").mm();
    t.thick = laid.length("leadThick").mm();
    double length = laid.length("bodyLength").mm();
    const double width = laid.length("bodyWidth").mm();
    if (package == nullptr || t.overall <= 0 || t.length <= 0 || t.width <= 0 || t.high <= t.low || length <= 0 ||
        width <= 0 || t.thick <= 0 || laid.points.empty())
        return {};
    int count = 1;
    const std::string typed = valueOf(mark, "count"), from = valueOf(mark, "start");
    std::from_chars(typed.data(), typed.data() + typed.size(), count);
    int number = 1;
    std::from_chars(from.data(), from.data() + from.size(), number);
    const bool chip = package->sides == 1;
    if (chip) count = 1;
    if (count < 1 || count > 200) return {};
    const double pitch = laid.length("pitch").mm();
    std::vector<MadeBody> all;
    MadeBody body;
    if (chip) {
        // Its caps are as high and as wide as it.
        length = t.overall;
        body.form = box(-length / 2 + t.length, -t.width / 2, length / 2 - t.length, t.width / 2, kCap, t.high - kCap);
        body.colour = kCeramic;
    } else {
        const bool carrier = package->form == LeadForm::Castellated;
        if (carrier) length = t.overall;
        body.form = box(-length / 2, -width / 2, length / 2, width / 2, carrier ? 0 : t.low, t.high);
        body.colour = carrier ? kCarrier : kBlack;
    }
    body.name = mark.name;
    if (!chip) {
        const double d = std::clamp(std::min(length, width) * 0.1, 0.2, 1.0);
        body.cut.push_back(dotCut(-length / 2 + 1.2 * d, width / 2 - 1.2 * d, d, t.high));
    }
    all.push_back(body);
    // As the lands are counted: down the left side, along the front, up the right one, back along the rear.
    struct SideOf {
        double turn, overall, body;
    };
    const double other = valueOf(mark, "overall2").empty() ? t.overall : drawn("overall2");
    std::vector<SideOf> sides = {{180, t.overall, length}};
    if (package->sides == 4) sides.push_back({270, other, width});
    sides.push_back({0, t.overall, length});
    if (package->sides == 4) sides.push_back({90, other, width});
    for (const SideOf& side : sides) {
        const Pose pose = turnAbout({0, 0, 1}, side.turn);
        Terminal here = t;
        here.overall = side.overall;
        here.body = side.body;
        for (int i = 0; i < count; ++i, ++number) {
            const std::string name = "terminal " + std::to_string(number);
            const double y = pitch * (i - (count - 1) / 2.0);
            MadeBody terminal =
                chip ? metal(name, box(t.overall / 2 - t.length, -t.width / 2, t.overall / 2, t.width / 2, 0, t.high))
                     : terminalOf(package->form, here, count > 1 ? y : 0, name);
            terminal.pose = after(pose, terminal.pose);
            all.push_back(std::move(terminal));
        }
    }
    const double tabX = laid.length("tabWidth").mm(), tabY = laid.length("tabLength").mm();
    if (tabX > 0 && tabY > 0 && !chip)
        all.push_back(metal(
            "heat tab", box(-tabX / 2, -tabY / 2, tabX / 2, tabY / 2, 0, std::max(t.low, kUnderside) + kTerminalIn)));
    const bool below = valueOf(mark, "side") == "solder side";
    Pose place = turnAbout({0, 0, 1}, laid.angle("turn"));
    // On the far side it hangs on its head.
    if (below) place = after(place, turnAbout({0, 1, 0}, 180));
    place.move = {laid.points.front().x.mm(), laid.points.front().y.mm(), below ? -part.rules.boardThickness.mm() : 0};
    for (MadeBody& b : all) b.pose = after(place, b.pose);
    return all;
}

}  // namespace punch
