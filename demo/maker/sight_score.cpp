#include "demo/maker/sight_score.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace punch::maker {

namespace {

bool isNoted(const Found& found, std::initializer_list<NoteAbout> about) {
    return std::any_of(found.notes.begin(), found.notes.end(), [&](const FindNote& n) {
        return std::find(about.begin(), about.end(), n.about) != about.end();
    });
}

}  // namespace

SightScore scoreOf(const HardPicture& truth, const Result<Found>& result) {
    SightScore s;
    if (!result) {
        s.refused = true;
        s.words = result.error().text();
        return s;
    }
    const Found& found = *result;
    s.words = found.formation ? formationWords(*found.formation) : "nothing";
    for (const FindNote& n : found.notes) s.words += fmt::format(" [{}: {}]", noteAboutName(n.about), n.text);
    const double mm = (truth.mmPerPixelX + truth.mmPerPixelY) / 2;
    std::vector<int> pinOf(found.features.size(), -1);
    std::vector<bool> seen(truth.pins.size());
    for (std::size_t k = 0; k < found.features.size(); ++k) {
        const PixelPoint c = found.features[k].seen.rim.centre;
        for (std::size_t j = 0; j < truth.pins.size(); ++j) {
            const TruePin& t = truth.pins[j];
            if (seen[j] || std::hypot(c.x - t.at.x, c.y - t.at.y) * mm > 0.45 * std::min(t.width, t.height)) continue;
            seen[j] = true;
            pinOf[k] = static_cast<int>(j);
            break;
        }
    }
    // The part that was proposed.
    std::vector<int> votes(truth.parts.size());
    for (std::size_t k = 0; k < found.features.size(); ++k)
        if (found.features[k].slot >= 0 && pinOf[k] >= 0)
            ++votes[static_cast<std::size_t>(truth.pins[static_cast<std::size_t>(pinOf[k])].part)];
    const auto part = static_cast<int>(std::max_element(votes.begin(), votes.end()) - votes.begin());
    bool clean = true;
    for (std::size_t k = 0; k < found.features.size(); ++k) {
        const FoundFeature& f = found.features[k];
        if (f.slot >= 0 && (pinOf[k] < 0 || truth.pins[static_cast<std::size_t>(pinOf[k])].part != part)) clean = false;
        if (pinOf[k] >= 0) continue;
        const bool beside = f.slot < 0 && std::any_of(truth.beside.begin(), truth.beside.end(), [&](PixelPoint p) {
                                return std::hypot(f.seen.rim.centre.x - p.x, f.seen.rim.centre.y - p.y) * mm < 0.6;
                            });
        s.invented += beside ? 0 : 1;
    }
    std::size_t pins = 0;
    for (std::size_t j = 0; j < truth.pins.size(); ++j) {
        if (truth.pins[j].part != part) continue;
        ++pins;
        ++s.pins;
        s.missed += seen[j] ? 0 : 1;
    }
    const double pitch = truth.pitches[static_cast<std::size_t>(part)];
    const auto& f = found.formation;
    s.formationRight = f && clean && f->kind == truth.parts[static_cast<std::size_t>(part)] &&
                       f->positions.size() == pins &&
                       (pitch <= 0 || (f->pitch && std::abs(f->pitch->value / pitch - 1) <
                                                       std::max(0.01, 1.96 * withScaleU(found, *f->pitch) / pitch)));
    for (std::size_t k = 0; k < found.features.size(); ++k) {
        if (pinOf[k] < 0) continue;
        const FoundFeature& g = found.features[k];
        const TruePin& t = truth.pins[static_cast<std::size_t>(pinOf[k])];
        const double ex = (g.seen.rim.centre.x - t.at.x) * mm, ey = (g.seen.rim.centre.y - t.at.y) * mm;
        s.off.push_back(std::hypot(ex, ey));
        for (const double e : {ex, ey}) {
            ++s.places;
            s.placesHeld += std::abs(e) <= 1.96 * g.seen.rim.u * mm ? 1 : 0;
        }
        // A scale that is off is a fault of its own.
        const double width = g.seen.rim.width * mm, height = g.seen.rim.height * mm;
        const double u = g.uSize / ((found.scale.x + found.scale.y) / 2) * mm;
        const auto size = [&](double got, double is) {
            ++s.sizes;
            s.sizesHeld += std::abs(got - is) <= 1.96 * u ? 1 : 0;
            s.sizeOff.push_back(got - is);
        };
        size(width, std::max(t.width, t.height));
        if (t.width != t.height) size(height, std::min(t.width, t.height));
    }
    const double byX = std::abs(found.scale.x / truth.mmPerPixelX - 1) / (1.96 * found.scale.ux / found.scale.x);
    const double byY = std::abs(found.scale.y / truth.mmPerPixelY - 1) / (1.96 * found.scale.uy / found.scale.y);
    s.scaleOffBy = std::max(byX, byY);
    s.scaleOff = s.scaleOffBy > 1;
    if (!s.formationRight && !isNoted(found, {NoteAbout::Formation, NoteAbout::Missing, NoteAbout::LeftOut,
                                              NoteAbout::Nothing, NoteAbout::Slant}))
        s.silent.emplace_back("formation");
    if (s.missed > 0 &&
        !isNoted(found, {NoteAbout::Missing, NoteAbout::LeftOut, NoteAbout::Nothing, NoteAbout::Formation}))
        s.silent.emplace_back("missed");
    if (s.invented > 0 && !isNoted(found, {NoteAbout::LeftOut, NoteAbout::Formation, NoteAbout::Ground}))
        s.silent.emplace_back("invented");
    if (s.scaleOff && !isNoted(found, {NoteAbout::Scale, NoteAbout::Ruler, NoteAbout::Slant}))
        s.silent.emplace_back("scale");
    return s;
}

}  // namespace punch::maker
