#include "core/body/pieces.h"

#include <cmath>

#include "core/geometry/outline.h"
#include "core/geometry/shapes.h"
#include "core/part/mark_kinds.h"

namespace punch {
namespace {

constexpr Colour kSlate = 0x7D93A3, kMetal = 0xB4BCC2;
constexpr double kIntoBody = 0.2;  // mm that a lead reaches into its body, so that they are one

Colour colourOf(const std::string& words, const std::string& look) {
    static constexpr std::pair<const char*, Colour> all[] = {
        {"slate", kSlate},  {"black", 0x26292C}, {"white", 0xEFEDE6},  {"grey", 0x9A9C9B}, {"green", 0x5C7F69},
        {"blue", 0x4A6A8C}, {"red", 0x9C4A40},   {"yellow", 0xCDAA4C}, {"brown", 0x75563C}};
    // Metal that nobody coloured shines.
    if (look == "metal" && words == "slate") return kMetal;
    for (const auto& [name, colour] : all)
        if (words == name) return colour;
    return kSlate;
}

/// A dome's profile: a cap of a ball where it is no higher than half as wide, else upright and half a ball.
TurnedProfile domeOf(double r, double low, double high) {
    const double h = high - low;
    if (h <= r) {
        // The bulge of the arc from the rim to the top: a quarter of its angle's tangent.
        const double angle = 2 * std::atan2(h, r);
        return {{{0, low, 0}, {r, low, std::tan(angle / 4)}, {0, high, 0}}};
    }
    return {{{0, low, 0}, {r, low, 0}, {r, high - r, std::tan(M_PI / 8)}, {0, high, 0}}};
}

}  // namespace

std::vector<FlatBend> flatRing(const Ring& ring) {
    std::vector<FlatBend> flat;
    for (const Bend& b : ring.bends) flat.push_back({b.at.x.mm(), b.at.y.mm(), b.bulge});
    return flat;
}

FlatArea flatArea(const Area& area) {
    FlatArea flat{flatRing(area.outer), {}};
    for (const Ring& hole : area.holes) flat.holes.push_back(flatRing(hole));
    return flat;
}

std::vector<MadeBody> markedPieces(const Part& part, const Footprint& f) {
    std::vector<MadeBody> all;
    const double seat = part.body.standoff.mm();
    for (std::size_t i = 0; i < f.laid.size() && i < part.marks.size(); ++i) {
        const LaidMark& laid = f.laid[i];
        const Mark& mark = part.marks[i];
        if (laid.kind != MarkKind::Piece || !laid.wrong.empty()) continue;
        MadeBody body;
        body.name = mark.name;
        body.colour = colourOf(valueOf(mark, "colour"), valueOf(mark, "look"));
        const std::string shape = valueOf(mark, "shape");
        const double low = seat + laid.length("low").mm(), high = seat + laid.length("high").mm();
        const double r = laid.length("diameter").mm() / 2, hole = laid.length("hole").mm();
        const auto onAxis = [&] {
            const Point at = laid.points.front();
            body.pose.move = {at.x.mm(), at.y.mm(), 0};
        };
        if (shape == "cone") {
            const double top = laid.length("top").mm() / 2;
            body.form = TurnedProfile{{{0, low, 0}, {r, low, 0}, {top, high, 0}, {0, high, 0}}};
            onAxis();
        } else if (shape == "dome") {
            body.form = domeOf(r, low, high);
            onAxis();
        } else if (shape == "ball") {
            body.form = Ball{2 * r};
            onAxis();
            body.pose.move.z = low + r;
        } else {
            body.form = Prism{flatArea(*laid.area), low, high};
        }
        if (hole > 0 && valueOf(mark, "form") == "circle") {
            const Point at = laid.points.front();
            const bool turned = shape != "straight";
            body.cut.push_back(Prism{flatCircle(turned ? 0 : at.x.mm(), turned ? 0 : at.y.mm(), hole), low - r * 2 - 1,
                                     std::max(high, low + 2 * r) + 1});
        }
        all.push_back(std::move(body));
    }
    return all;
}

std::vector<MadeBody> measuredBlock(const Part& part, const Footprint& f) {
    if (!f.body || !f.body->allFirm() || !f.body->heightFirm || f.body->height <= Length()) return {};
    const Ring outline = f.body->outline.empty() ? rectangleRing(f.body->rect) : ringOf(f.body->outline);
    const double low = part.body.standoff.mm();
    return {{"body", kSlate, Prism{{flatRing(outline), {}}, low, low + f.body->height.mm()}, {}, {}}};
}

std::vector<MadeBody> measuredLeads(const Part& part, const Footprint& f) {
    std::vector<MadeBody> all;
    const double seat = part.body.standoff.mm();
    for (const Pad& p : f.pads) {
        const LeadFit* fit = f.leadOf(part, p.id);
        if (fit == nullptr || !fit->lengthFirm || fit->length <= Length() || p.leadX <= Length() || !p.firm || !p.sized)
            continue;
        Ring ring;
        if (p.leadRound) {
            ring = circle(p.at, p.leadX);
        } else {
            std::vector<Point> corners;
            for (const auto& [i, k] :
                 {std::pair(-0.5, -0.5), std::pair(0.5, -0.5), std::pair(0.5, 0.5), std::pair(-0.5, 0.5)})
                corners.push_back(turned({p.at.x + i * p.leadX, p.at.y + k * p.leadY}, p.at, p.leadTurn.degrees()));
            ring = ringOf(corners);
        }
        all.push_back({"lead " + p.number,
                       kMetal,
                       Prism{{flatRing(ring), {}}, seat - fit->length.mm(), seat + (f.body ? kIntoBody : 0)},
                       {},
                       {}});
    }
    return all;
}

}  // namespace punch
