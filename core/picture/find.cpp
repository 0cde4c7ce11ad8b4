#include "core/picture/find.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

#include "core/measure/standard_sizes.h"
#include "core/picture/look_again.h"

namespace punch {

namespace {

// A picture that is so much longer than wide is no scan; looking for a ruler in it would take forever.
constexpr int kSmall = 2000;
constexpr int kMostAspect = 50;

constexpr double kRadians = std::numbers::pi / 180;

/// Not yet straightened: mm, x right, y up, seen from the part side, from the picture's first pixel.
FoundPlace placeOf(const SeenFeature& f, const PictureScale& s, bool fromBelow) {
    return {(fromBelow ? -1 : 1) * f.rim.centre.x * s.x, -f.rim.centre.y * s.y, f.rim.u * (s.x + s.y) / 2};
}

double smallSide(const SeenFeature& f, const PictureScale& s) { return f.rim.height * (s.x + s.y) / 2; }
double longSide(const SeenFeature& f, const PictureScale& s) { return f.rim.width * (s.x + s.y) / 2; }

/// Of one make: the same tone against what is around it, about the same size.
bool alike(const SeenFeature& a, const SeenFeature& b, const PictureScale& s) {
    if (a.bright != b.bright || a.inner.has_value() != b.inner.has_value()) return false;
    const auto near = [](double x, double y) { return std::abs(x - y) < std::max(0.18 * std::max(x, y), 0.1); };
    const double ca = std::abs(a.rim.contrast);
    const double cb = std::abs(b.rim.contrast);
    return near(smallSide(a, s), smallSide(b, s)) && near(longSide(a, s), longSide(b, s)) &&
           std::min(ca, cb) > 0.45 * std::max(ca, cb);
}

std::vector<std::vector<std::size_t>> groupsOf(const std::vector<FoundFeature>& features, const PictureScale& s) {
    std::vector<std::vector<std::size_t>> groups;
    for (std::size_t i = 0; i < features.size(); ++i) {
        auto group = std::find_if(groups.begin(), groups.end(), [&](const auto& g) {
            return std::any_of(g.begin(), g.end(),
                               [&](std::size_t j) { return alike(features[i].seen, features[j].seen, s); });
        });
        if (group == groups.end())
            groups.push_back({i});
        else
            group->push_back(i);
    }
    // The largest group has the pins; of equal ones that with the stronger contrast.
    std::stable_sort(groups.begin(), groups.end(), [&](const auto& a, const auto& b) {
        if (a.size() != b.size()) return a.size() > b.size();
        return std::abs(features[a[0]].seen.rim.contrast) > std::abs(features[b[0]].seen.rim.contrast);
    });
    return groups;
}

struct Choice {
    RecognisedFormation formation;
    std::vector<std::size_t> members;
};

std::optional<Choice> formationAmong(const std::vector<FoundFeature>& features, const std::vector<std::size_t>& group,
                                     const PictureScale& s, bool fromBelow) {
    const auto attempt = [&](const std::vector<std::size_t>& members) -> std::optional<Choice> {
        std::vector<FoundPlace> places;
        for (const std::size_t i : members) places.push_back(placeOf(features[i].seen, s, fromBelow));
        auto f = recogniseFormation(places);
        if (!f) return {};
        return Choice{std::move(*f), members};
    };
    if (auto all = attempt(group)) return all;
    if (group.size() < 5 || group.size() > 200) return {};
    // One that is not of the pattern (a fleck of the pins' size, a test point) may spoil it: the least sure first.
    std::vector<std::size_t> order(group.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
        return features[group[a]].seen.confidence < features[group[b]].seen.confidence;
    });
    for (const std::size_t without : order) {
        auto rest = group;
        rest.erase(rest.begin() + static_cast<std::ptrdiff_t>(without));
        if (auto c = attempt(rest)) return c;
    }
    return {};
}

FoundKind kindOf(const SeenFeature& f, bool member) {
    if (f.inner) return FoundKind::Pad;
    if (!f.bright) return FoundKind::Hole;
    if (member) return FoundKind::Pin;
    return f.rim.shape == RimShape::Round ? FoundKind::Peg : FoundKind::Lug;
}

/// Outside the pattern only what is clearly there counts: dust comes in all shapes.
bool isClear(const SeenFeature& f, const PictureScale& s) {
    return smallSide(f, s) > 0.55 && f.confidence > 0.62 && f.rim.found > 0.8;
}

void workOut(Found& found, bool fromBelow) {
    found.formation.reset();
    found.direction = 0;
    found.angle = found.uAngle = 0;
    std::vector<FoundFeature>& features = found.features;
    for (FoundFeature& f : features) f.slot = -1;
    std::optional<Choice> choice;
    const auto groups = groupsOf(features, found.scale);
    for (const auto& group : groups) {
        if (choice && group.size() <= choice->members.size()) break;
        if (group.size() == 1 && choice) break;
        auto c = formationAmong(features, group, found.scale, fromBelow);
        if (c && (!choice || c->members.size() > choice->members.size())) choice = std::move(c);
    }
    // Pins of different make (a common one that is thicker) may still be one pattern.
    if (!choice || choice->members.size() < 2) {
        std::vector<std::size_t> all;
        for (std::size_t i = 0; i < features.size(); ++i)
            if (features[i].seen.bright) all.push_back(i);
        if (all.size() >= 2)
            if (auto c = formationAmong(features, all, found.scale, fromBelow)) choice = std::move(c);
    }
    double turn = 0;
    if (choice) {
        found.formation = choice->formation;
        const bool ring = found.formation->kind == FormationKind::Ring;
        turn = ring ? found.formation->turn : std::remainder(found.formation->turn, 90.0);
        found.direction = ring ? 0.0 : std::abs(std::remainder(found.formation->turn - turn, 180.0)) > 45 ? 90.0 : 0.0;
        if (choice->members.size() > 1) {
            found.angle = (fromBelow ? -1 : 1) * turn;
            found.uAngle = found.formation->uTurn;
        }
        for (std::size_t k = 0; k < found.formation->positions.size(); ++k) {
            PatternSlot& slot = found.formation->positions[k];
            features[choice->members[static_cast<std::size_t>(slot.place)]].slot = static_cast<int>(k);
        }
    }
    std::erase_if(features, [&](const FoundFeature& f) { return f.slot < 0 && !isClear(f.seen, found.scale); });
    std::stable_sort(features.begin(), features.end(), [](const FoundFeature& a, const FoundFeature& b) {
        const auto key = [](const FoundFeature& f) { return f.slot < 0 ? 1 << 30 : f.slot; };
        return key(a) < key(b);
    });
    if (found.formation)
        for (std::size_t k = 0; k < found.formation->positions.size(); ++k)
            found.formation->positions[k].place = static_cast<int>(k);

    const double c = std::cos(turn * kRadians);
    const double s = std::sin(turn * kRadians);
    double left = 1e18, right = -1e18, bottom = 1e18, top = -1e18;
    for (FoundFeature& f : features) {
        const FoundPlace p = placeOf(f.seen, found.scale, fromBelow);
        f.x = c * p.x + s * p.y;
        f.y = -s * p.x + c * p.y;
        f.u = p.u;
        f.kind = kindOf(f.seen, f.slot >= 0);
        // Lengths along a slanted direction see both scales.
        const double a = f.seen.rim.turn * kRadians;
        const double alongScale = std::hypot(std::cos(a) * found.scale.x, std::sin(a) * found.scale.y);
        const double acrossScale = std::hypot(std::sin(a) * found.scale.x, std::cos(a) * found.scale.y);
        const bool round = f.seen.rim.shape == RimShape::Round;
        f.width = f.seen.rim.width * (round ? (found.scale.x + found.scale.y) / 2 : alongScale);
        f.height = f.seen.rim.height * (round ? (found.scale.x + found.scale.y) / 2 : acrossScale);
        f.uSize = f.seen.rim.uSize * (found.scale.x + found.scale.y) / 2;
        const double drawn = (fromBelow ? 1 : -1) * f.seen.rim.turn - turn;
        f.rotation = round ? 0.0 : std::remainder(drawn, 180.0);
        left = std::min(left, f.x);
        right = std::max(right, f.x);
        bottom = std::min(bottom, f.y);
        top = std::max(top, f.y);
    }
    for (FoundFeature& f : features) {
        f.x -= (left + right) / 2;
        f.y -= (bottom + top) / 2;
    }
}

}  // namespace

