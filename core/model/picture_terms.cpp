#include "core/model/picture_terms.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/model/picture_scale.h"

namespace punch {

namespace {
constexpr double kHeightShare = 0.003;  // of the distance from the picture's middle, per mm of unknown height
constexpr double kDegrees = 180 / std::numbers::pi;
constexpr double kExact = 1e-6;  // relative: a drawing's own geometry
}  // namespace

std::pair<Expr, Expr> PictureAt::place(PixelPoint p) const {
    const Expr dx = scaleX * (Expr((mirrored ? -1 : 1) * p.x * nominal) - x);
    const Expr dy = scaleY * (Expr(-p.y * nominal) - y);
    const Expr c = cosDegrees(angle);
    const Expr s = sinDegrees(angle);
    return {c * dx + s * dy, c * dy - s * dx};
}

std::pair<Expr, Expr> PictureAt::seen(const Expr& px, const Expr& py) const {
    const Expr c = cosDegrees(angle);
    const Expr s = sinDegrees(angle);
    return {x + (c * px - s * py) / scaleX, y + (s * px + c * py) / scaleY};
}

Expr PictureAt::length(PixelPoint a, PixelPoint b) const {
    return hypot((std::abs(b.x - a.x) * nominal) * scaleX, (std::abs(b.y - a.y) * nominal) * scaleY);
}

Expr PictureAt::level(PixelPoint a, PixelPoint b) const {
    const double dx = (mirrored ? -1 : 1) * (b.x - a.x) * nominal;
    const double dy = -(b.y - a.y) * nominal;
    const Expr seen = atan2Degrees(dy * scaleY, dx * scaleX) - angle;
    return seen - Expr(90 * std::round(seen.value() / 90));
}

Expr pictureExpr(const Reading& r, const PictureAt& picture, const Feature* feature) {
    const Pick& pick = *r.pick;
    if (r.contact == Contact::PictureLevel) return picture.level(pick.a, pick.b);
    if (r.contact == Contact::PictureLength || feature == nullptr) return picture.length(pick.a, pick.b);
    if (r.contact == Contact::Size) {
        const Expr size = 2.0 * (r.axis == Axis::Across ? feature->halfY : feature->halfX);
        const Expr scale = 0.5 * (picture.scaleX + picture.scaleY);
        const Expr seen = size - (pick.size * picture.nominal) * (scale - Expr(1));
        return pick.rim > 0 ? seen + 2.0 * picture.rimBright : pick.rim < 0 ? seen + 2.0 * picture.rimDark : seen;
    }
    if (feature->kind == FeatureKind::Face) {
        const auto [x, y] = picture.place(pick.a);
        return feature->coordinate(feature->faceAxis) - (feature->faceAxis == Axis::Across ? y : x);
    }
    const auto [x, y] = picture.seen(feature->x, feature->y);
    return r.axis == Axis::Across ? y : x;
}

double pickMean(const Reading& r, const Source& source, bool isFace) {
    const double n = source.nominalMmPerPixel();
    if (r.contact == Contact::PictureLength) return r.raw.empty() ? 0.0 : r.raw.front().value.mm();
    if (r.contact == Contact::Size) return r.pick->size * n;
    if (isFace || r.contact == Contact::PictureLevel) return 0;
    return r.axis == Axis::Across ? -r.pick->a.y * n : (source.fromBelow() ? -1 : 1) * r.pick->a.x * n;
}

double pickU(const Reading& r, const Source& source) {
    const Pick& pick = *r.pick;
    const double n = source.nominalMmPerPixel();
    if (r.contact == Contact::PictureLength) return pairU({pick.a, pick.b, 1, pick.u}, n);
    if (r.contact == Contact::PictureLevel)
        return kDegrees * std::numbers::sqrt2 * pick.u / std::hypot(pick.b.x - pick.a.x, pick.b.y - pick.a.y);
    const double drawn = source.exactScale ? kDrawnPlaceU : 0.0;
    const double fromMiddle =
        n * std::hypot(pick.a.x - source.width / 2.0, pick.a.y - source.height / 2.0) * (source.width > 0 ? 1 : 0);
    const double distance = r.contact == Contact::Size ? pick.size * n : fromMiddle;
    return std::hypot(std::max(pick.u * n, drawn), kHeightShare / 1.96 * std::abs(source.above.mm()) * distance);
}

double rimOffsetU(const Part& part, const Source& source, bool bright) {
    double sum = 0, count = 0;
    for (const Reading& r : part.readings) {
        if (!r.pick || r.source != source.id || r.contact != Contact::Size || r.pick->rim == 0) continue;
        if ((r.pick->rim > 0) != bright) continue;
        sum += r.pick->rim * r.pick->rim;
        count += 1;
    }
    return count > 0 ? std::sqrt(sum / count) * source.nominalMmPerPixel() / 1.96 : 0.0;
}

const Source* pictureOf(const Part& part, const Reading& r) {
    for (const Source& s : part.sources)
        if (s.id == r.source) return &s;
    return nullptr;
}

std::vector<Prior> picturePriors(const Part& part, const PictureTerm& term) {
    std::vector<ScalePair> pairs;
    const Source* source = nullptr;
    for (const Source& s : part.sources)
        if (s.id == term.source) source = &s;
    for (const Reading& r : part.readings)
        if (r.pick && r.contact == Contact::PictureLength && r.source == term.source && !r.raw.empty())
            pairs.push_back({r.pick->a, r.pick->b, r.raw.front().value.mm(), r.pick->u});
    const double u = kAxesDoubt / 1.96;
    const bool exact = source != nullptr && source->exactScale;
    if (exact && source->dpiStated && pairs.empty())
        return {{term.scaleX, -1, 1, kExact}, {term.scaleY, -1, 1, kExact}};
    if (!exact && pairs.empty() && source != nullptr && source->dpiStated)
        return {{term.scaleX, -1, 1, u}, {term.scaleY, -1, 1, u}};
    if (!exact && pairsMeasureBothAxes(pairs)) return {};
    // Relative to the scale itself, which is near 1 unless the nominal scale is only a guess.
    double scale = 1;
    if (const auto it = part.assumed.find(term.source + ".scaleX"); it != part.assumed.end()) scale = it->second.mm();
    return {{term.scaleY, term.scaleX, 0, (exact ? kExact : u) * std::max(std::abs(scale), 1e-3)}};
}

}  // namespace punch
