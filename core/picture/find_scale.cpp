// How large a picture is: what says so, which of them counts, and whether the others agree.

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "core/picture/find.h"

namespace punch {

namespace {

constexpr double kSameRuler = 0.015;  // relative: rulers that agree so well are adjusted together

double mmPerPixel(const Ruler& r) { return r.length() / std::hypot(r.last.x - r.first.x, r.last.y - r.first.y); }

std::string rulerWords(const Ruler& r) {
    std::string words = fmt::format("the ruler, {} steps of {:.4g} mm", r.steps, r.step);
    words += r.order.empty() ? ", all alike" : ", " + r.order;
    return words;
}

/// By one ruler and those that agree with it.
Result<ScaleWitness> byRulers(const Found& found, const std::vector<std::size_t>& which) {
    std::vector<ScalePair> pairs;
    for (const std::size_t i : which) pairs.push_back(found.rulers[i].pair());
    auto scale = scaleByPairs(pairs);
    if (!scale) return tl::make_unexpected(scale.error());
    ScaleWitness w{*scale, rulerWords(found.rulers[which.front()]), false, false};
    w.scale.from = ScaleFrom::Ruler;
    return w;
}

bool differ(const PictureScale& a, const PictureScale& b) {
    const auto off = [](double p, double up, double q, double uq) {
        return std::abs(p / q - 1) > 1.96 * std::hypot(up / p, uq / q);
    };
    return off(a.x, a.ux, b.x, b.ux) || off(a.y, a.uy, b.y, b.uy);
}

}  // namespace

Result<void> chooseScale(Found& found, const FindOptions& options, const std::optional<Dpi>& fileDpi) {
    found.witnesses.clear();
    found.scaleRulers.clear();
    std::erase_if(found.notes,
                  [](const FindNote& n) { return n.about == NoteAbout::Scale || n.about == NoteAbout::Ruler; });
    if (!options.pairs.empty()) {
        auto scale = scaleByPairs(options.pairs);
        if (!scale) return tl::make_unexpected(scale.error());
        found.witnesses.push_back(
            {*scale,
             options.pairs.size() == 1 ? "a known length" : fmt::format("{} known lengths", options.pairs.size()),
             false, false});
    }
    std::vector<std::vector<std::size_t>> rulers;
    if (options.ruler) {
        if (*options.ruler >= found.rulers.size())
            return problem(fmt::format("there is no ruler {}", *options.ruler + 1), "ruler",
                           fmt::format("{} could be one", found.rulers.size()));
        rulers.push_back({*options.ruler});
    } else {
        for (std::size_t i = 0; i < found.rulers.size(); ++i) {
            if (!found.rulers[i].believed) continue;
            const auto same = std::find_if(rulers.begin(), rulers.end(), [&](const auto& group) {
                return std::abs(mmPerPixel(found.rulers[group.front()]) / mmPerPixel(found.rulers[i]) - 1) < kSameRuler;
            });
            if (same != rulers.end())
                same->push_back(i);
            else
                rulers.push_back({i});
        }
    }
    std::vector<ScaleWitness> byRuler, byDpi;
    for (const auto& group : rulers)
        if (auto w = byRulers(found, group)) byRuler.push_back(std::move(*w));
    if (!rulers.empty()) found.scaleRulers = rulers.front();
    if (options.dpi)
        byDpi.push_back(
            {scaleByDpi(*options.dpi), fmt::format("the {:.4g} dpi that were given", options.dpi->x), false, false});
    else if (fileDpi)
        byDpi.push_back({scaleByDpi(*fileDpi), fmt::format("the file's {:.4g} dpi", fileDpi->x), false, false});
    const bool dpiFirst = options.scaleBy == ScaleFrom::Dpi;
    for (auto* some : dpiFirst ? std::array{&byDpi, &byRuler} : std::array{&byRuler, &byDpi})
        for (ScaleWitness& w : *some) found.witnesses.push_back(std::move(w));
    if (found.witnesses.empty()) {
        const bool could = std::any_of(found.rulers.begin(), found.rulers.end(), [](const Ruler&) { return true; });
        return problem("nothing says how large this is", "scale",
                       could ? "Even marks could be a ruler: choose it with --ruler 1, or give --dpi or --pair"
                             : "Give --dpi, or --pair with two places and their distance");
    }
    ScaleWitness& ruling = found.witnesses.front();
    ruling.rules = true;
    found.scale = ruling.scale;
    for (std::size_t i = 1; i < found.witnesses.size(); ++i) {
        ScaleWitness& w = found.witnesses[i];
        w.differs = differ(w.scale, ruling.scale);
        if (!w.differs) continue;
        found.notes.push_back(
            {NoteAbout::Scale,
             fmt::format("{} says {:.5f} mm per pixel, {} {:.5f}: the first counts; a known length decides",
                         ruling.words, ruling.scale.x, w.words, w.scale.x)});
    }
    if (ruling.scale.from == ScaleFrom::Dpi && !options.dpi && found.witnesses.size() == 1)
        found.notes.push_back({NoteAbout::Scale, "the scale is by dpi alone: check it against a known length"});
    if (ruling.scale.from == ScaleFrom::Ruler && !found.rulers[found.scaleRulers.front()].believed)
        found.notes.push_back(
            {NoteAbout::Ruler, fmt::format("the ruler's marks are all alike: a step is taken for {:.4g} mm",
                                           found.rulers[found.scaleRulers.front()].step)});
    if (ruling.scale.from == ScaleFrom::Ruler && found.witnesses.size() == 1) {
        const Ruler& r = found.rulers[found.scaleRulers.front()];
        if (r.believed && (r.step == 1.0 || r.step == 0.5))
            found.notes.push_back(
                {NoteAbout::Ruler,
                 fmt::format("a step of the ruler is taken for {:g} mm, not for a part of an inch", r.step)});
        // Halves of an inch are counted to the longest marks that were seen.
        if (!r.otherSteps.empty() && r.step != 1.0 && r.step != 0.5)
            found.notes.push_back(
                {NoteAbout::Scale,
                 fmt::format("the ruler's longest marks are taken for whole inches, a step for {:.4g} "
                             "mm; it could be {:.4g}",
                             r.step, r.otherSteps.front())});
    }
    return {};
}

std::string noteAboutName(NoteAbout about) {
    switch (about) {
        case NoteAbout::Scale: return "scale";
        case NoteAbout::Ruler: return "ruler";
        case NoteAbout::Formation: return "formation";
        case NoteAbout::Missing: return "missing";
        case NoteAbout::LeftOut: return "left out";
        case NoteAbout::Size: return "size";
        case NoteAbout::Slant: return "slant";
        case NoteAbout::Ground: return "ground";
        case NoteAbout::Nothing: break;
    }
    return "nothing";
}

}  // namespace punch