Result<Found> findInPicture(const Picture& picture, const FindOptions& options) {
    Found found;
    PixelRegion region = options.region.value_or(PixelRegion{0, 0, picture.width, picture.height});
    const int right = std::min(region.x + region.width, picture.width);
    const int bottom = std::min(region.y + region.height, picture.height);
    region.x = std::max(region.x, 0);
    region.y = std::max(region.y, 0);
    region.width = right - region.x;
    region.height = bottom - region.y;
    if (region.width < 1 || region.height < 1)
        return problem("the region lies outside the picture",
                       fmt::format("{} x {} pixels", picture.width, picture.height),
                       "Give x, y, width and height in pixels, from the top left corner");
    const int narrow = std::min(picture.width, picture.height);
    const int wide = std::max(picture.width, picture.height);
    if (wide > kSmall && wide / std::max(narrow, 1) > kMostAspect)
        return problem(fmt::format("a strip of {} x {} pixels shows no part", picture.width, picture.height), "picture",
                       "Cut out the part and the ruler, or scan them again");
    const Grey grey = greyOf(picture);
    const std::optional<Dpi> dpi = options.dpi ? options.dpi : picture.dpi;
    if (!options.pairs.empty()) {
        auto scale = scaleByPairs(options.pairs);
        if (!scale) return tl::make_unexpected(scale.error());
        found.scale = *scale;
    }
    if (options.lookForRuler) found.rulers = findRulers(grey, dpi);
    if (options.pairs.empty()) {
        if (options.dpi) {
            found.scale = scaleByDpi(*options.dpi);
        } else if (!found.rulers.empty()) {
            std::vector<ScalePair> pairs;
            for (const Ruler& r : found.rulers) pairs.push_back(r.pair());
            auto scale = scaleByPairs(pairs);
            if (!scale) return tl::make_unexpected(scale.error());
            found.scale = *scale;
            found.scale.from = ScaleFrom::Ruler;
        } else if (picture.dpi) {
            found.scale = scaleByDpi(*picture.dpi);
            found.notes.emplace_back("the scale is the file's own dpi: check it against a known length");
        } else {
            return problem("nothing says how large this is", "scale",
                           "Give --dpi, or --pair with two places and their distance");
        }
    }
    FeatureSearch search;
    search.mmPerPixel = (found.scale.x + found.scale.y) / 2;
    const bool whole = region.width == picture.width && region.height == picture.height;
    for (SeenFeature& f : findFeatures(whole ? grey : greyOf(picture, region), search)) {
        f.rim.centre.x += region.x;
        f.rim.centre.y += region.y;
        const bool onRuler = std::any_of(found.rulers.begin(), found.rulers.end(),
                                         [&](const Ruler& r) { return r.covers(f.rim.centre); });
        if (onRuler) continue;
        FoundFeature feature;
        feature.seen = f;
        found.features.push_back(feature);
    }
    workOut(found, options.fromBelow);
    // Faint ones, where the pattern of the others expects them.
    if (const auto more = seenOnSecondLook(grey, found); !more.empty()) {
        for (const SeenFeature& f : more) {
            if (options.region && !region.contains(f.rim.centre.x, f.rim.centre.y)) continue;
            FoundFeature feature;
            feature.seen = f;
            found.features.push_back(feature);
        }
        workOut(found, options.fromBelow);
    }
    if (found.features.empty())
        found.notes.emplace_back("nothing with a clear rim was found here: choose another region, or pick by hand");
    return found;
}

