#include "core/drawing/find_in_drawing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "core/drawing/dimension_text.h"
#include "core/part/drawing_value.h"

namespace punch {

namespace {

constexpr double kDegrees = 180 / std::numbers::pi;
constexpr double kDrawnU = 0.2;  // pixels of 0.01 mm: what a drawn place is worth for telling patterns

SeenFeature seen(RimShape shape, PixelPoint centre, double width, double height, double turn) {
    SeenFeature f;
    if (height > width) {
        std::swap(width, height);
        turn += 90;
    }
    turn = std::remainder(turn, 180.0);
    if (turn <= -90 + 1e-9) turn += 180;
    f.rim = {shape, centre, width, height, shape == RimShape::Round ? 0 : turn, kDrawnU, kDrawnU, 0.01, 1, 0, 100, 0};
    f.confidence = 0.95;
    return f;
}

using Key = std::pair<long long, long long>;
Key keyOf(PixelPoint p) { return {std::llround(p.x / 0.5), std::llround(p.y / 0.5)}; }

/// Four corners that make a rectangle.
std::optional<SeenFeature> rectangle(const std::vector<PixelPoint>& p) {
    const PixelPoint c{(p[0].x + p[1].x + p[2].x + p[3].x) / 4, (p[0].y + p[1].y + p[2].y + p[3].y) / 4};
    for (int i = 0; i < 4; ++i)
        if (std::abs(apart(p[static_cast<std::size_t>(i)], c) - apart(p[0], c)) > 0.005 * apart(p[0], c) + 0.1)
            return {};
    if (apart(p[0], p[2]) < 1e-6 || std::abs(apart(p[0], p[1]) - apart(p[2], p[3])) > 0.01 * apart(p[0], p[2]))
        return {};
    const double turn = std::atan2(p[1].y - p[0].y, p[1].x - p[0].x) * kDegrees;
    return seen(RimShape::Rectangular, c, apart(p[0], p[1]), apart(p[1], p[2]), turn);
}

/// Straight pieces that meet end to end in a ring of four.
std::vector<std::vector<PixelPoint>> ringsOfFour(const std::vector<std::pair<PixelPoint, PixelPoint>>& pieces) {
    std::map<Key, std::vector<std::size_t>> at;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        at[keyOf(pieces[i].first)].push_back(i);
        at[keyOf(pieces[i].second)].push_back(i);
    }
    std::vector<std::vector<PixelPoint>> rings;
    std::vector<bool> used(pieces.size(), false);
    for (std::size_t start = 0; start < pieces.size(); ++start) {
        if (used[start]) continue;
        std::vector<std::size_t> walk{start};
        std::vector<PixelPoint> corners{pieces[start].first, pieces[start].second};
        while (walk.size() < 4) {
            const auto& here = at[keyOf(corners.back())];
            if (here.size() != 2) break;
            const std::size_t next = here[0] == walk.back() ? here[1] : here[0];
            if (std::find(walk.begin(), walk.end(), next) != walk.end()) break;
            walk.push_back(next);
            corners.push_back(keyOf(pieces[next].first) == keyOf(corners.back()) ? pieces[next].second
                                                                                 : pieces[next].first);
        }
        if (walk.size() != 4 || keyOf(corners.back()) != keyOf(corners.front())) continue;
        corners.pop_back();
        rings.push_back(corners);
        for (const std::size_t i : walk) used[i] = true;
    }
    return rings;
}

/// Two half circles of one size that bulge away from each other.
std::optional<SeenFeature> slot(const DrawnArc& a, const DrawnArc& b) {
    const auto half = [](const DrawnArc& x) { return std::abs(x.sweep - 180) < 0.5; };
    if (!half(a) || !half(b) || std::abs(a.radius - b.radius) > 0.01 * a.radius) return {};
    const double d = apart(a.centre, b.centre);
    if (d < 0.05 * a.radius || d > 12 * a.radius) return {};
    const PixelPoint outA = a.at(a.from + 90), outB = b.at(b.from + 90);
    if (std::abs(apart(outA, outB) - (d + 2 * a.radius)) > 0.02 * (d + 2 * a.radius)) return {};
    const double turn = std::atan2(b.centre.y - a.centre.y, b.centre.x - a.centre.x) * kDegrees;
    return seen(RimShape::Oval, {(a.centre.x + b.centre.x) / 2, (a.centre.y + b.centre.y) / 2}, d + 2 * a.radius,
                2 * a.radius, turn);
}

}  // namespace

