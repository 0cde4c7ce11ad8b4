#include "core/board/board_check.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <map>

#include "core/board/board_pairs.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

using Findings = std::vector<BoardFinding>;

GaugeState stateFor(Length is, Length doubt, Length limit) {
    if (is < limit) return GaugeState::NoGo;
    return is - doubt < limit ? GaugeState::Watch : GaugeState::Go;
}

// ------------------------------------------------------------------ parts, names, thickness

void parts(const LaidBoard& b, Findings& out) {
    std::map<std::string, int> names;
    for (const LaidPart& p : b.parts) ++names[p.placing.designator];
    for (const LaidPart& p : b.parts) {
        const std::string& who = p.placing.designator;
        const auto say = [&](GaugeState state, std::string words, std::vector<Length> of = {}) {
            out.push_back({BoardCheck::Parts, state, std::move(words), std::move(of), {p.placing.id}, {p.placing.at}});
        };
        if (!std::all_of(who.begin(), who.end(), [](unsigned char c) { return std::isalnum(c) != 0 || c == '_'; }))
            say(GaugeState::NoGo, "“" + who + "” is no designator: letters and digits are");
        if (who.empty()) say(GaugeState::NoGo, "a part has no designator");
        if (!who.empty() && names[who] > 1) say(GaugeState::NoGo, who + " is there twice");
        if (!p.there()) {
            say(GaugeState::Unknown, who + ": " + p.of.trouble);
            continue;
        }
        const GaugeState worst = worstState(p.of.footprint.gauges);
        for (const Gauge& g : p.of.footprint.gauges)
            if (g.state == worst && badness(worst) > badness(GaugeState::Go)) {
                // Where several are as bad, one stands for them: the part itself is where they are mended.
                say(worst, fmt::format("{} ({}): {}: {}", who, p.of.part.name, g.title, g.words), g.of);
                break;
            }
        const Length made = p.of.part.rules.boardThickness;
        if (abs(made - b.board.thickness) > Length::fromMm(0.05) && !p.lies.pads.empty())
            say(GaugeState::Watch, who + ": its leads are judged for a board of {} {u}, this one has {}",
                {made, b.board.thickness});
    }
    if (b.parts.empty()) out.push_back({BoardCheck::Parts, GaugeState::Unknown, "no part is on the board yet", {}});
}

void outline(const LaidBoard& b, Findings& out) {
    const Rect& r = b.outline.outline;
    const Length largest = Length::fromMm(600), least = Length::fromMm(5);
    const auto say = [&](GaugeState state, std::string words, std::vector<Length> of) {
        out.push_back({BoardCheck::Outline, state, std::move(words), std::move(of), {}, {r.middle()}});
    };
    if (r.width() > largest || r.height() > largest)
        say(GaugeState::NoGo, "{} x {} {u}: few makers make more than {}", {r.width(), r.height(), largest});
    else if (min(r.width(), r.height()) < least)
        say(GaugeState::Watch, "{} x {} {u} is hard to hold", {r.width(), r.height()});
    else
        say(GaugeState::Go, "{} x {} {u}", {r.width(), r.height()});
}

// ------------------------------------------------------------------ courtyards

void courtyards(const LaidBoard& b, Findings& out) {
    const Polygons board{b.rings.front()};
    for (std::size_t i = 0; i < b.parts.size(); ++i)
        for (std::size_t k = i + 1; k < b.parts.size(); ++k) {
            const LaidPart &a = b.parts[i], &c = b.parts[k];
            for (const bool top : {true, false}) {
                const Polygons& one = top ? a.lies.courtyardTop : a.lies.courtyardBottom;
                const Polygons& two = top ? c.lies.courtyardTop : c.lies.courtyardBottom;
                if (one.empty() || two.empty() || !boxesMeet(boundsOf(one), boundsOf(two))) continue;
                const Polygons both = common(one, two);
                // Edges that touch are no overlap.
                if (areaOf(both) < 1e-4) continue;
                const Rect box = boundsOf(both);
                out.push_back({BoardCheck::Courtyards,
                               GaugeState::NoGo,
                               fmt::format("{} and {}: courtyards overlap by {{}} x {{}} {{u}}{}", a.placing.designator,
                                           c.placing.designator, top ? "" : " on the bottom"),
                               {box.width(), box.height()},
                               {a.placing.id, c.placing.id},
                               {box.middle()},
                               -std::sqrt(areaOf(both))});
            }
        }
    for (const LaidPart& p : b.parts) {
        Polygons all = p.lies.courtyardTop;
        all.insert(all.end(), p.lies.courtyardBottom.begin(), p.lies.courtyardBottom.end());
        if (all.empty()) continue;
        const Polygons past = without(united(all), board);
        if (areaOf(past) < 1e-4) continue;
        // A part that is made for an edge reaches over it; whether it lies at one, the edge's check says.
        const bool meant = std::any_of(p.lies.faces.begin(), p.lies.faces.end(),
                                       [](const FaceLine& f) { return f.kind == FaceKind::BoardEdge; });
        const Rect box = boundsOf(past);
        if (!meant)
            out.push_back({BoardCheck::Courtyards,
                           GaugeState::Watch,
                           p.placing.designator + ": its courtyard reaches past the board's edge by {} x {} {u}",
                           {box.width(), box.height()},
                           {p.placing.id},
                           {box.middle()}});
    }
}