Found proposalFrom(const std::vector<SeenFeature>& seen, const PictureScale& scale, bool fromBelow) {
    Found found;
    found.scale = scale;
    for (const SeenFeature& f : seen) {
        FoundFeature feature;
        feature.seen = f;
        found.features.push_back(feature);
    }
    workOut(found, fromBelow);
    return found;
}

Found withoutFeatures(Found found, const std::vector<std::size_t>& dropped, bool fromBelow) {
    std::vector<FoundFeature> kept;
    for (std::size_t i = 0; i < found.features.size(); ++i)
        if (std::find(dropped.begin(), dropped.end(), i) == dropped.end()) kept.push_back(found.features[i]);
    found.features = std::move(kept);
    workOut(found, fromBelow);
    return found;
}

double withScaleU(const Found& found, const Fitted& length) {
    const double relative = std::max(found.scale.ux / found.scale.x, found.scale.uy / found.scale.y);
    return std::hypot(length.u, relative * length.value);
}

std::optional<double> standardPitch(const RecognisedFormation& formation, double u) {
    if (!formation.pitch) return {};
    std::optional<double> best;
    int fits = 0;
    double least = 1e9;
    for (const Length s : standardPitches()) {
        const double k = std::abs(formation.pitch->value - s.mm()) / std::hypot(u, makeTolerance(s.mm()));
        if (fitOf(k) != Fit::Fits) continue;
        ++fits;
        if (k < least) {
            least = k;
            best = s.mm();
        }
    }
    return fits == 1 ? best : std::nullopt;
}

}  // namespace punch