std::vector<SeenFeature> featuresDrawn(const Drawing& drawing, const std::optional<PixelRegion>& region,
                                       double mmPerPixel) {
    const FeatureSearch search;
    const double least = search.least / mmPerPixel, most = search.most / mmPerPixel;
    std::vector<SeenFeature> found;
    const auto add = [&](const SeenFeature& f) {
        if (f.rim.height < least || f.rim.width > most) return;
        if (region && !region->contains(f.rim.centre.x, f.rim.centre.y)) return;
        for (const SeenFeature& old : found)
            if (apart(old.rim.centre, f.rim.centre) < 0.5 && std::abs(old.rim.width - f.rim.width) < 0.5 &&
                std::abs(old.rim.height - f.rim.height) < 0.5)
                return;
        found.push_back(f);
    };
    std::vector<DrawnArc> halves;
    for (const DrawnArc& a : drawing.arcs) {
        if (a.whole()) add(seen(RimShape::Round, a.centre, 2 * a.radius, 2 * a.radius, 0));
        if (std::abs(a.sweep - 180) < 0.5 && halves.size() < 4000) halves.push_back(a);
    }
    for (std::size_t i = 0; i < halves.size(); ++i)
        for (std::size_t j = i + 1; j < halves.size(); ++j) {
            // Two halves of one circle are a circle.
            if (apart(halves[i].centre, halves[j].centre) < 0.1 &&
                std::abs(halves[i].radius - halves[j].radius) < 0.1 &&
                std::abs(std::remainder(halves[i].from - halves[j].from - 180, 360.0)) < 0.5)
                add(seen(RimShape::Round, halves[i].centre, 2 * halves[i].radius, 2 * halves[i].radius, 0));
            else if (const auto s = slot(halves[i], halves[j]))
                add(*s);
        }
    std::vector<std::pair<PixelPoint, PixelPoint>> pieces;
    for (const DrawnPath& p : drawing.paths) {
        if (p.chords) continue;
        if (p.closed && p.points.size() == 4) {
            if (const auto r = rectangle(p.points)) add(*r);
        } else {
            for (std::size_t i = 0; i + 1 < p.points.size(); ++i)
                if (apart(p.points[i], p.points[i + 1]) <= most) pieces.emplace_back(p.points[i], p.points[i + 1]);
        }
    }
    for (const auto& ring : ringsOfFour(pieces))
        if (const auto r = rectangle(ring)) add(*r);

    // One within another around the same middle: a land and its hole, the outermost and the next.
    std::stable_sort(found.begin(), found.end(),
                     [](const SeenFeature& a, const SeenFeature& b) { return a.rim.height > b.rim.height; });
    std::vector<SeenFeature> outer;
    for (const SeenFeature& f : found) {
        const auto around = std::find_if(outer.begin(), outer.end(), [&](const SeenFeature& o) {
            return apart(o.rim.centre, f.rim.centre) < 1 && f.rim.width < o.rim.height;
        });
        if (around == outer.end())
            outer.push_back(f);
        else if (!around->inner && f.rim.shape == RimShape::Round)
            around->inner = f.rim.width;
    }
    // In reading order, so that nothing depends on how the file happens to be sorted.
    std::stable_sort(outer.begin(), outer.end(), [](const SeenFeature& a, const SeenFeature& b) {
        return std::pair(std::round(a.rim.centre.y), a.rim.centre.x) <
               std::pair(std::round(b.rim.centre.y), b.rim.centre.x);
    });
    return outer;
}

