#include "core/body/package_bodies.h"

#include <algorithm>
#include <cmath>

#include "core/body/pieces.h"
#include "core/part/carriers.h"
#include "core/part/mark_kinds.h"

namespace punch {
namespace {

constexpr double kLeadIn = 0.3;    // mm that a lead reaches into its body
constexpr double kBevel = 0.25;    // of a lead's width that its bevelled end takes off each side
constexpr double kDraft = 0.0875;  // of a moulded body: tangent of five degrees

struct Lead {
    std::string name;
    double x = 0, y = 0;  ///< in the body's frame
};

/// The mark as numbers, in the body's frame: its middle at 0, its length along x.
struct Package {
    std::string form, tips;
    double length = 0, width = 0, low = 0, high = 0, leadWidth = 0, leadThick = 0, below = 0, pinHeight = 0, bend = 0;
    bool roundBody = false, roundLead = false, marked = true;
    Look look = Look::Plastic;
    Colour colour = kNoColour;
    std::vector<Lead> leads;  ///< the first is pin 1

    double middle() const { return (low + high) / 2; }
};

std::vector<FlatBend> box(double x, double y, double w, double h) {
    return {{x - w / 2, y - h / 2, 0}, {x + w / 2, y - h / 2, 0}, {x + w / 2, y + h / 2, 0}, {x - w / 2, y + h / 2, 0}};
}

/// What is cut off the lower end of a lead comes back as a tip; its length is that of the whole.
double tipOf(const Package& p) {
    return p.tips == "straight" ? 0 : std::min((p.tips == "pointed" ? 1.0 : 0.5) * p.leadWidth, p.below / 2);
}
double tipShare(const Package& p) { return p.tips == "pointed" ? 0.2 : 1 - 2 * kBevel; }

/// From its end up to a height.
MadeBody straightLead(const Package& p, const Lead& lead, double high) {
    MadeBody body;
    body.name = "lead " + lead.name;
    body.colour = kMetalColour;
    body.look = Look::Metal;
    const double end = -p.below, tip = tipOf(p), share = tipShare(p);
    if (p.roundLead) {
        const double r = p.leadWidth / 2;
        TurnedProfile profile{{{0, end, 0}}};
        profile.profile.push_back({tip > 0 ? r * share : r, end, 0});
        if (tip > 0) profile.profile.push_back({r, end + tip, 0});
        profile.profile.push_back({r, high, 0});
        profile.profile.push_back({0, high, 0});
        body.form = profile;
        body.pose.move = {lead.x, lead.y, 0};
        return body;
    }
    body.form = Prism{{box(lead.x, lead.y, p.leadWidth, p.leadThick), {}}, end + tip, high};
    if (tip > 0)
        body.join.push_back(Tapered{box(lead.x, lead.y, p.leadWidth * share, p.leadThick * share),
                                    box(lead.x, lead.y, p.leadWidth, p.leadThick), end, end + tip});
    return body;
}

/// Up from its end, and over to where its body is.
MadeBody bentLead(const Package& p, const Lead& lead, Vec3 into) {
    const double tip = tipOf(p), share = tipShare(p);
    MadeBody body = formedLead("lead " + lead.name, {{lead.x, lead.y, -p.below + tip}, {lead.x, lead.y, into.z}, into},
                               p.bend, p.leadWidth, p.leadThick, p.roundLead);
    if (tip <= 0) return body;
    if (p.roundLead)
        body.join.push_back(
            {TurnedProfile{{{0, 0, 0}, {p.leadWidth / 2 * share, 0, 0}, {p.leadWidth / 2, tip, 0}, {0, tip, 0}}},
             Pose{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {lead.x, lead.y, -p.below}}});
    else
        body.join.push_back(Tapered{box(lead.x, lead.y, p.leadWidth * share, p.leadThick * share),
                                    box(lead.x, lead.y, p.leadWidth, p.leadThick), -p.below, -p.below + tip});
    return body;
}

/// A moulded block: widest at half its height.
MadeBody moulded(const Package& p) {
    const double m = p.middle(), in = 2 * kDraft * (p.high - m);
    MadeBody body;
    const double l = std::max(p.length - in, p.length / 2), w = std::max(p.width - in, p.width / 2);
    body.form = Tapered{box(0, 0, l, w), box(0, 0, p.length, p.width), p.low, m};
    body.join.push_back(Tapered{box(0, 0, p.length, p.width), box(0, 0, l, w), m, p.high});
    return body;
}

/// A notch in the end that pin 1 stands nearest to.
void notch(const Package& p, MadeBody& body) {
    const double end = p.leads.front().x < 0 ? -p.length / 2 : p.length / 2;
    const double d = std::min(p.width * 0.3, p.length * 0.2), deep = std::min(0.5, (p.high - p.low) / 4);
    body.cut.push_back(Prism{flatCircle(end, 0, d), p.high - deep, p.high + 1});
}

/// A dot beside pin 1, on the upper face.
void dot(const Package& p, MadeBody& body, double within) {
    const double d = std::clamp(std::min(p.length, p.width) * 0.12, 0.3, 1.5);
    const double x = std::clamp(p.leads.front().x, -p.length / 2 * within + d, p.length / 2 * within - d);
    const double y = p.width / 2 * within - d, side = p.leads.front().y > 0 ? 1 : -1;
    body.cut.push_back(dotCut(p.length > 2 * d ? x : 0, p.width > 4 * d ? side * y : 0, d, p.high));
}

MadeBody block(const Package& p) {
    MadeBody body;
    body.form = Prism{{box(0, 0, p.length, p.width), {}}, p.low, p.high};
    return body;
}

/// Is a lead's foot under the body?
bool under(const Package& p, const Lead& lead) {
    return std::abs(lead.x) <= p.length / 2 && std::abs(lead.y) <= p.width / 2;
}

std::vector<MadeBody> leadsOf(const Package& p) {
    std::vector<MadeBody> all;
    for (const Lead& lead : p.leads) {
        if (under(p, lead)) {
            all.push_back(straightLead(p, lead, p.low + std::min(kLeadIn, (p.high - p.low) / 2)));
            continue;
        }
        // To the side that it stands beside.
        const double dx = std::abs(lead.x) - p.length / 2, dy = std::abs(lead.y) - p.width / 2;
        Vec3 into{lead.x, lead.y, p.middle()};
        if (dy >= dx)
            into.y = std::copysign(p.width / 2 - kLeadIn, lead.y);
        else
            into.x = std::copysign(p.length / 2 - kLeadIn, lead.x);
        all.push_back(bentLead(p, lead, into));
    }
    return all;
}

std::vector<MadeBody> roundBody(const Package& p, bool can) {
    const double r = p.length / 2, edge = std::min(can ? 0.3 : r / 2, (p.high - p.low) / 3);
    MadeBody body;
    TurnedProfile profile;
    if (can) {
        // A flange at its foot.
        const double flange = std::min(0.5, (p.high - p.low) / 4), in = std::min(0.4, r / 4);
        profile.profile = {{0, p.low, 0},
                           {r, p.low, 0},
                           {r, p.low + flange, 0},
                           {r - in, p.low + flange, 0},
                           {r - in, p.high - edge, 0},
                           {r - in - edge, p.high, 0},
                           {0, p.high, 0}};
    } else {
        profile.profile = {{0, p.low, 0}, {r, p.low, 0}, {r, p.high - edge, 0}, {r - edge, p.high, 0}, {0, p.high, 0}};
    }
    body.form = profile;
    if (can && p.marked) {
        // A tab beside pin 1.
        const double a = std::atan2(p.leads.front().y, p.leads.front().x), w = std::min(0.9, r / 2);
        const double flange = std::min(0.5, (p.high - p.low) / 4);
        body.join.push_back({Prism{{box(r + w / 2 - 0.2, 0, w + 0.4, w), {}}, p.low, p.low + flange},
                             turnAbout({0, 0, 1}, a * 180 / M_PI)});
    }
    std::vector<MadeBody> all = {body};
    const std::vector<MadeBody> leads = leadsOf(p);
    all.insert(all.end(), leads.begin(), leads.end());
    return all;
}

std::vector<MadeBody> axial(const Package& p) {
    // Between its two leads, lying at half its thickness.
    const Lead &a = p.leads.front(), &b = p.leads.back();
    const double apart = std::hypot(b.x - a.x, b.y - a.y), angle = std::atan2(b.y - a.y, b.x - a.x) * 180 / M_PI;
    const double r = p.width / 2, axis = p.low + r, half = std::min(p.length, apart) / 2,
                 edge = std::min(r / 3, half / 3);
    MadeBody body;
    body.form = TurnedProfile{{{0, -half, 0},
                               {r - edge, -half, 0},
                               {r, -half + edge, 0},
                               {r, half - edge, 0},
                               {r - edge, half, 0},
                               {0, half, 0}}};
    // z lies along the row.
    body.pose = after(turnAbout({0, 0, 1}, angle), turnAbout({0, 1, 0}, 90));
    body.pose.move = {(a.x + b.x) / 2, (a.y + b.y) / 2, axis};
    std::vector<MadeBody> all = {body};
    Package straight = p;
    for (const Lead* lead : {&a, &b}) {
        const double k = (half - std::min(kLeadIn, half / 2)) / std::max(apart / 2, 1e-6);
        const Vec3 middle = body.pose.move;
        all.push_back(bentLead(straight, *lead,
                               {middle.x + k * (lead->x - middle.x), middle.y + k * (lead->y - middle.y), axis}));
    }
    return all;
}

std::vector<MadeBody> header(const Package& p, bool socket) {
    MadeBody body = block(p);
    std::vector<MadeBody> all;
    for (const Lead& lead : p.leads) {
        if (socket) {
            // What is plugged in is as thick as the leads.
            body.cut.push_back(Prism{
                {box(lead.x, lead.y, p.leadWidth * 1.3, p.leadWidth * 1.3), {}}, p.low + 1.5 * kLeadIn, p.high + 1});
            all.push_back(straightLead(p, lead, p.low + kLeadIn));
            continue;
        }
        MadeBody pin = straightLead(p, lead, p.high + p.pinHeight - tipOf(p));
        if (const double tip = tipOf(p); tip > 0 && !p.roundLead)
            pin.join.push_back(Tapered{box(lead.x, lead.y, p.leadWidth, p.leadThick),
                                       box(lead.x, lead.y, p.leadWidth * tipShare(p), p.leadThick * tipShare(p)),
                                       p.high + p.pinHeight - tip, p.high + p.pinHeight});
        all.push_back(std::move(pin));
    }
    if (p.marked) {
        // A bevel at the corner that pin 1 stands in.
        const double sx = p.leads.front().x <= 0 ? -1 : 1, sy = p.leads.front().y <= 0 ? -1 : 1;
        const double c = std::min(p.length, p.width) * 0.2;
        body.cut.push_back(Prism{{{{sx * (p.length / 2 - c), sy * (p.width / 2 + 1), 0},
                                   {sx * (p.length / 2 + 1), sy * (p.width / 2 + 1), 0},
                                   {sx * (p.length / 2 + 1), sy * (p.width / 2 - c), 0},
                                   {sx * p.length / 2, sy * (p.width / 2 - c), 0},
                                   {sx * (p.length / 2 - c), sy * p.width / 2, 0}},
                                  {}},
                                 p.low - 1,
                                 p.high + 1});
        if (sx * sy < 0)
            std::reverse(std::get<Prism>(body.cut.back().form).outline.outer.begin(),
                         std::get<Prism>(body.cut.back().form).outline.outer.end());
    }
    all.insert(all.begin(), body);
    return all;
}

std::vector<MadeBody> terminalBlock(const Package& p) {
    MadeBody body = block(p);
    std::vector<MadeBody> all, leads = leadsOf(p);
    double pitch = p.length;
    for (std::size_t i = 1; i < p.leads.size(); ++i)
        pitch = std::min(pitch, std::hypot(p.leads[i].x - p.leads[i - 1].x, p.leads[i].y - p.leads[i - 1].y));
    const double d = std::min({0.7 * pitch, 0.4 * p.width, 4.0}), h = p.high - p.low;
    for (const Lead& lead : p.leads) {
        // A screw from above, and a wire from the front.
        const double y = std::clamp(lead.y, -p.width / 2 + d, p.width / 2 - d);
        body.cut.push_back(Prism{flatCircle(lead.x, y, d), p.high - 0.3 * h, p.high + 1});
        const double wire = std::min(0.75 * pitch, 0.35 * h);
        Simple opening = Prism{{box(0, 0, wire, wire), {}}, 0, p.width / 2 - y};
        // z towards the rear, from before the front face.
        opening.pose = turnAbout({1, 0, 0}, -90);
        opening.pose.move = {lead.x, -p.width / 2 - 0.5, p.low + 0.3 * h};
        std::get<Prism>(opening.form).high = 0.5 + std::max(0.5, y + p.width / 2 - d / 2);
        body.cut.push_back(opening);
        MadeBody screw;
        screw.name = "screw " + lead.name;
        screw.colour = kMetalColour;
        screw.look = Look::Metal;
        screw.form = Prism{flatCircle(lead.x, y, d - 0.2), p.high - 0.3 * h, p.high - 0.12 * h};
        screw.cut.push_back(Prism{{box(lead.x, y, d, 0.18 * d), {}}, p.high - 0.18 * h, p.high});
        all.push_back(std::move(screw));
    }
    if (p.marked) dot(p, body, 0.98);
    all.insert(all.begin(), body);
    all.insert(all.end(), leads.begin(), leads.end());
    return all;
}

std::vector<MadeBody> made(const Package& p) {
    if (p.form == "axial leads") return axial(p);
    if (p.form == "round can") return roundBody(p, true);
    if (p.form == "radial leads" && p.roundBody) return roundBody(p, false);
    if (p.form == "pin header" || p.form == "socket strip") return header(p, p.form == "socket strip");
    if (p.form == "terminal block") return terminalBlock(p);
    MadeBody body = p.form == "dual in-line" ? moulded(p) : block(p);
    if (p.marked && p.form == "dual in-line") notch(p, body);
    if (p.marked && p.form != "dual in-line") dot(p, body, 0.95);
    std::vector<MadeBody> all = leadsOf(p);
    all.insert(all.begin(), body);
    return all;
}

/// What of its leads was not typed is as it was read; false where that is not known.
bool asRead(Package& p, const Part& part, const Footprint& f, const FeatureId& pin) {
    const Pad* pad = f.pad(pin);
    const LeadFit* fit = f.leadOf(part, pin);
    const auto take = [](double& typed, Length read) {
        if (typed <= 0) typed = read.mm();
        return typed > 0;
    };
    return take(p.leadWidth, pad->leadX) &&
           take(p.leadThick, pad->leadRound || pad->leadY <= Length() ? pad->leadX : pad->leadY) &&
           take(p.below, fit != nullptr && fit->lengthFirm ? fit->length - Length::fromMm(p.low) : Length());
}

}  // namespace

Simple dotCut(double x, double y, double diameter, double top) {
    return Prism{flatCircle(x, y, diameter), top - 0.05, top + 1};
}

MadeBody formedLead(std::string name, std::vector<Vec3> way, double bend, double across, double thick, bool round) {
    MadeBody body;
    body.name = std::move(name);
    body.colour = kMetalColour;
    body.look = Look::Metal;
    // A bend takes its radius off both of its legs, and keeps the inside from folding.
    double most = 1e9;
    for (std::size_t i = 0; i + 1 < way.size(); ++i) {
        const bool between = i > 0 && i + 2 < way.size();
        most = std::min(most, norm(way[i + 1] - way[i]) / (between ? 2.05 : 1.02));
    }
    const double least = 0.52 * (round ? across : std::max(thick, 0.0));
    const double radius = std::min(std::max(bend, least), most);
    if (radius < least) {
        // Too short to be bent: a block around it.
        Box3 around;
        for (const Vec3& p : way) around.add(p);
        const double w = round ? across : across, t = round ? across : thick;
        const bool alongX = around.high.x - around.low.x > around.high.y - around.low.y;
        const double hx = alongX ? t / 2 : w / 2, hy = alongX ? w / 2 : t / 2;
        body.form = Prism{flatRectangle(around.low.x - hx, around.low.y - hy, around.high.x + hx, around.high.y + hy),
                          around.low.z, around.high.z + t / 2};
        return body;
    }
    body.form = Swept{std::move(way), radius, across, thick, round};
    return body;
}

std::vector<MadeBody> packageBody(const Part& part, const Footprint& f, const Mark& mark, const LaidMark& laid) {
    Package p;
    p.form = valueOf(mark, "package");
    p.tips = valueOf(mark, "tips");
    const auto mm = [&](const char* field) { return laid.length(field).mm(); };
    p.length = mm("length");
    p.width = mm("width");
    p.low = mm("standoff");
    p.high = p.low + mm("height");
    p.leadWidth = mm("leadWidth");
    p.leadThick = mm("leadThick");
    p.below = mm("leadLength");
    p.pinHeight = mm("pinHeight");
    p.bend = mm("bend");
    p.roundBody = flagOf(mark, "round");
    p.roundLead = p.form == "axial leads" || p.form == "radial leads" || p.form == "round can";
    p.marked = flagOf(mark, "marked");
    p.look = lookOf(valueOf(mark, "look"));
    p.colour = colourOf(valueOf(mark, "colour"), p.look);
    const std::string typed = valueOf(mark, "pins");
    std::vector<FeatureId> pins = allPins(part);
    if (typed != "all")
        if (const auto named = carriersByWords(part, typed)) pins = *named;
    const Point middle = laid.points.front();
    const double turn = laid.angle("turn");
    for (const FeatureId& id : pins) {
        const Pad* pad = f.pad(id);
        if (pad == nullptr || !pad->firm) return {};
        const Point at = turned(pad->at, middle, -turn);
        p.leads.push_back({pad->number, (at.x - middle.x).mm(), (at.y - middle.y).mm()});
    }
    if (p.leads.empty()) return {};
    if (!asRead(p, part, f, pins.front())) return {};
    std::vector<MadeBody> all = made(p);
    all.front().name = mark.name;
    all.front().colour = p.colour;
    all.front().look = p.look;
    Pose place = turnAbout({0, 0, 1}, turn);
    place.move = {middle.x.mm(), middle.y.mm(), 0};
    for (MadeBody& body : all) body.pose = after(place, body.pose);
    return all;
}

}  // namespace punch
