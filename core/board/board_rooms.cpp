// Keepouts and travel of a board's parts, and what other parts put there.

#include <fmt/format.h>

#include "core/board/board_pairs.h"

namespace punch {
namespace {

/// What stands over the board on one of its sides.
struct Occupied {
    std::string what;
    Polygons area;
    std::optional<Length> high;  ///< its top over the board; none: not measured
    bool top = true;
    bool travel = false;
};

std::vector<Occupied> occupiedBy(const LaidPart& p) {
    std::vector<Occupied> all;
    const bool top = !p.placing.bottom;
    const Footprint& f = p.lies;
    if (f.body) {
        std::optional<Length> high;
        if (f.body->heightFirm) high = f.body->height + p.of.part.body.standoff;
        all.push_back({"body", united({f.body->ring()}), high, top});
    }
    for (const StandingSolid& s : f.solids)
        for (const StandingShadow& shadow : s.shadows) all.push_back({s.name, shadow.area, shadow.high, top});
    for (const Shape& k : f.keepouts)
        if (k.keeps.piece || k.keeps.travel) {
            const bool here = k.keeps.top || !k.keeps.bottom;
            all.push_back({k.name, k.area(), k.keeps.reaches > Length() ? std::optional(k.keeps.reaches) : std::nullopt,
                           here, k.keeps.travel});
        }
    // Without any body its courtyard stands for it.
    if (all.empty() && !(top ? f.courtyardTop : f.courtyardBottom).empty())
        all.push_back({"courtyard", top ? f.courtyardTop : f.courtyardBottom, std::nullopt, top});
    return all;
}

}  // namespace

void keepoutFindings(const LaidBoard& b, std::vector<BoardFinding>& out) {
    std::vector<std::vector<Occupied>> occupied;
    for (const LaidPart& p : b.parts) occupied.push_back(p.there() ? occupiedBy(p) : std::vector<Occupied>());
    for (std::size_t i = 0; i < b.parts.size(); ++i) {
        const LaidPart& p = b.parts[i];
        if (!p.there()) continue;
        for (const Shape& k : p.lies.keepouts) {
            if (k.keeps.piece && !k.keeps.travel) continue;
            const Polygons room = k.area();
            const Rect box = boundsOf(room);
            const auto say = [&](const LaidPart& other, GaugeState state, const std::string& words,
                                 std::vector<Length> of, const Polygons& where) {
                out.push_back(
                    {BoardCheck::Keepouts,
                     state,
                     fmt::format("{}, {}: {} {}", p.placing.designator, k.name, other.placing.designator, words),
                     std::move(of),
                     {p.placing.id, other.placing.id},
                     {boundsOf(where).middle()},
                     -std::sqrt(areaOf(where))});
            };
            for (std::size_t o = 0; o < b.parts.size(); ++o) {
                const LaidPart& other = b.parts[o];
                if (o == i || !other.there()) continue;
                const Occupied* worst = nullptr;
                Polygons where;
                if (k.keeps.parts || k.keeps.travel)
                    for (const Occupied& s : occupied[o]) {
                        if (!(s.top ? k.keeps.top : k.keeps.bottom) || !boxesMeet(box, boundsOf(s.area))) continue;
                        const Polygons both = common(room, s.area);
                        if (areaOf(both) < 1e-4) continue;
                        if (s.travel && k.keeps.travel)
                            // Each pair once.
                            i < o ? say(other, GaugeState::NoGo, "moves there too: " + s.what, {}, both) : void();
                        else if (!s.high || *s.high > k.keeps.maxHeight) {
                            // What is highest stands for all that is there; what is not known, where nothing is sure.
                            const bool sure = s.high || k.keeps.maxHeight <= Length();
                            const bool wasSure = worst && (worst->high || k.keeps.maxHeight <= Length());
                            const Length high = s.high.value_or(Length());
                            if (!worst || (sure && !wasSure) ||
                                (sure == wasSure && high > worst->high.value_or(Length()))) {
                                worst = &s;
                                where = both;
                            }
                        }
                    }
                if (worst != nullptr && worst->high)
                    say(other, GaugeState::NoGo, "stands there, {} {u} high (" + worst->what + "), and {} may be",
                        {*worst->high, k.keeps.maxHeight}, where);
                else if (worst != nullptr)
                    say(other, k.keeps.maxHeight > Length() ? GaugeState::Unknown : GaugeState::NoGo,
                        k.keeps.maxHeight > Length() ? "stands there, and its height is not known (" + worst->what + ")"
                                                     : "stands there (" + worst->what + ")",
                        {}, where);
                if (k.keeps.copper)
                    for (const Conductor& c : other.lies.board().copper())
                        for (const auto& [layer, on] : {std::pair{CopperLayer::Top, k.keeps.top},
                                                        {CopperLayer::Inner, k.keeps.inner},
                                                        {CopperLayer::Bottom, k.keeps.bottom}}) {
                            const Land& land = landOn(c, layer);
                            if (!on || !land.there()) continue;
                            const Polygons both = common(room, polygonsOf(copperShape(land)));
                            if (areaOf(both) < 1e-6) continue;
                            say(other, GaugeState::NoGo, "has copper there (" + c.number + ")", {}, both);
                            break;
                        }
                if (k.keeps.drilling || k.keeps.vias)
                    for (const Conductor& c : other.lies.board().copper())
                        if (c.hole > Length() && areaOf(common(room, polygonsOf(holeShape(c)))) > 1e-6)
                            say(other, GaugeState::NoGo, "is drilled there (" + c.number + ")", {},
                                polygonsOf(holeShape(c)));
            }
        }
    }
    // Under a screw's head nothing stands either.
    for (const BoardHole& h : b.board.holes) {
        const Polygons head = polygonsOf(RoundedPolygon::disc(h.at, max(h.clear, h.diameter)));
        for (std::size_t o = 0; o < b.parts.size(); ++o)
            for (const Occupied& s : occupied[o])
                if (const Polygons both = common(head, s.area); areaOf(both) > 1e-4) {
                    out.push_back({BoardCheck::Keepouts,
                                   GaugeState::NoGo,
                                   fmt::format("hole {}: {} stands where its screw's head lies ({})", h.id,
                                               b.parts[o].placing.designator, s.what),
                                   {},
                                   {b.parts[o].placing.id, h.id},
                                   {h.at}});
                    break;
                }
    }
}

}  // namespace punch