double lineWidthAround(const Grey& page, const Rim& rim) {
    constexpr int kRays = 48;
    constexpr double kTickStep = 0.25;
    const double reach = std::clamp(0.5 * rim.height, 8.0, 40.0);
    const double turn = rim.turn / kDegrees;
    std::vector<double> widths;
    double darkest = 0;
    for (int i = 0; i < kRays; ++i) {
        const double t = 2 * std::numbers::pi * (i + 0.5) / kRays;
        double x = std::cos(t), y = std::sin(t);
        // From the middle to the rim: of a rectangle to the side that the ray leaves by, and straight out from there.
        double px = x * rim.width / 2, py = y * rim.width / 2;
        if (rim.shape != RimShape::Round) {
            const double k =
                std::min(rim.width / 2 / std::max(std::abs(x), 1e-9), rim.height / 2 / std::max(std::abs(y), 1e-9));
            px = k * x;
            py = k * y;
            const bool side = std::abs(px) > rim.width / 2 - 1e-6;
            if (rim.shape == RimShape::Oval && std::abs(px) > (rim.width - rim.height) / 2) continue;
            x = side ? (px > 0 ? 1 : -1) : 0;
            y = side ? 0 : (py > 0 ? 1 : -1);
        }
        const auto at = [&](double s) {
            const double qx = px + s * x, qy = py + s * y;
            return 255 - page.sample(rim.centre.x + std::cos(turn) * qx - std::sin(turn) * qy,
                                     rim.centre.y + std::sin(turn) * qx + std::cos(turn) * qy);
        };
        double most = 0, sum = 0;
        for (double s = -4; s < reach; s += kTickStep) most = std::max(most, at(s));
        bool inside = false;
        for (double s = -4; s < reach; s += kTickStep) {
            const double v = at(s);
            if (v > 0.5 * most) inside = true;
            if (inside && v < 0.1 * most) break;  // beyond the line
            sum += v * kTickStep;
        }
        darkest = std::max(darkest, most);
        if (most > 60) widths.push_back(sum);
    }
    if (widths.size() < 8) return 0;
    for (double& w : widths) w /= darkest;
    std::nth_element(widths.begin(), widths.begin() + static_cast<std::ptrdiff_t>(widths.size() / 2), widths.end());
    return widths[widths.size() / 2];
}

namespace {

constexpr double kPageLeast = 0.35;  // mm on the page, which is drawn to be seen, whatever the part's size is
constexpr double kPageMost = 7.0;
constexpr double kLabelFits = 0.1;  // relative

/// Does a text on the page ("4x 0.60") name as many of this size as there are in the formation?
bool isLabelled(const Drawing& texts, const Found& found) {
    std::vector<double> sizes;
    for (const FoundFeature& f : found.features)
        if (f.slot >= 0) sizes.push_back(f.width);
    const auto close = [](double a, double b) { return std::abs(a / b - 1) < kLabelFits; };
    for (const DrawnText& t : texts.texts)
        for (const OfferedDimension& d : dimensionsIn(t.text, Unit::Mm)) {
            if (d.count != static_cast<int>(sizes.size())) continue;
            const auto value = parseDrawingValue(asDiameter(d), d.unit);
            if (!value || value->nominal.mm() <= 0) continue;
            const double mm = value->nominal.mm();
            for (const FoundFeature& f : found.features)
                if (f.slot >= 0 && (close(f.width, mm) || close(f.height, mm))) return true;
        }
    return false;
}

/// What can be seen on the page, however large it draws the part: up to `small` mm on the page, and then what is larger
/// and holds none of these, unless they share their middle (a land and its hole). Lines that cross outside a part close
/// off large areas, and these would swallow the leads in them.
std::vector<SeenFeature> seenOnPage(const Grey& grey, double small, double large) {
    FeatureSearch search;
    search.mmPerPixel = 25.4 / kPageDpi;
    search.least = kPageLeast;
    search.most = small;
    std::vector<SeenFeature> seen = findFeatures(grey, search, false).features;
    if (large <= small) return seen;
    search.most = large;
    const std::size_t first = seen.size();
    for (const SeenFeature& f : findFeatures(grey, search, false).features) {
        const bool holds =
            std::any_of(seen.begin(), seen.begin() + static_cast<std::ptrdiff_t>(first), [&](const SeenFeature& o) {
                const double dx = std::abs(o.rim.centre.x - f.rim.centre.x),
                             dy = std::abs(o.rim.centre.y - f.rim.centre.y);
                const double reach = std::max(f.rim.width, f.rim.height) / 2;
                return dx < reach && dy < reach &&
                       (std::hypot(dx, dy) > 0.1 * f.rim.height || o.rim.width > 0.9 * f.rim.width);
            });
        if (!holds) seen.push_back(f);
    }
    return seen;
}

}  // namespace

