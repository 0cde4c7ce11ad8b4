// Gauges of what is dressed: whether marks can be drawn, and whether the part could be put in another way round unseen.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/dress/outline_ink.h"
#include "core/fit/turned_in.h"
#include "core/part/mark_kinds.h"
#include "core/verdicts/gauge_kit.h"

namespace punch {
namespace {

// By how much something has to differ from itself, turned, to be seen as different: a figure, an outline.
const Length kFigure = Length::fromMm(0.2), kOutline = Length::fromMm(0.5);

/// Something on the board that may tell ways apart.
struct Telling {
    std::string name;
    Length differs;
    std::vector<Point> points = {};

    /// Points of a line, no further apart than what is told apart.
    void add(const std::vector<Point>& line) {
        for (std::size_t i = 0; i + 1 < line.size(); ++i) {
            const int n = std::max(1, static_cast<int>(std::ceil(distance(line[i], line[i + 1]) / (differs / 2))));
            for (int k = 0; k <= n; ++k)
                points.push_back({line[i].x + (line[i + 1].x - line[i].x) * (1.0 * k / n),
                                  line[i].y + (line[i + 1].y - line[i].y) * (1.0 * k / n)});
        }
    }
    /// Is it there again when everything is mapped?
    bool stays(const OtherWay& way) const {
        return std::all_of(points.begin(), points.end(), [&](Point p) {
            const Point to = way.map(p);
            return std::any_of(points.begin(), points.end(), [&](Point q) { return distance(to, q) < differs; });
        });
    }
};

/// Ink of marks that say so, cut-outs, the outline.
std::vector<Telling> telling(const Part& part, const Results& f) {
    std::vector<Telling> all;
    const auto of = [&](const std::string& what, Length differs) -> Telling& {
        for (Telling& t : all)
            if (t.name == what) return t;
        return all.emplace_back(Telling{what, differs});
    };
    const auto tells = [&](const std::string& mark) {
        const Mark* m = markById(part, mark);
        return m != nullptr && markKind(m->kind).group == MarkGroup::WayRound;
    };
    for (const auto* ink : {&f.silkscreen, &f.bottomSilkscreen})
        for (const Shape& s : *ink) {
            if (!tells(s.id) && !(s.id.empty() && s.name == "pin 1 mark")) continue;
            if (s.line() != nullptr) of(s.name, kFigure).add(s.points());
            for (const auto& ring : s.area()) of(s.name, kFigure).add(ring);
        }
    for (const Shape& c : f.cutOuts) of(c.name, kOutline).add(flattened(c.milled.outline.outer, Length::fromUm(50)));
    if (part.dress.outline && f.body && f.body->allFirm())
        for (const Shape& s : bodyOutline(*f.body, Length(), part.dress.line, "outline"))
            of("outline", kOutline).add(s.points());
    return all;
}

std::string wordsOf(const OtherWay& way) {
    if (way.mirrored) return "mirrored";
    return fmt::format("turned by {:g}°", std::round(std::abs(way.degrees)));
}

}  // namespace

Gauge wayRoundGauge(const Part& part, const Results& f) {
    Gauge g;
    g.unit = "1";
    if (!std::all_of(f.pads.begin(), f.pads.end(), [](const Pad& p) { return p.firm && p.sized; }) ||
        !std::all_of(f.bareHoles.begin(), f.bareHoles.end(), [](const BareHole& h) { return h.firm && h.sized; }))
        return unknownGauge(g, "not measured");
    for (const Conductor& c : f.attached.lands)
        if (isSurfaceLand(c) && !c.firm) return unknownGauge(g, "lands are loose");
    const auto ways = otherWays(leadsAndHoles(f));
    g.limit = 0;
    if (ways.empty()) {
        g.value = g.margin = 0;
        g.words = "goes in one way only";
        g.state = GaugeState::Go;
        return g;
    }
    const auto marks = telling(part, f);
    std::string by;
    std::vector<const OtherWay*> untold;
    for (const OtherWay& way : ways) {
        const auto it = std::find_if(marks.begin(), marks.end(), [&](const Telling& mark) { return !mark.stays(way); });
        if (it == marks.end())
            untold.push_back(&way);
        else if (by.empty())
            by = it->name;
    }
    g.value = static_cast<double>(untold.size());
    g.margin = -*g.value;
    if (!f.pads.empty()) g.about = {f.pads.front().id};
    if (untold.empty()) {
        g.words = "told by " + by;
        g.state = GaugeState::Go;
    } else if (part.dress.turnable) {
        g.words = "may be turned";
        g.state = GaugeState::Go;
    } else {
        g.words = "fits " + wordsOf(*untold.front()) + ", unmarked";
        g.state = GaugeState::NoGo;
    }
    return g;
}

Gauge marksGauge(const Part& part, const Results& f) {
    Gauge g;
    g.unit = "1";
    if (part.marks.empty()) return unknownGauge(g, "none attached");
    const auto first = [&](auto match) { return std::find_if(f.laid.begin(), f.laid.end(), match); };
    const auto wrong = first([](const LaidMark& m) { return !m.wrong.empty(); });
    g.limit = 0;
    g.value = static_cast<double>(
        std::count_if(f.laid.begin(), f.laid.end(), [](const LaidMark& m) { return !m.wrong.empty(); }));
    g.margin = -*g.value;
    if (wrong != f.laid.end()) {
        g.words = wrong->name + ": " + wrong->wrong;
        g.about = {wrong->id};
        g.state = GaugeState::NoGo;
        return g;
    }
    // Lands that cannot be made leave the part without copper to stand on.
    if (!f.attached.missing.empty()) {
        const auto& [id, words] = *f.attached.missing.begin();
        const Mark* mark = markById(part, id);
        g.value = static_cast<double>(f.attached.missing.size());
        g.margin = -*g.value;
        g.words = (mark == nullptr ? id : mark->name) + ": " + words;
        g.about = {id};
        g.state = GaugeState::NoGo;
        return g;
    }
    if (const auto loose = first([](const LaidMark& m) { return !m.firm; }); loose != f.laid.end()) {
        g.value.reset();
        g.margin.reset();
        return unknownGauge(g, loose->name + " is loose", {loose->id});
    }
    if (!f.inkWords.empty()) {
        const auto& [id, words] = *f.inkWords.begin();
        const Mark* mark = markById(part, id);
        g.words = (mark == nullptr ? id : mark->name) + ": " + words;
        g.about = {id};
        g.state = GaugeState::Watch;
        return g;
    }
    g.words = f.laid.size() == 1 ? "1 drawn" : fmt::format("all {} drawn", f.laid.size());
    g.state = GaugeState::Go;
    return g;
}

}  // namespace punch
