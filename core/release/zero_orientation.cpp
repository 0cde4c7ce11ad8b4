#include "core/release/zero_orientation.h"

#include "core/geometry/frame.h"

namespace punch {

Angle zeroTurn(const Footprint& f, ZeroOrientation wanted) {
    if (wanted == ZeroOrientation::AsPart || f.pads.size() < 2) return {};
    // In the order of their numbers; the marked one is the first.
    std::vector<Point> pins;
    for (const Pad& p : f.pads)
        if (p.first) pins.push_back(p.at);
    for (const Pad& p : f.pads)
        if (!p.first || pins.empty()) pins.push_back(p.at);
    Angle best;
    double least = 1e300;
    for (const double degrees : {0.0, 90.0, 180.0, 270.0}) {
        const Frame frame{{}, Angle::fromDegrees(degrees), false};
        Rect field;
        for (const Point& p : pins) field.add(frame(p));
        const Point one = frame(pins[0]), next = frame(pins[1]);
        double off;
        if (pins.size() == 2) {
            off = std::abs((one.y - next.y).mm()) + (one.x < next.x ? 0 : 1e3);
        } else {
            const bool a = wanted == ZeroOrientation::LevelA;
            const Point corner{field.left, a ? field.top : field.bottom};
            // The way to the next pin decides only where two turns are alike: far below any pitch.
            const Point way = next - one;
            const double along = a ? -way.y.mm() : way.x.mm();
            off = distance(one, corner).mm() - 1e-3 * along / std::max(1e-9, std::hypot(way.x.mm(), way.y.mm()));
        }
        if (off < least - 1e-9) {
            least = off;
            best = Angle::fromDegrees(degrees);
        }
    }
    return best;
}

Point pickPoint(const Footprint& f) {
    if (f.body) return f.body->rect.middle();
    Rect box;
    for (const Pad& p : f.pads) box.add(boundsOf(landShape(p)));
    for (const Conductor& c : f.attached.lands) box.add(boundsOf(landShape(c)));
    return box.empty ? f.courtyard.middle() : box.middle();
}

}  // namespace punch
