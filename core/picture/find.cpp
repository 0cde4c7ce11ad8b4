#include "core/picture/find.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/measure/standard_sizes.h"
#include "core/picture/bodies.h"
#include "core/picture/look_again.h"
#include "core/picture/propose.h"
#include "core/picture/slant.h"

namespace punch {

namespace {

// A picture that is so much longer than wide is no scan; looking for a ruler in it would take forever.
constexpr int kSmall = 2000;
constexpr int kMostAspect = 50;
constexpr double kColourShare = 0.004;  // of the picture that must be coloured before colours are looked at
constexpr int kColourLevels = 12;       // from grey

Result<PixelRegion> regionIn(const Picture& picture, const std::optional<PixelRegion>& chosen) {
    PixelRegion region = chosen.value_or(PixelRegion{0, 0, picture.width, picture.height});
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
    return region;
}

/// Is enough of it coloured that pins could differ from their body by colour alone?
bool isColoured(const Picture& p) {
    if (p.channels != 3) return false;
    const int step = std::max(1, static_cast<int>(std::sqrt(1.0 * p.width * p.height / 40000)));
    int coloured = 0, all = 0;
    for (int y = 0; y < p.height; y += step)
        for (int x = 0; x < p.width; x += step) {
            const std::uint8_t* c = p.row(y) + static_cast<std::size_t>(x) * 3;
            ++all;
            coloured +=
                std::abs(c[0] - c[1]) > 2 * kColourLevels || std::abs(c[2] - (c[0] + c[1]) / 2) > 2 * kColourLevels;
        }
    return coloured > kColourShare * all;
}

constexpr double kRulerMark = 0.5;  // mm; what is narrower on a ruler's body is a mark or a figure of it

enum class OnRuler { No, Marks, Body };

/// On the body of a ruler that gives the scale or is believed, or, where no body shows, among its marks?
OnRuler onRuler(const Found& found, PixelPoint at) {
    OnRuler on = OnRuler::No;
    const auto ask = [&](const Ruler& r) {
        if (on != OnRuler::Body && r.covers(at)) on = r.bodySeen ? OnRuler::Body : OnRuler::Marks;
    };
    for (const Ruler& r : found.rulers)
        if (r.believed) ask(r);
    for (const std::size_t i : found.scaleRulers) ask(found.rulers[i]);
    return on;
}

/// Looks in one channel, and adds what was not seen in those before.
void look(Found& found, const Picture& picture, const Grey& whole, const FindOptions& options,
          const PixelRegion& region, Channel channel, bool faint) {
    FeatureSearch search;
    search.faint = faint;
    search.mmPerPixel = (found.scale.x + found.scale.y) / 2;
    search.skip = [&](PixelPoint centre, double height) {
        return height * search.mmPerPixel < kRulerMark &&
               onRuler(found, {centre.x + region.x, centre.y + region.y}) == OnRuler::Body;
    };
    const bool all = region.width == picture.width && region.height == picture.height;
    const Grey part = channel == Channel::Luminance && all ? Grey{} : greyOf(picture, region, channel);
    const Grey& grey = part.data.empty() ? whole : part;
    SeenFeatures met = findFeatures(grey, search, !options.region);
    if (met.ground > 0 && met.features.size() < 2) {
        // With the ground nothing else would be left: then it is what there is to see.
        met = findFeatures(grey, search, false);
        found.notes.push_back(
            {NoteAbout::Ground, "what was found goes on to the picture's edges: it may be the ground, not pins"});
    }
    for (SeenFeature f : met.features) {
        f.rim.centre.x += region.x;
        f.rim.centre.y += region.y;
        if (channel != Channel::Luminance) {
            f.level = f.around = 0;
            // Differences of coded channels follow no tone curve.
            f.rim.offset *= 3;
        }
        const OnRuler on = onRuler(found, f.rim.centre);
        f.onRuler = on == OnRuler::Marks;
        if (on == OnRuler::Body) {
            if (f.rim.height * search.mmPerPixel > kRulerMark) found.leftOut.push_back({f, "on the ruler"});
            continue;
        }
        const auto known = std::find_if(found.features.begin(), found.features.end(), [&](const FoundFeature& o) {
            return std::hypot(o.seen.rim.centre.x - f.rim.centre.x, o.seen.rim.centre.y - f.rim.centre.y) <
                   0.5 * std::max(o.seen.rim.height, f.rim.height);
        });
        if (known != found.features.end()) {
            // What hardly showed in the channels before is what it is in the one that shows it.
            if (std::abs(known->seen.rim.contrast) < 0.6 * std::abs(f.rim.contrast)) known->seen = f;
            continue;
        }
        FoundFeature feature;
        feature.seen = f;
        found.features.push_back(feature);
    }
    if (met.ground > 0)
        found.notes.push_back(
            {NoteAbout::Ground,
             fmt::format("{} patches of a pattern that goes on to the picture's edges were left out as "
                         "the ground: choose a region around the part if they are pins",
                         met.ground)});
    if (met.more)
        found.notes.push_back({NoteAbout::Missing, "there is more in it than can be looked at: choose a region"});
}

/// Where sizes are little known, because the picture is coarse or out of focus, the way out is said.
void noteSizes(Found& found) {
    constexpr double kMuch = 0.1;  // mm
    double most = 0;
    for (const FoundFeature& f : found.features)
        if (f.slot >= 0) most = std::max(most, 1.96 * f.uSize);
    if (most > kMuch)
        found.notes.push_back({NoteAbout::Size, fmt::format("sizes are only known to ± {:.2f} mm: read one pin across "
                                                            "with calipers, and all of them are better known",
                                                            most)});
}

constexpr double kHidingContrast = 40;  // grey levels of contrast, under which pins may hide

bool isFaint(const Found& found) {
    if (!found.formation || found.formation->positions.size() < 3) return true;
    double most = 0;
    for (const FoundFeature& f : found.features)
        if (f.slot >= 0) most = std::max(most, std::abs(f.seen.rim.contrast));
    return most < kHidingContrast;
}

void labelBodies(Found& found, const Grey& grey) {
    std::vector<PixelPoint> places;
    for (const FoundFeature& f : found.features) places.push_back(f.seen.rim.centre);
    const std::vector<int> on = bodiesUnder(grey, places, (found.scale.x + found.scale.y) / 2, found.rulers);
    for (std::size_t i = 0; i < found.features.size(); ++i) found.features[i].body = on.empty() ? 0 : on[i];
}

/// Does a row go on over the picture's edge? Its next place lies outside, and the body reaches the edge there.
void noteCutOff(Found& found, const Grey& grey, const PixelRegion& region) {
    const RecognisedFormation& f = *found.formation;
    if (f.kind == FormationKind::Ring || f.positions.size() < 2) return;
    const auto centre = [&](std::size_t k) { return found.features[k].seen.rim.centre; };
    for (std::size_t row = 0; row < f.rows.size(); ++row) {
        std::vector<std::pair<int, std::size_t>> here;
        for (std::size_t k = 0; k < f.positions.size(); ++k)
            if (f.positions[k].row == static_cast<int>(row)) here.emplace_back(f.positions[k].column, k);
        std::sort(here.begin(), here.end());
        if (here.size() < 2) continue;
        for (const bool atEnd : {false, true}) {
            const auto& [c0, k0] = atEnd ? here.back() : here.front();
            const auto& [c1, k1] = atEnd ? here[here.size() - 2] : here[1];
            const double steps = std::abs(c1 - c0);
            const PixelPoint a = centre(k0), b = centre(k1);
            const PixelPoint step{(a.x - b.x) / steps, (a.y - b.y) / steps};
            const double length = std::hypot(step.x, step.y), half = found.features[k0].seen.rim.width / 2;
            const auto inside = [&](double t, double room) {
                const double x = a.x + t * step.x - region.x, y = a.y + t * step.y - region.y;
                return x > room && y > room && x < region.width - 1 - room && y < region.height - 1 - room;
            };
            if (inside(1, half + 2)) continue;
            // Beyond the pin the body goes on, up to the edge?
            double t = (half + 3) / length;
            const double level = grey.sample(a.x + (t + 2 / length) * step.x, a.y + (t + 2 / length) * step.y);
            double most = 0;
            for (; inside(t, 0); t += 1 / length)
                most = std::max(most, std::abs(grey.sample(a.x + t * step.x, a.y + t * step.y) - level));
            const double contrast = std::abs(found.features[k0].seen.rim.contrast);
            // A pin that is cut in half there shows itself by its contrast; a body that ends does too, by more length.
            const double ends = grey.sample(a.x + (t - 2 / length) * step.x, a.y + (t - 2 / length) * step.y);
            const bool bodyEnds = most > 0.4 * contrast &&
                                  std::abs(ends - found.features[k0].seen.level) > 0.5 * contrast &&
                                  std::abs(ends - level) > 0.4 * contrast;
            if (bodyEnds) continue;
            found.notes.push_back(
                {NoteAbout::Missing,
                 fmt::format("the row may go on over the {} edge of the picture: pins may be missing",
                             std::abs(step.x) > std::abs(step.y) ? (step.x > 0 ? "right" : "left")
                                                                 : (step.y > 0 ? "lower" : "upper"))});
        }
    }
}

}  // namespace

Result<Found> findInPicture(const Picture& picture, const FindOptions& options) {
    Found found;
    const auto region = regionIn(picture, options.region);
    if (!region) return tl::make_unexpected(region.error());
    const int narrow = std::min(picture.width, picture.height);
    const int wide = std::max(picture.width, picture.height);
    if (wide > kSmall && wide / std::max(narrow, 1) > kMostAspect)
        return problem(fmt::format("a strip of {} x {} pixels shows no part", picture.width, picture.height), "picture",
                       "Cut out the part and the ruler, or scan them again");
    const Grey grey = greyOf(picture);
    if (options.lookForRuler) found.rulers = findRulers(grey, options.dpi ? options.dpi : picture.dpi);
    for (const std::size_t i : options.refused)
        if (i < found.rulers.size()) {
            found.rulers[i].refused = true;
            found.rulers[i].believed = false;
        }
    if (const auto chosen = chooseScale(found, options, picture.dpi); !chosen)
        return tl::make_unexpected(chosen.error());
    look(found, picture, grey, options, *region, Channel::Luminance, false);
    if (isColoured(picture))
        for (const Channel c : {Channel::RedGreen, Channel::BlueYellow})
            look(found, picture, grey, options, *region, c, false);
    const std::vector<LeftOut> onRulers = found.leftOut;
    labelBodies(found, grey);
    propose(found, options.fromBelow);
    if (isFaint(found)) {
        // Little or nothing stands out: a second search for what hardly does.
        for (const LeftOut& l :
             std::vector(found.leftOut.begin() + static_cast<std::ptrdiff_t>(onRulers.size()), found.leftOut.end())) {
            FoundFeature again;
            again.seen = l.seen;
            found.features.push_back(again);
        }
        found.leftOut = onRulers;
        look(found, picture, grey, options, *region, Channel::Luminance, true);
        labelBodies(found, grey);
        propose(found, options.fromBelow);
    }
    // Faint ones, where the pattern of the others expects them.
    if (const auto more = seenOnSecondLook(grey, found); !more.empty()) {
        for (const SeenFeature& f : more) {
            if (options.region && !region->contains(f.rim.centre.x, f.rim.centre.y)) continue;
            FoundFeature feature;
            feature.seen = f;
            feature.body = found.features.front().body;
            found.features.push_back(feature);
        }
        propose(found, options.fromBelow);
    }
    if (found.formation) {
        noteCutOff(found, grey, *region);
        noteSizes(found);
        testSlant(found);
    }
    if (found.features.empty())
        found.notes.push_back(
            {NoteAbout::Nothing, "nothing with a clear rim was found here: choose another region, or pick by hand"});
    else if (!found.formation)
        found.notes.push_back({NoteAbout::Formation, "no formation was recognised: drop what does not belong to it"});
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
    propose(found, fromBelow);
    return found;
}

Found withoutFeatures(Found found, const std::vector<std::size_t>& dropped, bool fromBelow) {
    std::vector<FoundFeature> kept;
    for (std::size_t i = 0; i < found.features.size(); ++i)
        if (std::find(dropped.begin(), dropped.end(), i) == dropped.end()) kept.push_back(found.features[i]);
    found.features = std::move(kept);
    propose(found, fromBelow);
    return found;
}

Found withTakenBack(Found found, std::size_t leftOut, bool fromBelow) {
    if (leftOut >= found.leftOut.size()) return found;
    FoundFeature back;
    back.seen = found.leftOut[leftOut].seen;
    back.seen.lined = back.seen.onRuler = false;
    back.wanted = true;
    if (!found.features.empty()) back.body = found.features.front().body;
    found.leftOut.erase(found.leftOut.begin() + static_cast<std::ptrdiff_t>(leftOut));
    found.features.push_back(back);
    propose(found, fromBelow);
    return found;
}

Found withOther(Found found, std::size_t other, bool fromBelow) {
    if (other >= found.others.size()) return found;
    // Its pins alone make the proposal; those of the part that was proposed wait among what was left out.
    std::vector<FoundFeature> kept;
    for (const FoundFeature& f : found.features)
        if (f.slot >= 0) found.leftOut.push_back({f.seen, "of the other part"});
    for (const std::size_t i : found.others[other].members) kept.push_back(found.features[i]);
    found.features = std::move(kept);
    propose(found, fromBelow);
    return found;
}

double withScaleU(const Found& found, const FittedValue& length) {
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
