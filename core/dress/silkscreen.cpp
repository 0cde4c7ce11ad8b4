#include "core/dress/silkscreen.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <polyclipping/clipper.hpp>

#include "core/dress/courtyard.h"
#include "core/dress/stroke_text.h"
#include "core/geometry/shapes.h"

namespace punch {
namespace {

namespace cl = ClipperLib;

cl::IntPoint toClipper(Point p) { return {std::llround(p.x.nm()), std::llround(p.y.nm())}; }
Point fromClipper(const cl::IntPoint& p) {
    return {Length::fromNm(static_cast<double>(p.X)), Length::fromNm(static_cast<double>(p.Y))};
}

/// A polygon that lies wholly outside the shape grown by `by`, by less than 1 µm for the sizes of pads.
cl::Path around(const RoundedPolygon& shape, Length by) {
    constexpr int kSteps = 96;  // a multiple of 4, so that straight sides stay straight
    const double r = (shape.radius + by).nm() / std::cos(std::numbers::pi / kSteps);
    cl::Path cloud;
    for (const Point& c : shape.corners)
        for (int i = 0; i < kSteps; ++i) {
            const double a = 2 * std::numbers::pi * (i + 0.5) / kSteps;
            cloud.emplace_back(std::llround(c.x.nm() + r * std::cos(a)), std::llround(c.y.nm() + r * std::sin(a)));
        }
    // The convex hull of the discs around the corners (monotone chain).
    std::sort(cloud.begin(), cloud.end(), [](auto a, auto b) { return a.X < b.X || (a.X == b.X && a.Y < b.Y); });
    const auto turn = [](const cl::IntPoint& o, const cl::IntPoint& a, const cl::IntPoint& b) {
        return static_cast<double>(a.X - o.X) * static_cast<double>(b.Y - o.Y) -
               static_cast<double>(a.Y - o.Y) * static_cast<double>(b.X - o.X);
    };
    cl::Path hull(2 * cloud.size());
    std::size_t n = 0;
    for (const auto& p : cloud) {
        while (n >= 2 && turn(hull[n - 2], hull[n - 1], p) <= 0) --n;
        hull[n++] = p;
    }
    for (std::size_t i = cloud.size() - 1, low = n + 1; i-- > 0;) {
        while (n >= low && turn(hull[n - 2], hull[n - 1], cloud[i]) <= 0) --n;
        hull[n++] = cloud[i];
    }
    hull.resize(n - 1);
    return hull;
}

struct Opening {
    std::string feature;
    RoundedPolygon shape;
    Point middle;
    Length reach;  ///< no point of it lies further from its middle

    Opening(std::string id, RoundedPolygon of) : feature(std::move(id)), shape(std::move(of)) {
        for (const Point& c : shape.corners) middle = middle + c;
        const double n = static_cast<double>(shape.corners.size());
        middle = {middle.x / n, middle.y / n};
        for (const Point& c : shape.corners) reach = max(reach, distance(c, middle) + shape.radius);
    }

