#pragma once
// Lands, holes and cut-outs as paths to paint.

#include <QPainterPath>

#include "app/sheet/transform.h"
#include "core/artwork/artwork.h"

namespace punch {

/// `map` takes a Point and gives a QPointF; arcs are off by at most `sagitta`.
template <class Map>
QPainterPath pathOf(const RoundedPolygon& shape, const Map& map, Length sagitta) {
    QPolygonF polygon;
    for (const Point& p : outlineOf(shape, sagitta)) polygon << map(p);
    QPainterPath path;
    path.addPolygon(polygon);
    path.closeSubpath();
    return path;
}

inline QPainterPath pathOf(const RoundedPolygon& shape, const SheetTransform& t) {
    return pathOf(
        shape, [&](Point p) { return t.map(p); }, Length::fromMm(0.08 / t.scale));
}

template <class Map>
QPainterPath pathOf(const Polygons& rings, const Map& map) {
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    for (const auto& ring : rings) {
        QPolygonF polygon;
        for (const Point& p : ring) polygon << map(p);
        path.addPolygon(polygon);
        path.closeSubpath();
    }
    return path;
}

inline QPainterPath pathOf(const Polygons& rings, const SheetTransform& t) {
    return pathOf(rings, [&](Point p) { return t.map(p); });
}

/// An area, or the ring of a closed line.
inline QPainterPath pathOf(const Shape& shape, const SheetTransform& t) {
    if (const RoundedPolygon* area = shape.rounded()) return pathOf(*area, t);
    if (const Polygons* rings = shape.polygons()) return pathOf(*rings, t);
    QPolygonF ring;
    for (const Point& p : shape.line()->points) ring << t.map(p);
    QPainterPath path;
    path.addPolygon(ring);
    return path;
}

/// The shape with `by` more on every side.
inline RoundedPolygon widened(RoundedPolygon shape, Length by) {
    shape.radius += by;
    return shape;
}

}  // namespace punch
