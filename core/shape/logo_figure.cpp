#include "core/shape/logo_figure.h"

#include <algorithm>
#include <deque>
#include <mutex>

#include "core/part/figure.h"

namespace punch {
namespace {

constexpr std::size_t kKept = 8;
const Length kSlack = Length::fromUm(1);

LogoFigure computed(const std::string& text, Length width, Length least) {
    const auto rings = figureFromText(text);
    const double scale = width / figureWidth();
    LogoFigure logo;
    if (!rings || rings->empty() || scale <= 0) return logo;
    Polygons whole;
    for (const auto& ring : *rings) {
        std::vector<Point> sized;
        for (const Point& p : ring) sized.push_back({p.x * scale, p.y * scale});
        whole.push_back(std::move(sized));
    }
    const Length half = least / 2 - kSlack;
    if (half <= Length()) {
        logo.figure = std::move(whole);
        return logo;
    }
    const Polygons closed = grown(grown(whole, half), -half);
    logo.figure = grown(grown(closed, -half), half);
    // Round corners take a little off each sharp one; that is no loss of lines.
    logo.leftOut = areaOf(without(whole, grown(logo.figure, half))) / std::max(areaOf(whole), 1e-9);
    return logo;
}

struct Kept {
    std::string text;
    Length width, least;
    LogoFigure logo;
};

}  // namespace

LogoFigure logoFigure(const std::string& text, Length width, Length least) {
    static std::mutex mutex;
    static std::deque<Kept> kept;
    const auto same = [&](const Kept& k) { return k.width == width && k.least == least && k.text == text; };
    {
        const std::lock_guard lock(mutex);
        if (const auto it = std::find_if(kept.begin(), kept.end(), same); it != kept.end()) return it->logo;
    }
    LogoFigure logo = computed(text, width, least);
    const std::lock_guard lock(mutex);
    kept.push_front({text, width, least, logo});
    if (kept.size() > kKept) kept.pop_back();
    return logo;
}

}  // namespace punch
