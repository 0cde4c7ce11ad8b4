#include "core/geometry/shapes.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace punch {

PUNCH_VALUE_IS_HERE(Conductor)
namespace {

Point turned(Point middle, double x, double y, Angle turn) {
    // Quarter turns keep their coordinates exact.
    double c = std::cos(turn.radians());
    double s = std::sin(turn.radians());
    if (std::abs(std::remainder(turn.degrees(), 90)) < 1e-12) {
        c = std::nearbyint(c);
        s = std::nearbyint(s);
    }
    return {middle.x + Length::fromNm(c * x - s * y), middle.y + Length::fromNm(s * x + c * y)};
}

/// A rectangle of half sides `x`, `y` (nm), rounded by `radius`.
RoundedPolygon rounded(Point middle, double x, double y, Length radius, Angle turn) {
    const double cx = std::max(x - radius.nm(), 0.0);
    const double cy = std::max(y - radius.nm(), 0.0);
    RoundedPolygon p{{}, radius};
    if (cx < 0.5 && cy < 0.5)
        p.corners = {middle};
    else if (cy < 0.5)
        p.corners = {turned(middle, -cx, 0, turn), turned(middle, cx, 0, turn)};
    else if (cx < 0.5)
        p.corners = {turned(middle, 0, -cy, turn), turned(middle, 0, cy, turn)};
    else
        p.corners = {turned(middle, -cx, -cy, turn), turned(middle, cx, -cy, turn), turned(middle, cx, cy, turn),
                     turned(middle, -cx, cy, turn)};
    return p;
}

}  // namespace

RoundedPolygon copperShape(const Land& land) {
    const double x = land.width.nm() / 2;
    const double y = land.length.nm() / 2;
    switch (land.shape) {
        case LandShape::Round: return RoundedPolygon::disc(land.at, land.width);
        case LandShape::Square:
        case LandShape::Rectangle: return rounded(land.at, x, y, Length(), land.turn);
        case LandShape::Oval: return rounded(land.at, x, y, Length::fromNm(std::min(x, y)), land.turn);
        case LandShape::RoundedRectangle:
            return rounded(land.at, x, y, min(land.corner, Length::fromNm(std::min(x, y))), land.turn);
        case LandShape::Polygon: return {land.corners, land.corner};
        case LandShape::Octagon: break;
    }
    // Regular where it is as long as wide: its corners are cut at 45 degrees by as much as leaves equal sides.
    const double cut = std::min(x, y) * (1 - std::tan(kPi / 8));
    RoundedPolygon p{{}, Length()};
    for (const auto& [px, py] : {std::pair{x, -(y - cut)},
                                 {x, y - cut},
                                 {x - cut, y},
                                 {-(x - cut), y},
                                 {-x, y - cut},
                                 {-x, -(y - cut)},
                                 {-(x - cut), -y},
                                 {x - cut, -y}})
        p.corners.push_back(turned(land.at, px, py, land.turn));
    return p;
}

const Land& landOn(const Conductor& pad, CopperLayer layer) {
    return layer == CopperLayer::Top ? pad.top : layer == CopperLayer::Inner ? pad.inner : pad.bottom;
}

bool shareLayer(const Conductor& a, const Conductor& b) {
    return (a.top.there() && b.top.there()) || (a.inner.there() && b.inner.there()) ||
           (a.bottom.there() && b.bottom.there());
}

bool opensMask(const Conductor& pad, CopperLayer layer) {
    const bool shown = (layer == CopperLayer::Bottom) == (pad.layers == PadLayers::Bottom);
    if (layer == CopperLayer::Bottom && pad.layers == PadLayers::Through && pad.tentedBelow) return false;
    return landOn(pad, layer).there() && !(pad.tented && shown);
}

const Land& shownLand(const Conductor& pad) { return pad.layers == PadLayers::Bottom ? pad.bottom : pad.top; }

RoundedPolygon landShape(const Conductor& pad) { return copperShape(shownLand(pad)); }

Land polygonLand(const RoundedPolygon& shape) {
    const Rect box = boundsOf(shape);
    return {LandShape::Polygon, box.middle(), box.width(), box.height(), shape.radius, {}, shape.corners};
}

