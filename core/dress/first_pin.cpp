#include "core/dress/first_pin.h"

#include <algorithm>

#include "core/geometry/shapes.h"
#include "core/part/numbering.h"

namespace punch {

std::optional<First> firstOf(const Board& board) {
    std::optional<First> first;
    const auto take = [&](const Conductor& c) {
        first = First{c.number, c.at, boundsOf(maskOpening(c)).top - c.at.y, {}};
    };
    std::string taken;
    for (const Pad& p : board.pads)
        if (p.first) {
            take(p);
            taken = p.id;
        }
    if (!first)
        for (const Conductor& c : board.attached.lands)
            if (isSurfaceLand(c) && (!first || numberLess(c.number, first->number))) {
                take(c);
                taken = c.id;
            }
    if (!first) return first;
    for (const Pad& p : board.pads)
        if (p.id != taken) first->others.push_back(p.at);
    for (const Conductor& c : board.attached.lands)
        if (isSurfaceLand(c) && c.id != taken) first->others.push_back(c.at);
    return first;
}

namespace {

/// Does a mark there, which points at the first pin along (dx, dy), meet another one before it?
bool isMistakable(const First& first, Point mark, double dx, double dy) {
    const Length own = distance(first.at, mark), beside = Length::fromMm(1);
    return std::any_of(first.others.begin(), first.others.end(), [&](Point p) {
        const Point d = p - mark;
        const Length along = dx * d.x + dy * d.y;
        return along > Length() && along < own && abs(dx * d.y - dy * d.x) < beside;
    });
}

}  // namespace

Beside besideFirst(const First& first, const Rect& box, bool rowsFirst) {
    const Point pin = first.at;
    struct Way {
        Length away;
        Beside beside;
    };
    std::vector<Way> ways = {{pin.x - box.left, {{box.left, pin.y}, 1, 0}},
                             {box.right - pin.x, {{box.right, pin.y}, -1, 0}},
                             {pin.y - box.bottom, {{pin.x, box.bottom}, 0, 1}},
                             {box.top - pin.y, {{pin.x, box.top}, 0, -1}}};
    const auto nearer = [](const Way& a, const Way& b) { return a.away < b.away; };
    std::stable_sort(ways.begin(), rowsFirst ? ways.begin() + 2 : ways.end(), nearer);
    if (rowsFirst) std::stable_sort(ways.begin() + 2, ways.end(), nearer);
    const Way* best = nullptr;
    for (const Way& way : ways) {
        if (isMistakable(first, way.beside.at, way.beside.dx, way.beside.dy)) continue;
        // The end of a row that is far off tells less than its side.
        if (best == nullptr || best->away > 2.0 * way.away + Length::fromMm(2)) best = &way;
    }
    return (best == nullptr ? ways.front() : *best).beside;
}

}  // namespace punch
