#include "core/geometry/frame.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace punch {
namespace {

/// Cosine and sine; those of quarter turns without rounding.
std::pair<double, double> directionOf(Angle turn) {
    double d = std::fmod(turn.degrees(), 360);
    if (d < 0) d += 360;
    if (d == 0) return {1, 0};
    if (d == 90) return {0, 1};
    if (d == 180) return {-1, 0};
    if (d == 270) return {0, -1};
    return {std::cos(turn.radians()), std::sin(turn.radians())};
}

}  // namespace

Point Frame::along(Point p) const {
    const auto [c, s] = directionOf(turn);
    const Length x = mirrored ? -p.x : p.x;
    return {c * x - s * p.y, s * x + c * p.y};
}

Point Frame::operator()(Point p) const { return at + along(p); }

Angle Frame::operator()(Angle a) const { return turn + (mirrored ? -a : a); }

bool Frame::quarterTurn() const { return std::fmod(turn.degrees(), 90) == 0; }

std::vector<Point> moved(std::vector<Point> points, const Frame& frame) {
    for (Point& p : points) p = frame(p);
    return points;
}

RoundedPolygon moved(RoundedPolygon shape, const Frame& frame) {
    shape.corners = moved(std::move(shape.corners), frame);
    // Counter-clockwise again.
    if (frame.mirrored) std::reverse(shape.corners.begin(), shape.corners.end());
    return shape;
}

Polygons moved(Polygons area, const Frame& frame) {
    for (std::vector<Point>& ring : area) {
        ring = moved(std::move(ring), frame);
        if (frame.mirrored) std::reverse(ring.begin(), ring.end());
    }
    return area;
}

Ring moved(Ring ring, const Frame& frame) {
    for (Bend& b : ring.bends) {
        b.at = frame(b.at);
        if (frame.mirrored) b.bulge = -b.bulge;
    }
    return ring;
}

Area moved(Area area, const Frame& frame) {
    area.outer = moved(std::move(area.outer), frame);
    for (Ring& hole : area.holes) hole = moved(std::move(hole), frame);
    return area;
}

Land moved(Land land, const Frame& frame) {
    land.at = frame(land.at);
    // A disc has no direction.
    if (land.shape != LandShape::Round && land.shape != LandShape::Polygon) land.turn = frame(land.turn);
    land.corners = moved(std::move(land.corners), frame);
    if (frame.mirrored) std::reverse(land.corners.begin(), land.corners.end());
    return land;
}

Conductor moved(Conductor c, const Frame& frame) {
    c.at = frame(c.at);
    for (Land* land : {&c.top, &c.inner, &c.bottom}) *land = moved(std::move(*land), frame);
    if (c.slotLength > Length()) c.slotTurn = frame(c.slotTurn);
    if (!frame.mirrored) return c;
    std::swap(c.top, c.bottom);
    if (c.layers == PadLayers::Through)
        std::swap(c.tented, c.tentedBelow);
    else
        c.layers = c.layers == PadLayers::Top ? PadLayers::Bottom : PadLayers::Top;
    return c;
}

Rect moved(const Rect& r, const Frame& frame) {
    Rect out;
    if (r.empty) return out;
    for (const Point& p :
         {Point{r.left, r.bottom}, Point{r.right, r.bottom}, Point{r.right, r.top}, Point{r.left, r.top}})
        out.add(frame(p));
    return out;
}

}  // namespace punch