// ------------------------------------------------------------------ fiducials

void fiducials(const LaidBoard& b, Findings& out) {
    const auto placedByMachine = std::any_of(b.parts.begin(), b.parts.end(), [](const LaidPart& p) {
        return p.there() && std::any_of(p.lies.attached.lands.begin(), p.lies.attached.lands.end(),
                                        [](const Conductor& c) { return isSurfaceLand(c); });
    });
    std::vector<Point> all = b.board.fiducials;
    for (const LaidPart& p : b.parts)
        for (const Conductor& c : p.lies.attached.lands)
            if (c.fiducial && !c.local && c.top.there()) all.push_back(c.at);
    const auto say = [&](GaugeState state, std::string words, std::vector<Length> of, std::vector<Point> at) {
        out.push_back({BoardCheck::Fiducials, state, std::move(words), std::move(of), {}, std::move(at)});
    };
    if (all.empty())
        return say(placedByMachine ? GaugeState::Watch : GaugeState::Go,
                   placedByMachine ? "none, and surface parts are placed by them" : "none; nothing is placed by them",
                   {}, {});
    if (all.size() < 3)
        say(GaugeState::Watch, fmt::format("{}: three tell turn and stretch", all.size()), {}, {all[0]});
    const Length ring = ProofBoard::fiducialOpening() / 2;
    for (const Point& f : all) {
        const RoundedPolygon clear = RoundedPolygon::disc(f, 2.0 * ring);
        const Length edge = toEdge(b.rings, clear);
        const Length asks = Length::fromMm(5);
        if (edge < asks)
            say(edge < Length() ? GaugeState::NoGo : GaugeState::Watch,
                "a fiducial's clear ring is {} of {} {u} from the edge", {edge, asks}, {f});
        for (const Conductor& c : b.all.board().copper())
            if (c.at != f && gap(copperShape(c.top), clear) < Length() && c.top.there())
                say(GaugeState::NoGo, "copper of " + designatorIn(c.id) + " lies in a fiducial's clear ring", {},
                    {f, c.at});
        for (const BareHole& h : b.all.bareHoles)
            if (gap(holeShape(h), clear) < Length())
                say(GaugeState::NoGo, "a hole lies in a fiducial's clear ring", {}, {f, h.at});
    }
    if (std::none_of(out.begin(), out.end(), [](const BoardFinding& f) { return f.check == BoardCheck::Fiducials; }))
        say(GaugeState::Go, fmt::format("{}, free", all.size()), {}, {all[0]});
}

// ------------------------------------------------------------------ lengths

void lengths(const std::vector<BoardLength>& all, BoardCheck check, const char* none, Findings& out) {
    const BoardLength* nearest = nullptr;
    bool wrong = false;
    for (const BoardLength& l : all) {
        const GaugeState state = l.refused.empty() ? stateFor(l.is, l.doubt, l.asks) : GaugeState::Unknown;
        if (state != GaugeState::Go) {
            wrong = true;
            const bool over = l.is < Length();
            std::vector<Length> of = over ? std::vector<Length>{-l.is} : std::vector<Length>{l.is, l.asks};
            std::string words = over ? "overlap by {} {u}" : "{} of {} {u}";
            if (!l.says.empty()) words = l.says, of = l.of;
            if (!l.refused.empty()) words = l.refused, of.clear();
            out.push_back({check, state, l.words + ": " + words, of, l.about, l.line, (l.is - l.asks).mm()});
        }
        if (nearest == nullptr || l.is - l.asks < nearest->is - nearest->asks) nearest = &l;
    }
    if (wrong) return;
    if (nearest == nullptr)
        out.push_back({check, GaugeState::Go, none, {}});
    else
        out.push_back({check,
                       GaugeState::Go,
                       nearest->words + ": {} of {} {u}",
                       {nearest->is, nearest->asks},
                       nearest->about,
                       nearest->line,
                       (nearest->is - nearest->asks).mm()});
}

}  // namespace

