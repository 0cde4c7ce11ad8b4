#include "core/shape/traced_outline.h"

#include <algorithm>
#include <cmath>

#include "core/measure/adjust.h"

namespace punch {

namespace {

double toLine(PixelPoint p, PixelPoint a, PixelPoint b) {
    const double dx = b.x - a.x, dy = b.y - a.y;
    const double l = std::hypot(dx, dy);
    if (l < 1e-12) return std::hypot(p.x - a.x, p.y - a.y);
    const double t = std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / (l * l), 0.0, 1.0);
    return std::hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
}

void keepFar(const std::vector<PixelPoint>& points, std::size_t from, std::size_t to, double detail,
             std::vector<bool>& keep) {
    double most = 0;
    std::size_t at = from;
    for (std::size_t i = from + 1; i < to; ++i)
        if (const double d = toLine(points[i], points[from], points[to]); d > most) {
            most = d;
            at = i;
        }
    if (most <= detail) return;
    keep[at] = true;
    keepFar(points, from, at, detail, keep);
    keepFar(points, at, to, detail, keep);
}

}  // namespace

std::vector<PixelPoint> withoutDetail(const std::vector<PixelPoint>& given, double detail, bool closed) {
    std::vector<PixelPoint> ring = given;
    if (ring.size() < 3 || detail <= 0) return ring;
    // Notches and noses: a detour of a few places that ends nearer than `detail` to where it began and stays near.
    for (std::size_t i = 0; i + 2 < ring.size(); ++i)
        for (std::size_t j = std::min(i + 12, ring.size() - 1); j >= i + 2; --j) {
            if (apart(ring[i], ring[j]) > detail) continue;
            if (j - i + 3 > ring.size()) continue;
            const bool near = std::all_of(ring.begin() + static_cast<std::ptrdiff_t>(i) + 1,
                                          ring.begin() + static_cast<std::ptrdiff_t>(j),
                                          [&](PixelPoint p) { return toLine(p, ring[i], ring[j]) <= detail; });
            if (!near) continue;
            ring.erase(ring.begin() + static_cast<std::ptrdiff_t>(i) + 1,
                       ring.begin() + static_cast<std::ptrdiff_t>(j));
            break;
        }
    if (closed) {
        // A ring is cut where it is farthest from its first place, so that no corner depends on where it begins.
        std::size_t far = 0;
        for (std::size_t i = 1; i < ring.size(); ++i)
            if (apart(ring[i], ring[0]) > apart(ring[far], ring[0])) far = i;
        std::rotate(ring.begin(), ring.begin() + static_cast<std::ptrdiff_t>(far), ring.end());
        ring.push_back(ring.front());
    }
    std::vector<bool> keep(ring.size(), false);
    keep.front() = keep.back() = true;
    if (closed) {
        std::size_t far = 0;
        for (std::size_t i = 1; i + 1 < ring.size(); ++i)
            if (apart(ring[i], ring[0]) > apart(ring[far], ring[0])) far = i;
        keep[far] = true;
        keepFar(ring, 0, far, detail, keep);
        keepFar(ring, far, ring.size() - 1, detail, keep);
        keep.back() = false;
    } else {
        keepFar(ring, 0, ring.size() - 1, detail, keep);
    }
    std::vector<PixelPoint> out;
    for (std::size_t i = 0; i < ring.size(); ++i)
        if (keep[i]) out.push_back(ring[i]);
    return out;
}

namespace {

/// How far a place of the sample's outline stands further along on this member of its family.
double grownBy(const Part& part, const Adjustment& adjustment, double x) {
    const auto right = part.sample.grown.find(kRightFace);
    if (part.sample.formations.empty() || right == part.sample.grown.end()) return 0;
    double least = 1e300, most = -1e300;
    for (const FeatureId& pin : part.sample.formations.front().pins) {
        const double at = adjustment.at().feature(adjustment.model().sampleIndex(pin), false).x.value();
        least = std::min(least, at);
        most = std::max(most, at);
    }
    const std::string pitch = parameterPrefix(part, part.sample.formations.front()) + "pitch";
    return x > (least + most) / 2 ? right->second * adjustment.parameter(pitch).value() : 0;
}

}  // namespace

std::vector<Point> tracedOutline(const Part& part, const Adjustment& adjustment, Point datum) {
    if (!part.body.trace || part.body.trace->points.size() < (part.body.trace->half ? 2U : 3U)) return {};
    const Trace& trace = *part.body.trace;
    const int index = adjustment.model().pictureIndex(trace.source);
    const bool joined = std::any_of(part.readings.begin(), part.readings.end(), [&](const Reading& r) {
        return r.pick && r.source == trace.source && r.contact == Contact::Picture;
    });
    if (index < 0 || !joined) return {};
    const PictureAt picture = adjustment.at().picture(index);
    std::vector<PixelPoint> places;  // mm, y up
    for (const PixelPoint& p : trace.points) {
        const auto [x, y] = picture.place(p);
        places.push_back({x.value() + grownBy(part, adjustment, x.value()) - datum.x.mm(), y.value() - datum.y.mm()});
    }
    places = withoutDetail(places, trace.leaveOut.mm(), !trace.half);
    if (trace.half && places.size() > 1) {
        // The part's axis: through the middle of the pins, the way that the ends lie.
        double left = 1e300, right = -1e300, front = 1e300, rear = -1e300;
        for (const FeatureId& pin : allPins(part)) {
            const Feature& f = adjustment.features().at(pin);
            left = std::min(left, f.x.value() - datum.x.mm());
            right = std::max(right, f.x.value() - datum.x.mm());
            front = std::min(front, f.y.value() - datum.y.mm());
            rear = std::max(rear, f.y.value() - datum.y.mm());
        }
        const bool upright =
            std::abs(places.back().y - places.front().y) >= std::abs(places.back().x - places.front().x);
        const double axis = upright ? (left + right) / 2 : (front + rear) / 2;
        double& first = upright ? places.front().x : places.front().y;
        double& last = upright ? places.back().x : places.back().y;
        first = last = axis;
        for (std::size_t i = places.size() - 1; i-- > 1;) {
            PixelPoint p = places[i];
            double& across = upright ? p.x : p.y;
            across = 2 * axis - across;
            places.push_back(p);
        }
    }
    if (places.size() < 3) return {};
    std::vector<Point> ring;
    for (const PixelPoint& p : places) ring.push_back({Length::fromMm(p.x), Length::fromMm(p.y)});
    return ring;
}

}  // namespace punch
