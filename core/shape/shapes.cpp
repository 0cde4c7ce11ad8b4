#include "core/shape/shapes.h"

#include "core/base/find_in.h"
#include "core/geometry/shapes.h"

namespace punch {

PUNCH_VALUE_IS_HERE(Milled)

const std::vector<Point>& Shape::points() const {
    static const std::vector<Point> none;
    return line() != nullptr ? line()->points : none;
}

Polygons Shape::area() const {
    if (const Polygons* rings = polygons()) return *rings;
    if (const RoundedPolygon* one = rounded()) return polygonsOf(*one, Chords::Outside);
    return {};
}

Rect Shape::box() const {
    Rect box;
    if (const RoundedPolygon* one = rounded()) box.add(boundsOf(*one));
    if (const Polygons* rings = polygons()) box.add(boundsOf(*rings));
    if (const Line* drawn = line())
        for (const Point& p : drawn->points) box.add(Rect::around(p, drawn->width, drawn->width));
    return box;
}

Rect boundsOf(const std::vector<Shape>& shapes) {
    Rect box;
    for (const Shape& s : shapes) box.add(s.box());
    return box;
}

Shape inkLine(std::vector<Point> points, Length width, std::string name) {
    return {Purpose::Ink, {}, std::move(name), Line{std::move(points), width}};
}

Shape inkArea(Polygons area, std::string name) { return {Purpose::Ink, {}, std::move(name), std::move(area)}; }

const Shape* shapeOf(const std::vector<Shape>& shapes, const FeatureId& id) {
    return findIn(shapes, [&](const Shape& s) { return s.id == id; });
}

}  // namespace punch