const std::vector<BoardCheckKind>& boardCheckKinds() {
    static const std::vector<BoardCheckKind> all = {{BoardCheck::Parts, "parts", "Parts"},
                                                    {BoardCheck::Outline, "outline", "Outline"},
                                                    {BoardCheck::Courtyards, "courtyards", "Courtyards"},
                                                    {BoardCheck::Keepouts, "keepouts", "Keepouts, travel"},
                                                    {BoardCheck::Holes, "holes", "Holes"},
                                                    {BoardCheck::Copper, "copper", "Copper"},
                                                    {BoardCheck::Edge, "edge", "Edges"},
                                                    {BoardCheck::Voltage, "voltage", "Voltage"},
                                                    {BoardCheck::Fiducials, "fiducials", "Fiducials"}};
    return all;
}

GaugeState BoardJudgement::of(BoardCheck check) const {
    GaugeState worst = GaugeState::Go;
    for (const BoardFinding& f : findings)
        if (f.check == check) worst = worseOf(worst, f.state);
    return worst;
}

GaugeState BoardJudgement::worst() const {
    GaugeState worst = GaugeState::Go;
    for (const BoardFinding& f : findings) worst = worseOf(worst, f.state);
    return worst;
}

BoardJudgement judged(const LaidBoard& b) {
    BoardJudgement j;
    Findings& out = j.findings;
    parts(b, out);
    outline(b, out);
    courtyards(b, out);
    keepoutFindings(b, out);
    lengths(holeLengths(b), BoardCheck::Holes, "no two parts have holes", out);
    lengths(copperLengths(b), BoardCheck::Copper, "no two parts have copper", out);
    lengths(edgeLengths(b), BoardCheck::Edge, "nothing is near an edge", out);
    const VoltagesBetween volts = voltagesBetween(b);
    lengths(volts.pairs, BoardCheck::Voltage,
            volts.named ? "no two parts carry different voltages" : "no part says what it carries", out);
    for (const std::string& silent : volts.silent) out.push_back({BoardCheck::Voltage, GaugeState::Watch, silent, {}});
    fiducials(b, out);
    for (const BoardCheck check : {BoardCheck::Courtyards, BoardCheck::Keepouts})
        if (std::none_of(out.begin(), out.end(), [&](const BoardFinding& f) { return f.check == check; }))
            out.push_back({check,
                           GaugeState::Go,
                           check == BoardCheck::Courtyards ? "none overlap" : "nothing stands where it may not",
                           {}});
    std::stable_sort(out.begin(), out.end(), [](const BoardFinding& a, const BoardFinding& c) {
        if (a.state != c.state) return badness(a.state) > badness(c.state);
        return a.check != c.check ? a.check < c.check : a.margin < c.margin;
    });
    return j;
}

Result<std::vector<Point>> offeredFiducials(const LaidBoard& b) {
    const Length ring = ProofBoard::fiducialOpening() / 2;
    const Length in = Length::fromMm(5) + ring;
    const Rect r = b.outline.outline.grown(-in);
    const auto free = [&](Point at) {
        const RoundedPolygon clear = RoundedPolygon::disc(at, 2.0 * ring);
        if (toEdge(b.rings, clear) < Length::fromMm(5)) return false;
        const Polygons disc = polygonsOf(clear);
        for (const LaidPart& p : b.parts)
            if (!p.lies.courtyardTop.empty() && areaOf(common(disc, p.lies.courtyardTop)) > 1e-9) return false;
        for (const BoardHole& h : b.board.holes)
            if (distance(h.at, at) < ring + max(h.clear, h.diameter) / 2) return false;
        return true;
    };
    std::vector<Point> found;
    // Near three of four corners, and the third moved along, so that no turn or mirror lays the three on themselves.
    const Point corners[] = {
        {r.left, r.bottom}, {r.right, r.bottom}, {r.left + Length::fromMm(2.5), r.top}, {r.right, r.top}};
    for (const Point& corner : corners) {
        if (found.size() == 3) break;
        std::optional<Point> best;
        Length away;
        const double step = 1.0;
        for (double x = 0; x <= r.width().mm() / 2; x += step)
            for (double y = 0; y <= r.height().mm() / 2; y += step) {
                const Length dx = Length::fromMm(x), dy = Length::fromMm(y);
                const Point at{corner.x < r.middle().x ? corner.x + dx : corner.x - dx,
                               corner.y < r.middle().y ? corner.y + dy : corner.y - dy};
                const Length far = hypot(dx, dy);
                if (best && far >= away) continue;
                if (free(at)) {
                    best = at;
                    away = far;
                }
            }
        if (best) found.push_back(*best);
    }
    if (found.size() < 3)
        return problem("there is no room for three fiducials, each 6 mm from the edge and free of courtyards",
                       b.board.name, "Make the board larger, or leave room near its corners");
    return found;
}

}  // namespace punch
