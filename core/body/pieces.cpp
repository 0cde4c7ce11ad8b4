#include "core/body/pieces.h"

#include "core/body/package_bodies.h"
#include "core/part/turned_profile.h"

#include <cmath>

#include "core/geometry/outline.h"
#include "core/geometry/shapes.h"
#include "core/part/mark_kinds.h"

namespace punch {
namespace {

constexpr Colour kSlate = 0x7D93A3;
constexpr double kIntoBody = 0.2;  // mm that a lead reaches into its body, so that they are one

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

Look lookOf(const std::string& words) {
    return words == "metal" ? Look::Metal : words == "clear" ? Look::Clear : Look::Plastic;
}

Colour colourOf(const std::string& words, Look look) {
    static constexpr std::pair<const char*, Colour> all[] = {
        {"slate", kSlate},  {"black", 0x26292C}, {"white", 0xEFEDE6},  {"grey", 0x9A9C9B}, {"green", 0x5C7F69},
        {"blue", 0x4A6A8C}, {"red", 0x9C4A40},   {"yellow", 0xCDAA4C}, {"brown", 0x75563C}};
    // Metal that nobody coloured shines.
    if (look == Look::Metal && words == "slate") return kMetalColour;
    for (const auto& [name, colour] : all)
        if (words == name) return colour;
    return kSlate;
}

namespace {

MadeBody pieceOf(const Mark& mark, const LaidMark& laid, double seat) {
    MadeBody body;
    body.name = mark.name;
    body.look = lookOf(valueOf(mark, "look"));
    body.colour = colourOf(valueOf(mark, "colour"), body.look);
    const std::string shape = valueOf(mark, "shape");
    const double low = seat + laid.length("low").mm(), high = seat + laid.length("high").mm();
    const double r = laid.length("diameter").mm() / 2, hole = laid.length("hole").mm();
    const auto onAxis = [&] {
        const Point at = laid.points.front();
        body.pose.move = {at.x.mm(), at.y.mm(), 0};
    };
    double top = high;
    if (shape == "cone") {
        const double above = laid.length("top").mm() / 2;
        body.form = TurnedProfile{{{0, low, 0}, {r, low, 0}, {above, high, 0}, {0, high, 0}}};
        onAxis();
    } else if (shape == "dome") {
        body.form = domeOf(r, low, high);
        onAxis();
    } else if (shape == "ball") {
        body.form = Ball{2 * r};
        onAxis();
        body.pose.move.z = low + r;
    } else if (const auto profile = shape == "turned profile" ? turnedProfile(valueOf(mark, "profile"))
                                                              : Result<std::vector<ProfileCorner>>()) {
        if (profile->empty()) {
            body.form = Prism{flatArea(*laid.area), low, high};
        } else {
            TurnedProfile turned{{{0, low + profile->front().second, 0}}};
            for (const auto& [radius, z] : *profile) turned.profile.push_back({radius, low + z, 0});
            turned.profile.push_back({0, low + profile->back().second, 0});
            top = low + profile->back().second;
            body.form = turned;
            onAxis();
        }
    }
    if (hole > 0 && valueOf(mark, "form") == "circle") {
        const Point at = laid.points.front();
        const bool turned = shape != "straight";
        body.cut.push_back(Prism{flatCircle(turned ? 0 : at.x.mm(), turned ? 0 : at.y.mm(), hole), low - r * 2 - 1,
                                 std::max(top, low + 2 * r) + 1});
    }
    return body;
}

std::optional<Motion> motionOf(const Mark& mark, const LaidMark& laid, double seat) {
    if (valueOf(mark, "is") != "moving part") return {};
    const std::string how = valueOf(mark, "motion");
    if (how == "not at all") return {};
    Motion m;
    if (how == "turns" && laid.axis) {
        const std::string lies = valueOf(mark, "axisLies");
        m.at = {laid.axis->x.mm(), laid.axis->y.mm(), lies == "upright" ? 0 : seat + laid.length("axisHigh").mm()};
        m.axis = lies == "upright" ? Vec3{0, 0, 1} : lies == "left to right" ? Vec3{1, 0, 0} : Vec3{0, 1, 0};
        m.to = laid.angle("turn");
        return m;
    }
    m.turns = false;
    const double a = laid.angle("towards") * M_PI / 180;
    m.axis = how == "rises" ? Vec3{0, 0, 1} : Vec3{std::cos(a), std::sin(a), 0};
    m.to = laid.length("by").mm();
    return m;
}

}  // namespace

std::vector<MarkedBody> markedBodies(const Part& part, const Footprint& f) {
    std::vector<MarkedBody> all;
    const double seat = part.body.standoff.mm();
    for (std::size_t i = 0; i < f.laid.size() && i < part.marks.size(); ++i) {
        const LaidMark& laid = f.laid[i];
        const Mark& mark = part.marks[i];
        if (!laid.wrong.empty()) continue;
        if (laid.kind == MarkKind::Piece)
            all.push_back({mark.id, pieceOf(mark, laid, seat), motionOf(mark, laid, seat)});
        else if (laid.kind == MarkKind::PackageBody)
            for (MadeBody& body : packageBody(part, f, mark, laid)) all.push_back({mark.id, std::move(body), {}});
        else if (laid.kind == MarkKind::SurfaceLands && valueOf(mark, "body") == "made")
            for (MadeBody& body : surfaceBody(part, mark, laid)) all.push_back({mark.id, std::move(body), {}});
    }
    return all;
}

std::vector<MadeBody> measuredBlock(const Part& part, const Footprint& f) {
    if (!f.body || !f.body->allFirm() || !f.body->heightFirm || f.body->height <= Length()) return {};
    const Ring outline = ringOf(f.body->ring());
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
                       kMetalColour,
                       Prism{{flatRing(ring), {}}, seat - fit->length.mm(), seat + (f.body ? kIntoBody : 0)},
                       {},
                       {}});
    }
    return all;
}

}  // namespace punch