    /// A lower bound for the distance from a line's middle: from the upright rectangle around it.
    Length atLeast(Point a, Point b) const {
        const Length dx = max(max(min(a.x, b.x) - middle.x, middle.x - max(a.x, b.x)), Length());
        const Length dy = max(max(min(a.y, b.y) - middle.y, middle.y - max(a.y, b.y)), Length());
        return hypot(dx, dy) - reach;
    }
};

std::vector<Opening> openings(const Board& board) {
    std::vector<Opening> all;
    for (const Conductor& p : board.copper()) all.emplace_back(p.id, maskOpening(p));
    for (const BareHole& h : board.bareHoles) all.emplace_back(h.id, holeShape(h));
    for (const CutShape& c : board.cutOuts) all.emplace_back(c.id, cutShape(c));
    return all;
}

/// What remains of a line outside the openings grown by the ink gap and half its width.
std::vector<Stroke> cutAway(const Stroke& line, const std::vector<Opening>& all) {
    cl::Clipper clipper;
    cl::Path path;
    for (const Point& p : line.points) path.push_back(toClipper(p));
    clipper.AddPath(path, cl::ptSubject, false);
    bool any = false;
    const Length by = leastInkGap() + line.width / 2 + Length::fromUm(0.05);
    for (const Opening& o : all) {
        bool near = false;
        for (std::size_t i = 0; i + 1 < line.points.size() && !near; ++i)
            near = o.atLeast(line.points[i], line.points[i + 1]) < by;
        if (!near) continue;
        clipper.AddPath(around(o.shape, by), cl::ptClip, true);
        for (std::size_t i = 0; i + 1 < line.points.size() && !any; ++i)
            any = gap(RoundedPolygon::stroke(line.points[i], line.points[i + 1], line.width), o.shape) < leastInkGap();
    }
    if (!any) return {line};
    cl::PolyTree tree;
    clipper.Execute(cl::ctDifference, tree, cl::pftNonZero, cl::pftNonZero);
    cl::Paths paths;
    cl::OpenPathsFromPolyTree(tree, paths);
    std::vector<Stroke> rest;
    for (const cl::Path& piece : paths) {
        Stroke stroke = line;
        stroke.cut = true;
        stroke.points.clear();
        for (const auto& p : piece) stroke.points.push_back(fromClipper(p));
        rest.push_back(stroke);
    }
    return rest;
}

Stroke rectangle(const Rect& r, Length width, const std::string& what) {
    return {
        {{r.left, r.bottom}, {r.right, r.bottom}, {r.right, r.top}, {r.left, r.top}, {r.left, r.bottom}}, width, what};
}

/// A traced outline, grown outwards; sharp corners stay sharp up to twice the growth. A ring of its own for each part.
std::vector<Stroke> grownRing(const std::vector<Point>& ring, Length by, Length width, const std::string& what) {
    cl::Path path;
    for (const Point& p : ring) path.push_back(toClipper(p));
    cl::Paths clean, grown;
    cl::SimplifyPolygon(path, clean, cl::pftNonZero);
    cl::ClipperOffset offset(2.0);
    offset.AddPaths(clean, cl::jtMiter, cl::etClosedPolygon);
    offset.Execute(grown, by.nm());
    std::vector<Stroke> strokes;
    for (const cl::Path& p : grown) {
        if (p.size() < 3) continue;
        Stroke s{{}, width, what};
        for (const auto& q : p) s.points.push_back(fromClipper(q));
        s.points.push_back(s.points.front());
        strokes.push_back(std::move(s));
    }
    return strokes;
}

/// The body's outline as it was traced, else its rectangle.
std::vector<Stroke> outlineOf(const BodyBox& body, Length by, Length width, const std::string& what) {
    if (!body.outline.empty()) return grownRing(body.outline, by, width, what);
    return {rectangle(body.rect.grown(by), width, what)};
}

/// A small triangle that points at the first pin: beyond the end of the row, or between the pin and the rear face.
std::vector<Stroke> pinOneMark(const Part& part, const std::vector<Pad>& pads, const Rect& inkBox) {
    const Pad* first = nullptr;
    for (const Pad& p : pads)
        if (p.first) first = &p;
    if (first == nullptr || part.dress.mark == PinOneMark::None) return {};
    const Length line = part.dress.line;
    const Length size = Length::fromMm(0.8);
    std::vector<Point> points;
    if (part.dress.mark == PinOneMark::Outside) {
        // On the side of the row's end that the pin is nearer to.
        const bool left = first->at.x - inkBox.left <= inkBox.right - first->at.x;
        const double out = left ? -1.0 : 1.0;
        const Length tip = (left ? inkBox.left : inkBox.right) + out * (Length::fromMm(0.3) + line);
        points = {
            {tip, first->at.y}, {tip + out * size, first->at.y + size / 2}, {tip + out * size, first->at.y - size / 2}};
    } else {
        const Length tip = boundsOf(maskOpening(*first)).top + leastInkGap() * 1.2 + line;
        points = {{first->at.x, tip}, {first->at.x + size / 2, tip + size}, {first->at.x - size / 2, tip + size}};
    }
    std::vector<Stroke> strokes = {{{points[0], points[1], points[2], points[0]}, line, "pin 1 mark"}};
    // Filled by hatching with its own line, so that every fab draws it alike.
    const Point centre{(points[0].x + points[1].x + points[2].x) / 3, (points[0].y + points[1].y + points[2].y) / 3};
    for (const double k : {0.66, 0.33}) {
        Stroke inner{{}, line, "pin 1 mark"};
        for (const int i : {0, 1, 2, 0}) {
            const Point d = points[static_cast<std::size_t>(i)] - centre;
            inner.points.push_back({centre.x + k * d.x, centre.y + k * d.y});
        }
        strokes.push_back(inner);
    }
    return strokes;
}

}  // namespace

Dressed dressed(const Part& part, const Board& board, const std::optional<BodyBox>& body) {
    const Dress& dress = part.dress;
    Dressed d;
    d.courtyardExcess = courtyardExcess(dress);
    d.courtyard = courtyardContent(board, body).grown(d.courtyardExcess);
    Rect box = body ? body->rect : Rect{};
    const auto all = openings(board);
    if (body) {
        for (Stroke& s : outlineOf(*body, Length(), Length::fromMm(0.1), "body")) d.assembly.push_back(std::move(s));
        if (dress.outline)
            for (const Stroke& line : outlineOf(*body, dress.outlineAllowance, dress.line, "outline")) {
                for (const Stroke& s : cutAway(line, all)) d.silkscreen.push_back(s);
            }
        for (const Point& p : body->outline) box.add(p);
        box = box.grown(dress.outlineAllowance);
    }
    Rect inkBox = box;
    for (const Opening& o : all)
        for (const Point& c : o.shape.corners)
            inkBox.add(Rect::around(c, 2.0 * o.shape.radius, 2.0 * o.shape.radius).grown(leastInkGap()));
    for (const Stroke& s : pinOneMark(part, board.pads, inkBox))
        for (const Stroke& rest : cutAway(s, all)) d.silkscreen.push_back(rest);
    const Length line = dress.line;
    if (dress.referenceText && !inkBox.empty) {
        const Point at{box.empty ? inkBox.middle().x : box.middle().x,
                       inkBox.top + dress.textHeight / 2 + Length::fromMm(0.35) + line};
        for (const Stroke& s : strokeText(part.reference + "1", at, dress.textHeight, line, "reference"))
            d.silkscreen.push_back(s);
    }
    if (dress.valueText && body) {
        const Rect& face = body->rect;
        const Length height = dress.textHeight;
        const Point at{face.middle().x, face.top - height};
        for (const Stroke& s : strokeText(part.name, at, height, Length::fromMm(0.1), "value")) d.assembly.push_back(s);
    }
    return d;
}

std::optional<InkGap> nearestInk(const Board& board, const std::vector<Stroke>& silkscreen) {
    std::optional<InkGap> best;
    const auto all = openings(board);
    for (const Stroke& s : silkscreen)
        for (std::size_t i = 0; i + 1 < s.points.size(); ++i)
            for (const Opening& o : all) {
                if (best && o.atLeast(s.points[i], s.points[i + 1]) - s.width / 2 > best->gap) continue;
                const Length g = gap(RoundedPolygon::stroke(s.points[i], s.points[i + 1], s.width), o.shape);
                if (!best || g < best->gap) best = InkGap{g, s.what, o.feature, s.cut};
            }
    return best;
}

}  // namespace punch