Result<Found> findOnPage(const Picture& page, const Drawing& texts, const FindOptions& options) {
    Found scaled;
    FindOptions asked = options;
    bool stated = false;
    if (asked.pairs.empty() && !asked.dpi) {
        // The title block's word counts where it is the only one.
        const auto scales = scalesStated(texts);
        if (scales.size() > 1) {
            std::string all;
            for (const StatedScale& s : scales) all += (all.empty() ? "" : ", ") + s.words;
            return problem("the page states several scales: " + all, "scale",
                           "Give a known length, or the dpi: 600 times the scale of the view");
        }
        if (scales.size() == 1) {
            asked.dpi = Dpi{kPageDpi * scales.front().ratio, kPageDpi * scales.front().ratio};
            stated = true;
            scaled.notes.push_back(
                {NoteAbout::Scale,
                 fmt::format("the page states the scale {}: check it by a known length", scales.front().words)});
        }
    }
    const std::vector<FindNote> said = scaled.notes;
    if (const auto chosen = chooseScale(scaled, asked, {}); !chosen) return tl::make_unexpected(chosen.error());
    const double mm = (scaled.scale.x + scaled.scale.y) / 2, onPage = 25.4 / kPageDpi;
    const PixelRegion all{0, 0, page.width, page.height};
    const PixelRegion region = options.region.value_or(all);
    if (region.x >= page.width || region.y >= page.height || region.x + region.width <= 0 ||
        region.y + region.height <= 0)
        return problem("the region lies outside the page", {}, "Choose one on the page");
    const Grey grey = greyOf(page);
    std::vector<SeenFeature> drawn;
    for (SeenFeature seen :
         seenOnPage(grey, kPageMost, std::clamp(FeatureSearch{}.most * onPage / mm, kPageMost, 60.0))) {
        if (!region.contains(seen.rim.centre.x, seen.rim.centre.y)) continue;
        if (textNear(texts, seen.rim.centre, 0) >= 0) continue;
        if (seen.bright) {
            const double line = lineWidthAround(grey, seen.rim);
            if (line < seen.rim.height) {
                seen.rim.width += line;
                seen.rim.height += line;
            }
        }
        // All of a drawing is lines; its rims are where they are drawn.
        seen.lined = false;
        seen.bright = true;
        seen.level = seen.around = 0;
        seen.rim.offset = 0;
        drawn.push_back(seen);
    }
    Found found = proposalFrom(drawn, scaled.scale, options.fromBelow);
    found.witnesses = scaled.witnesses;
    if (stated) found.notes.insert(found.notes.begin(), said.begin(), said.end());
    if (found.features.empty())
        found.notes.push_back({NoteAbout::Nothing, "nothing of a pin's size is drawn here: check scale and region"});
    noteLabels(found, texts);
    return found;
}

void noteLabels(Found& found, const Drawing& texts) {
    if (!found.formation) return;
    if (isLabelled(texts, found)) {
        found.sure = 1;
    } else if (found.formation->positions.size() < 3) {
        found.sure = std::min(found.sure, 0.4);
        found.notes.push_back(
            {NoteAbout::Formation, "two places are little to tell pins by: check that they are some"});
    }
}

Result<Found> findInDrawing(const Drawing& drawing, const FindOptions& options) {
    if (options.region) {
        const PixelRegion& r = *options.region;
        if (r.x >= drawing.width || r.y >= drawing.height || r.x + r.width <= 0 || r.y + r.height <= 0)
            return problem("the region lies outside the drawing", {}, "Choose one on the page");
    }
    const double mm = 25.4 / drawing.dpi;
    PictureScale scale{mm, mm, 0, 0, ScaleFrom::Drawing, {}, {}};
    if (!options.pairs.empty()) {
        auto pairs = scaleByPairs(options.pairs);
        if (!pairs) return tl::make_unexpected(pairs.error());
        // A drawing has one scale for both axes.
        scale = *pairs;
        const bool along = scale.ux <= scale.uy;
        scale.x = scale.y = along ? scale.x : scale.y;
        scale.ux = scale.uy = along ? scale.ux : scale.uy;
    }
    std::vector<SeenFeature> seenThere = featuresDrawn(drawing, options.region, scale.x);
    if (seenThere.size() > 4000)
        return problem("it shows more than 4000 circles and rectangles of a pin's size", {},
                       "Choose the view of the part");
    Found found = proposalFrom(seenThere, scale, options.fromBelow);
    if (found.features.empty())
        found.notes.push_back({NoteAbout::Nothing,
                               "no circle, slot or rectangle of a pin's size is drawn here: check the drawing's unit"});
    noteLabels(found, drawing);
    return found;
}

}  // namespace punch
