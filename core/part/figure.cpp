#include "core/part/figure.h"

#include <fmt/format.h>

#include <charconv>
#include <cmath>

namespace punch {

std::string figureText(const FigureRings& rings) {
    std::string text;
    for (const auto& ring : rings) {
        if (!text.empty()) text += ';';
        for (std::size_t i = 0; i < ring.size(); ++i)
            text += fmt::format("{}{},{}", i == 0 ? "" : " ", std::lround(ring[i].x.mm() * 1000),
                                std::lround(ring[i].y.mm() * 1000));
    }
    return text;
}

Result<FigureRings> figureFromText(std::string_view text) {
    FigureRings rings;
    std::size_t points = 0;
    const char* at = text.data();
    const char* const end = at + text.size();
    const auto wrong = [&](const char* what) { return problem(what, "outline", "Bring the figure in again"); };
    const auto number = [&](int& value) {
        const auto [next, error] = std::from_chars(at, end, value);
        at = next;
        return error == std::errc() && std::abs(value) <= 100000;
    };
    while (at < end) {
        std::vector<Point> ring;
        for (bool more = true; more;) {
            int x = 0, y = 0;
            if (!number(x) || at == end || *at++ != ',' || !number(y)) return wrong("a figure is rings of places x,y");
            ring.push_back({Length::fromUm(x), Length::fromUm(y)});
            if (++points > kMostFigurePoints) return wrong("a figure of more than 20000 places");
            more = at < end && *at == ' ';
            if (at < end && *at++ != ' ' && at[-1] != ';') return wrong("a figure is rings of places x,y");
        }
        if (ring.size() < 3) return wrong("a ring of a figure has three places or more");
        rings.push_back(std::move(ring));
        if (at == end && text.back() == ';') return wrong("a figure is rings of places x,y");
    }
    return rings;
}

}  // namespace punch
