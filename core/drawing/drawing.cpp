#include "core/drawing/drawing.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace punch {

namespace {

double toPiece(PixelPoint p, PixelPoint a, PixelPoint b) {
    const double dx = b.x - a.x, dy = b.y - a.y;
    const double l2 = dx * dx + dy * dy;
    const double t = l2 > 0 ? std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / l2, 0.0, 1.0) : 0.0;
    return apart(p, {a.x + t * dx, a.y + t * dy});
}

/// Calls `use(a, b)` for every straight piece.
template <class Use>
void eachPiece(const Drawing& drawing, bool chords, const Use& use) {
    for (const DrawnPath& path : drawing.paths) {
        if (path.chords && !chords) continue;
        for (std::size_t i = 0; i + 1 < path.points.size(); ++i) use(path.points[i], path.points[i + 1]);
        if (path.closed && path.points.size() > 2) use(path.points.back(), path.points.front());
    }
}

}  // namespace

PixelPoint DrawnArc::at(double degrees) const {
    return {centre.x + radius * std::cos(degrees * kRadians), centre.y + radius * std::sin(degrees * kRadians)};
}

int textNear(const Drawing& drawing, PixelPoint at, double reach) {
    int best = -1;
    double least = reach;
    for (std::size_t i = 0; i < drawing.texts.size(); ++i) {
        const DrawnText& t = drawing.texts[i];
        const double c = std::cos(t.turn * kRadians), s = std::sin(t.turn * kRadians);
        const double dx = at.x - t.middle.x, dy = at.y - t.middle.y;
        const double along = std::max(std::abs(c * dx + s * dy) - t.width / 2, 0.0);
        const double across = std::max(std::abs(c * dy - s * dx) - t.height / 2, 0.0);
        if (const double away = std::hypot(along, across); away <= least) {
            least = away;
            best = static_cast<int>(i);
            if (away == 0) return best;
        }
    }
    return best;
}

std::optional<DrawnPlace> placeNear(const Drawing& drawing, PixelPoint at, double reach) {
    std::optional<DrawnPlace> best;
    double least = reach;
    const auto offer = [&](DrawnPlace::Kind kind, PixelPoint p) {
        if (const double d = apart(at, p); d <= least) {
            least = d;
            best = DrawnPlace{kind, p, 0};
        }
    };
    eachPiece(drawing, false, [&](PixelPoint a, PixelPoint b) {
        offer(DrawnPlace::Kind::End, a);
        offer(DrawnPlace::Kind::End, b);
    });
    for (const DrawnArc& arc : drawing.arcs) {
        if (arc.whole()) continue;
        offer(DrawnPlace::Kind::End, arc.at(arc.from));
        offer(DrawnPlace::Kind::End, arc.at(arc.from + arc.sweep));
    }
    if (best) return best;
    // On a rim or inside it: the smallest circle.
    double radius = 1e300;
    for (const DrawnArc& arc : drawing.arcs) {
        const double d = apart(at, arc.centre);
        const bool onRim = std::abs(d - arc.radius) <= reach;
        if (arc.radius < radius && (onRim || (arc.whole() && d < arc.radius))) {
            radius = arc.radius;
            best = DrawnPlace{DrawnPlace::Kind::Centre, arc.centre, 2 * arc.radius};
        }
    }
    return best;
}

std::optional<std::pair<PixelPoint, PixelPoint>> pieceNear(const Drawing& drawing, PixelPoint at, double reach) {
    std::optional<std::pair<PixelPoint, PixelPoint>> best;
    double least = reach;
    eachPiece(drawing, false, [&](PixelPoint a, PixelPoint b) {
        if (const double d = toPiece(at, a, b); d < least && apart(a, b) > 0) {
            least = d;
            best = {a, b};
        }
    });
    return best;
}

void pack(Packed& to, const Drawing& d) {
    to.put(d.width);
    to.put(d.height);
    to.put(d.dpi);
    to.put(d.mmPerUnit.value_or(0));
    to.put(d.notes);
    to.put(d.arcs);
    to.put(d.paths.size());
    for (const DrawnPath& p : d.paths) {
        to.put(p.points);
        to.put(p.closed);
        to.put(p.chords);
    }
    to.put(d.texts.size());
    for (const DrawnText& t : d.texts) {
        to.put(t.middle);
        to.put(std::vector<double>{t.width, t.height, t.turn});
        to.put(t.text);
        to.put(t.spans ? std::vector<PixelPoint>{t.spans->first, t.spans->second} : std::vector<PixelPoint>{});
    }
}

void unpack(Packed& from, Drawing& d) {
    double mmPerUnit = 0;
    from.get(d.width);
    from.get(d.height);
    from.get(d.dpi);
    from.get(mmPerUnit);
    if (mmPerUnit > 0) d.mmPerUnit = mmPerUnit;
    from.get(d.notes);
    from.get(d.arcs);
    std::size_t count = 0;
    from.get(count);
    for (std::size_t i = 0; i < count; ++i) {
        DrawnPath& p = d.paths.emplace_back();
        from.get(p.points);
        from.get(p.closed);
        from.get(p.chords);
    }
    from.get(count);
    for (std::size_t i = 0; i < count; ++i) {
        DrawnText& t = d.texts.emplace_back();
        std::vector<double> sizes;
        std::vector<PixelPoint> spans;
        from.get(t.middle);
        from.get(sizes);
        t.width = sizes.at(0);
        t.height = sizes.at(1);
        t.turn = sizes.at(2);
        from.get(t.text);
        from.get(spans);
        if (spans.size() == 2) t.spans = std::pair{spans[0], spans[1]};
    }
}

}  // namespace punch
