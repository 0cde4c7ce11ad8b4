#include "core/picture/look_again.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/picture/rim_points.h"

namespace punch {

namespace {

constexpr double kAway = 0.12;       // mm: how far off its place one may be
constexpr double kSizeAlike = 0.15;  // relative
constexpr double kLeastFound = 0.87;
constexpr double kLeastShareOfContrast = 0.4;  // of the others'

struct Made {
    double width = 0, height = 0, contrast = 0, scatter = 0, confidence = 0;
    bool bright = true;
    RimShape shape = RimShape::Round;
    double turn = 0;
};

Made usualOf(const std::vector<const SeenFeature*>& members) {
    std::vector<double> w, h, c, s, sure;
    int round = 0;
    for (const SeenFeature* f : members) {
        w.push_back(f->rim.width);
        h.push_back(f->rim.height);
        c.push_back(std::abs(f->rim.contrast));
        s.push_back(f->rim.scatter);
        sure.push_back(f->confidence);
        round += f->rim.shape == RimShape::Round ? 1 : 0;
    }
    Made m{median(w),
           median(h),
           median(c),
           median(s),
           median(sure),
           members.front()->bright,
           members.front()->rim.shape,
           members.front()->rim.turn};
    if (2 * round > static_cast<int>(members.size())) m.shape = RimShape::Round;
    return m;
}

/// Straight rows: place of column k is a + k b, least squares over what is there.
struct Line {
    double ax = 0, ay = 0, bx = 0, by = 0;
    PixelPoint at(double k) const { return {ax + k * bx, ay + k * by}; }
};

std::optional<Line> lineThrough(const std::vector<std::pair<int, PixelPoint>>& places) {
    if (places.size() < 2) return {};
    double mk = 0, mx = 0, my = 0, kk = 0, kx = 0, ky = 0;
    const double n = static_cast<double>(places.size());
    for (const auto& [k, p] : places) {
        mk += k / n;
        mx += p.x / n;
        my += p.y / n;
    }
    for (const auto& [k, p] : places) {
        kk += (k - mk) * (k - mk);
        kx += (k - mk) * (p.x - mx);
        ky += (k - mk) * (p.y - my);
    }
    if (kk <= 0) return {};
    const double bx = kx / kk, by = ky / kk;
    return Line{mx - mk * bx, my - mk * by, bx, by};
}

std::vector<PixelPoint> expectedPlaces(const Found& found) {
    const RecognisedFormation& f = *found.formation;
    std::vector<PixelPoint> expected;
    std::map<int, std::vector<std::pair<int, PixelPoint>>> rows;
    for (const PatternSlot& s : f.positions)
        rows[s.row].emplace_back(s.column, found.features[static_cast<std::size_t>(s.place)].seen.rim.centre);
    if (f.kind == FormationKind::Ring) {
        // Around the middle, by the steps that the others keep.
        std::vector<PixelPoint> around;
        for (const auto& [k, p] : rows[0]) around.push_back(p);
        const auto circle = circleThrough(around);
        if (!circle || rows[0].size() < 4) return expected;
        std::vector<std::pair<int, PixelPoint>> angles;
        double last = 0;
        bool first = true;
        auto sorted = rows[0];
        std::sort(sorted.begin(), sorted.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
        for (const auto& [k, p] : sorted) {
            double a = std::atan2(p.y - circle->centre.y, p.x - circle->centre.x) * kDegrees;
            if (!first) a = last + std::remainder(a - last, 360.0);
            // Steps go one way; a gap may pass half a turn.
            first = false;
            last = a;
            angles.emplace_back(k, PixelPoint{a, 0});
        }
        const auto line = lineThrough(angles);
        if (!line || std::abs(line->bx) < 1) return expected;
        const int most = f.arc ? sorted.back().first + 1 : static_cast<int>(std::lround(360 / std::abs(line->bx))) - 1;
        for (int k = f.arc ? -1 : 0; k <= most; ++k) {
            if (std::any_of(sorted.begin(), sorted.end(), [&](const auto& s) { return s.first == k; })) continue;
            const double a = line->at(k).x / kDegrees;
            expected.push_back(
                {circle->centre.x + circle->radius * std::cos(a), circle->centre.y + circle->radius * std::sin(a)});
        }
        return expected;
    }
    for (const auto& [row, places] : rows) {
        const auto line = lineThrough(places);
        if (!line || places.size() < 3) continue;
        int low = 1 << 30, high = -(1 << 30);
        for (const auto& [k, p] : places) {
            low = std::min(low, k);
            high = std::max(high, k);
        }
        for (int k = low - 1; k <= high + 1; ++k)
            if (std::none_of(places.begin(), places.end(), [&](const auto& s) { return s.first == k; }))
                expected.push_back(line->at(k));
    }
    return expected;
}

}  // namespace

std::vector<SeenFeature> seenOnSecondLook(const Grey& grey, const Found& found) {
    std::vector<SeenFeature> more;
    if (!found.formation || found.formation->positions.size() < 4) return more;
    std::vector<const SeenFeature*> members;
    for (const FoundFeature& f : found.features)
        if (f.slot >= 0) members.push_back(&f.seen);
    const Made usual = usualOf(members);
    const double away = std::max(kAway / ((found.scale.x + found.scale.y) / 2), 1.0);
    for (const PixelPoint& p : expectedPlaces(found)) {
        const double room = usual.width + 3;
        if (p.x < room || p.y < room || p.x > grey.width - room || p.y > grey.height - room) continue;
        // What was found there otherwise stays what it is.
        if (std::any_of(found.features.begin(), found.features.end(), [&](const FoundFeature& f) {
                return std::hypot(f.seen.rim.centre.x - p.x, f.seen.rim.centre.y - p.y) < 0.6 * usual.width;
            }))
            continue;
        const auto rim = fitRim(grey, {p, usual.width, usual.height, usual.turn, usual.bright});
        if (!rim || rim->found < kLeastFound || std::hypot(rim->centre.x - p.x, rim->centre.y - p.y) > away) continue;
        if (std::abs(rim->width - usual.width) > std::max(kSizeAlike * usual.width, 1.0) ||
            std::abs(rim->height - usual.height) > std::max(kSizeAlike * usual.height, 1.0))
            continue;
        if ((rim->contrast > 0) != usual.bright || std::abs(rim->contrast) < kLeastShareOfContrast * usual.contrast)
            continue;
        SeenFeature f;
        f.rim = *rim;
        f.bright = usual.bright;
        f.confidence = 0.8 * usual.confidence * rim->found;
        more.push_back(f);
    }
    return more;
}

}  // namespace punch
