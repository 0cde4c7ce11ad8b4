#include "core/clear/conductors.h"

#include <algorithm>
#include <cmath>

#include "core/geometry/shapes.h"

namespace punch {
namespace {

Conductor plain(const std::string& id, const std::string& name, const Land& land, bool firm) {
    Conductor p;
    p.id = id;
    p.number = name;
    p.at = land.at;
    p.top = land;
    p.firm = firm;
    p.sized = true;
    return p;
}

Conductor onEveryLayer(Conductor p) {
    p.inner = p.bottom = p.top;
    return p;
}

/// Metal around a bare hole; without a head the peg itself, wherever it stands in its hole.
std::optional<Conductor> metalOf(const Spot& spot, const BareHole& hole) {
    if (hole.plated) return {};  // its land is copper
    Land land{LandShape::Round, hole.at, max(spot.head, hole.sizeLargest), {}, {}, {}};
    land.length = land.width;
    if (hole.slotLength > Length() && spot.head <= Length()) {
        land.shape = LandShape::Oval;
        land.width = hole.slotLength + (hole.sizeLargest - hole.size);
        land.turn = hole.slotTurn;
    }
    Conductor metal = plain(spot.id, spot.name, land, hole.firm);
    metal.bottom = land;
    return metal;
}

Conductor cutOf(const Shape& c) {
    const RoundedPolygon& one = c.pieces.front();
    const Rect box = boundsOf(one);
    Land land{LandShape::RoundedRectangle, box.middle(), box.width(), box.height(), one.radius, {}};
    if (one.corners.size() == 2) {
        const Point along = one.corners[1] - one.corners[0];
        land.shape = LandShape::Oval;
        land.width = hypot(along.x, along.y) + 2.0 * one.radius;
        land.length = 2.0 * one.radius;
        land.turn = Angle::fromRadians(std::atan2(along.y.mm(), along.x.mm()));
    }
    return onEveryLayer(plain(c.id, c.name, land, true));
}

/// An outline of several pieces keeps the distances of the convex shape around it, which are never larger.
Conductor around(const std::string& id, const std::string& name, const std::vector<RoundedPolygon>& pieces, bool firm) {
    return plain(id, name, polygonLand(pieces.size() == 1 ? pieces.front() : hullOf(pieces)), firm);
}

Conductor keepoutOf(const Shape& k) {
    Conductor c = around(k.id, k.name, k.pieces, k.firm);
    if (k.keeps.bottom) c.bottom = c.top;
    if (!k.keeps.top) c.top = {};
    return c;
}

Conductor edgeOf(const Face& face, const FaceLine& line) {
    // A strip along the outside of the edge, longer than any board.
    const Length deep = Length::fromMm(2);
    const Length far = Length::fromMm(3000);
    const Length middle = line.at + (face.positive ? deep / 2 : -(deep / 2));
    const bool x = face.axis == Axis::Along;
    const Land land{LandShape::Rectangle,
                    x ? Point{middle, Length()} : Point{Length(), middle},
                    x ? deep : far,
                    x ? far : deep,
                    {},
                    {}};
    return onEveryLayer(plain(face.id, face.name, land, line.doubt.has_value()));
}

}  // namespace

std::optional<Conductor> surroundingMetal(const Part& part, const Board& board, const std::string& id) {
    if (const Shape* k = shapeOf(board.keepouts, id)) return keepoutOf(*k);
    if (const Shape* c = shapeOf(board.cutOuts, id)) {
        if (c->rounded() != nullptr) return cutOf(*c);
        return onEveryLayer(around(id, featureWords(part, id), c->pieces, true));
    }
    if (const Face* face = faceOf(part, id); face != nullptr && carriesVoltage(part, id))
        for (const FaceLine& line : board.faces)
            if (line.id == id) return edgeOf(*face, line);
    if (const Spot* spot = spotOf(part, id))
        if (const BareHole* hole = board.bareHole(id)) return metalOf(*spot, *hole);
    return {};
}

std::map<FeatureId, std::size_t> potentialByFeature(const Part& part) {
    std::map<FeatureId, std::size_t> all;
    for (std::size_t i = 0; i < part.potentials.size(); ++i)
        for (const FeatureId& id : part.potentials[i].pins) all.emplace(id, i);
    return all;
}

std::vector<Conductor> metal(const Part& part, const Board& board) {
    std::vector<Conductor> all = board.copper();
    if (part.spots.empty()) return all;
    const auto live = potentialByFeature(part);
    for (const Spot& spot : part.spots)
        if (spot.head > Length() || live.contains(spot.id))
            if (const auto metal = surroundingMetal(part, board, spot.id)) all.push_back(*metal);
    return all;
}

std::vector<Conductor> liveSurroundings(const Part& part, const Board& board) {
    std::vector<Conductor> all;
    const auto isLive = [&](const FeatureId& id) {
        return std::any_of(part.potentials.begin(), part.potentials.end(), [&](const Potential& p) {
            return std::find(p.pins.begin(), p.pins.end(), id) != p.pins.end();
        });
    };
    const auto add = [&](const FeatureId& id) {
        if (!isLive(id)) return;
        if (const auto metal = surroundingMetal(part, board, id)) all.push_back(*metal);
    };
    for (const Shape& k : board.keepouts) add(k.id);
    for (const Shape& c : board.cutOuts) add(c.id);
    for (const Face& face : part.faces) add(face.id);
    return all;
}

}  // namespace punch