RoundedPolygon hullOf(const std::vector<RoundedPolygon>& shapes) {
    std::vector<Point> cloud;
    RoundedPolygon hull;
    for (const RoundedPolygon& s : shapes) {
        cloud.insert(cloud.end(), s.corners.begin(), s.corners.end());
        hull.radius = max(hull.radius, s.radius);
    }
    // Monotone chain.
    std::sort(cloud.begin(), cloud.end(), [](Point a, Point b) { return a.x < b.x || (a.x == b.x && a.y < b.y); });
    cloud.erase(std::unique(cloud.begin(), cloud.end()), cloud.end());
    if (cloud.size() < 3) {
        hull.corners = cloud;
        return hull;
    }
    const auto turn = [](Point o, Point a, Point b) {
        return (a.x - o.x).nm() * (b.y - o.y).nm() - (a.y - o.y).nm() * (b.x - o.x).nm();
    };
    std::vector<Point> out;
    for (const bool back : {false, true}) {
        const std::size_t start = out.size();
        for (std::size_t i = 0; i < cloud.size(); ++i) {
            const Point p = back ? cloud[cloud.size() - 1 - i] : cloud[i];
            while (out.size() >= start + 2 && turn(out[out.size() - 2], out.back(), p) <= 0) out.pop_back();
            out.push_back(p);
        }
        out.pop_back();
    }
    hull.corners = out;
    return hull;
}

Land grown(Land land, Length by) {
    land.width += 2.0 * by;
    land.length += 2.0 * by;
    if (land.shape == LandShape::RoundedRectangle || land.shape == LandShape::Polygon) land.corner += by;
    return land;
}

RoundedPolygon maskOpening(const Conductor& pad) { return copperShape(grown(shownLand(pad), pad.maskMargin)); }

RoundedPolygon slotShape(Point middle, Length width, Length overEnds, Angle turn) {
    return rounded(middle, overEnds.nm() / 2, width.nm() / 2, width / 2, turn);
}

RoundedPolygon holeShape(const Conductor& pad, bool largest) {
    const Length width = largest ? pad.holeLargest : pad.hole;
    if (pad.slotLength <= Length()) return RoundedPolygon::disc(pad.at, width);
    return slotShape(pad.at, width, pad.slotLength + (width - pad.hole), pad.slotTurn);
}

Rect boundsOf(const RoundedPolygon& shape) {
    Rect r;
    for (const Point& p : shape.corners) r.add(Rect::around(p, 2.0 * shape.radius, 2.0 * shape.radius));
    return r;
}

std::vector<Point> outlineOf(const RoundedPolygon& shape, Length sagitta) {
    const double r = shape.radius.nm();
    if (r < 1) return shape.corners;
    const double chord = std::max(2 * std::acos(std::max(1 - sagitta.nm() / r, 0.0)), 0.01);
    const std::size_t n = shape.corners.size();
    std::vector<Point> outline;
    for (std::size_t i = 0; i < n; ++i) {
        const Point c = shape.corners[i];
        double from = 0;
        double to = 2 * kPi;
        if (n > 1) {
            const Point before = shape.corners[(i + n - 1) % n];
            const Point after = shape.corners[(i + 1) % n];
            // The outward normals of the two sides that meet here; of a line both are its own.
            from = std::atan2((c.y - before.y).nm(), (c.x - before.x).nm()) - kPi / 2;
            to = std::atan2((after.y - c.y).nm(), (after.x - c.x).nm()) - kPi / 2;
            if (n == 2) to = from + kPi;
            while (to < from) to += 2 * kPi;
        }
        const int pieces = std::max(1, static_cast<int>(std::ceil((to - from) / chord)));
        for (int k = 0; k <= pieces - (n == 1 ? 1 : 0); ++k) {
            const double a = from + (to - from) * k / pieces;
            outline.push_back({c.x + Length::fromNm(r * std::cos(a)), c.y + Length::fromNm(r * std::sin(a))});
        }
    }
    return outline;
}

bool contains(const RoundedPolygon& shape, Point p) {
    return gap(shape, RoundedPolygon::disc(p, Length())) <= Length::fromNm(0.5);
}

}  // namespace punch
