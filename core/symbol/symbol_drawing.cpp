#include "core/symbol/symbol_drawing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/base/text_table.h"
#include "core/dress/stroke_text.h"
#include "core/part/names.h"

namespace punch {
namespace {

constexpr double kSagitta = 0.02;  // mm, of chords in place of arcs

Point at(SymbolPlace p, Point middle) { return {middle.x + Length::fromMm(p.x), middle.y + Length::fromMm(p.y)}; }

/// The circle through three places; none when they lie on a line.
struct Circle {
    double x, y, r;
};
std::optional<Circle> through(SymbolPlace a, SymbolPlace b, SymbolPlace c) {
    const double d = 2 * (a.x * (b.y - c.y) + b.x * (c.y - a.y) + c.x * (a.y - b.y));
    if (std::abs(d) < 1e-9) return {};
    const double a2 = a.x * a.x + a.y * a.y, b2 = b.x * b.x + b.y * b.y, c2 = c.x * c.x + c.y * c.y;
    const double x = (a2 * (b.y - c.y) + b2 * (c.y - a.y) + c2 * (a.y - b.y)) / d;
    const double y = (a2 * (c.x - b.x) + b2 * (a.x - c.x) + c2 * (b.x - a.x)) / d;
    return Circle{x, y, std::hypot(a.x - x, a.y - y)};
}

std::vector<SymbolPlace> round(Circle c, double from, double by) {
    const double step = c.r > kSagitta ? 2 * std::acos(1 - kSagitta / c.r) : 1;
    const int n = std::clamp(static_cast<int>(std::ceil(std::abs(by) / step)), 4, 400);
    std::vector<SymbolPlace> places;
    for (int i = 0; i <= n; ++i) {
        const double t = from + by * i / n;
        places.push_back({c.x + c.r * std::cos(t), c.y + c.r * std::sin(t)});
    }
    return places;
}

std::vector<SymbolPlace> outline(const SymbolShape& s) {
    const auto& p = s.places;
    switch (s.form) {
        case SymbolForm::Circle:
            if (p.size() < 2) return {};
            return round({p[0].x, p[0].y, std::hypot(p[1].x - p[0].x, p[1].y - p[0].y)}, 0, 2 * std::numbers::pi);
        case SymbolForm::Arc: {
            if (p.size() < 3) return p;
            const auto c = through(p[0], p[1], p[2]);
            if (!c) return {p[0], p[2]};
            const auto angle = [&](SymbolPlace q) { return std::atan2(q.y - c->y, q.x - c->x); };
            const double from = angle(p[0]);
            const auto after = [&](double t) {
                t = std::fmod(t - from, 2 * std::numbers::pi);
                return t < 0 ? t + 2 * std::numbers::pi : t;
            };
            const double middle = after(angle(p[1])), end = after(angle(p[2]));
            return round(*c, from, middle <= end ? end : end - 2 * std::numbers::pi);
        }
        case SymbolForm::Polygon: {
            auto closed = p;
            if (!closed.empty()) closed.push_back(closed.front());
            return closed;
        }
        default: return p;
    }
}

/// Level strokes that fill a closed outline, by its even and odd crossings.
void fill(const std::vector<SymbolPlace>& ring, Point middle, Length line, std::vector<Shape>& out) {
    double low = 1e300, high = -1e300;
    for (const SymbolPlace& p : ring) low = std::min(low, p.y), high = std::max(high, p.y);
    const double step = line.mm() * 0.8;
    if (!(high - low < 500)) return;
    for (double y = low + step / 2; y < high; y += step) {
        std::vector<double> xs;
        for (std::size_t i = 0; i + 1 < ring.size(); ++i) {
            const SymbolPlace &a = ring[i], &b = ring[i + 1];
            if ((a.y <= y) != (b.y <= y)) xs.push_back(a.x + (y - a.y) / (b.y - a.y) * (b.x - a.x));
        }
        std::sort(xs.begin(), xs.end());
        for (std::size_t i = 0; i + 1 < xs.size(); i += 2)
            out.push_back(inkLine({at({xs[i], y}, middle), at({xs[i + 1], y}, middle)}, line, "shape"));
    }
}

std::string quotedWord(const std::string& text) {
    std::string out = "\"";
    for (const char c : text) {
        if (c == '"' || c == '\\') out += '\\';
        out += c;
    }
    return out + "\"";
}

/// Words of a line; what stands in quotes is one.
struct Word {
    std::string text;
    bool inQuotes = false;
};
std::vector<Word> wordsOf(const std::string& line) {
    std::vector<Word> words;
    for (std::size_t i = 0; i < line.size();) {
        const char c = line[i];
        if (c == ' ' || c == '\t' || c == ',' || c == ';') {
            ++i;
        } else if (c == '"') {
            Word w{{}, true};
            for (++i; i < line.size() && line[i] != '"'; ++i) {
                if (line[i] == '\\' && i + 1 < line.size()) ++i;
                w.text += line[i];
            }
            ++i;
            words.push_back(std::move(w));
        } else {
            Word w;
            while (i < line.size() && line[i] != ' ' && line[i] != '\t' && line[i] != ',' && line[i] != ';')
                w.text += line[i++];
            words.push_back(std::move(w));
        }
    }
    return words;
}

std::optional<double> number(const std::string& text) {
    try {
        std::size_t used = 0;
        const double v = std::stod(text, &used);
        if (used == text.size() && std::abs(v) <= 1000) return v;
    } catch (const std::exception&) {
    }
    return {};
}

/// "needs at least so many places".
std::size_t leastPlaces(SymbolForm form) {
    return form == SymbolForm::Text ? 1 : form == SymbolForm::Arc || form == SymbolForm::Polygon ? 3 : 2;
}

}  // namespace

std::vector<Shape> inkOf(const SymbolShape& s, Point middle) {
    std::vector<Shape> out;
    const Length line = Length::fromMm(kSymbolLine);
    if (s.form == SymbolForm::Text) {
        if (s.places.empty() || s.text.empty()) return out;
        return strokeText(s.text, at(s.places[0], middle), Length::fromMm(kSymbolText), line, "shape");
    }
    const auto ring = outline(s);
    std::vector<Point> points;
    for (const SymbolPlace& p : ring) points.push_back(at(p, middle));
    if (points.size() < 2) return out;
    out.push_back(inkLine(points, line, "shape"));
    if (s.filled && (s.form == SymbolForm::Polygon || s.form == SymbolForm::Circle)) fill(ring, middle, line, out);
    return out;
}

Result<SymbolDrawing> symbolDrawingFromText(std::string_view text) {
    SymbolDrawing d;
    std::size_t begin = 0;
    for (int n = 1; begin <= text.size(); ++n) {
        const std::size_t end = std::min(text.find('\n', begin), text.size());
        const std::string line = trimmed(text.substr(begin, end - begin));
        begin = end + 1;
        if (line.empty()) continue;
        const auto wrong = [&](const std::string& what, const std::string& todo) {
            return problem(what, fmt::format("line {}", n), todo);
        };
        auto words = wordsOf(line);
        const std::string first = words.empty() ? "" : lower(words[0].text);
        if (first == "without" && words.size() == 2) {
            const std::string what = lower(words[1].text);
            if (what == "block")
                d.block = false;
            else if (what == "reference")
                d.referenceShown = false;
            else if (what == "value")
                d.valueShown = false;
            else
                return wrong("“" + words[1].text + "” cannot be left out", "Write without block, reference or value");
            continue;
        }
        const SymbolForm* form = nullptr;
        for (const auto& [value, word] : Names<SymbolForm>::table)
            if (first == word) form = &value;
        const std::size_t equal = line.find('=');
        if (form == nullptr && equal != std::string::npos && equal > 0) {
            SymbolAttribute a;
            a.name = trimmed(line.substr(0, equal));
            a.value = trimmed(line.substr(equal + 1));
            if (a.value.ends_with(" shown")) {
                a.shown = true;
                a.value = trimmed(a.value.substr(0, a.value.size() - 6));
            }
            if (std::any_of(d.attributes.begin(), d.attributes.end(),
                            [&](const SymbolAttribute& o) { return o.name == a.name; }))
                return wrong("“" + a.name + "” is said twice", "Keep one of them");
            d.attributes.push_back(std::move(a));
            continue;
        }
        if (form == nullptr)
            return wrong("“" + line + "” is no shape and no attribute",
                         "Begin it with line, arc, circle, polygon or text, or write name = value");
        SymbolShape s;
        s.form = *form;
        std::vector<double> numbers;
        for (std::size_t i = 1; i < words.size(); ++i) {
            if (words[i].inQuotes)
                s.text = words[i].text;
            else if (const auto v = number(words[i].text))
                numbers.push_back(*v);
            else if (lower(words[i].text) == "filled")
                s.filled = true;
            else if (lower(words[i].text) == "in" && i + 1 < words.size())
                s.element = words[++i].text;
            else
                return wrong("“" + words[i].text + "” is no number", "Write places as x y in mm");
        }
        if (numbers.size() % 2 != 0) return wrong("a place lacks its y", "Write places as x y in mm");
        for (std::size_t i = 0; i + 1 < numbers.size(); i += 2) s.places.push_back({numbers[i], numbers[i + 1]});
        if (s.places.size() < leastPlaces(s.form))
            return wrong(fmt::format("a {} has at least {} places", nameOf(s.form), leastPlaces(s.form)),
                         "Add them as x y");
        if (s.form == SymbolForm::Text && s.text.empty()) return wrong("the text says nothing", "Write it in quotes");
        if (d.shapes.size() >= kMostSymbolShapes) return wrong("there are too many shapes", "Leave some out");
        d.shapes.push_back(std::move(s));
    }
    return d;
}

std::string symbolDrawingText(const SymbolDrawing& d) {
    std::string out;
    if (!d.block) out += "without block\n";
    if (!d.referenceShown) out += "without reference\n";
    if (!d.valueShown) out += "without value\n";
    for (const SymbolShape& s : d.shapes) {
        out += nameOf(s.form);
        for (const SymbolPlace& p : s.places) out += fmt::format("  {:g} {:g}", p.x, p.y);
        if (!s.text.empty()) out += " " + quotedWord(s.text);
        if (s.filled) out += " filled";
        if (!s.element.empty()) out += " in " + quotedWord(s.element);
        out += "\n";
    }
    for (const SymbolAttribute& a : d.attributes) out += a.name + " = " + a.value + (a.shown ? " shown" : "") + "\n";
    return out;
}

const std::vector<SymbolBeginning>& symbolBeginnings() {
    static const std::vector<SymbolBeginning> all = {
        {"switch contact", "line -2.54 0  -1.27 0\nline 1.27 0  2.54 0\nline -1.27 0  1.1 1\n"},
        {"changeover contact",
         "line -2.54 0  -1.27 0\nline -1.27 0  1.1 1\nline 1.27 1.27  2.54 1.27\nline 1.27 -1.27  2.54 -1.27\n"},
        {"push button", "line -2.54 0  -1.27 0\nline 1.27 0  2.54 0\nline -1.27 1  1.27 1\nline 0 1  0 2.2\n"},
        {"relay coil", "polygon -1.9 -1  1.9 -1  1.9 1  -1.9 1\nline -0.95 -1  0.95 1\n"},
        {"variable resistor",
         "polygon -2.54 -0.8  2.54 -0.8  2.54 0.8  -2.54 0.8\nline 0 -2.4  0 -1\npolygon 0 -0.8  -0.4 -1.5  0.4 -1.5 "
         "filled\n"},
        {"socket contact", "arc 1.0 0.8  0 0  1.0 -0.8\nline -2.54 0  0 0\n"},
        {"pin of a plug", "line -2.54 0  0 0\npolygon 0 -0.3  1.6 -0.3  1.6 0.3  0 0.3 filled\n"},
        {"terminal", "circle 0 0  0.6 0\nline -2.54 0  -0.6 0\n"},
    };
    return all;
}

const std::vector<ReferenceLetter>& referenceLetters() {
    static const std::vector<ReferenceLetter> all = {
        {"terminal block", "TB", "X"},
        {"connector, on the board", "J", "X"},
        {"connector, on a cable", "P", "X"},
        {"socket", "X", "X"},
        {"relay", "K", "K"},
        {"switch, push button, selector", "S", "S"},
        {"potentiometer", "R", "R"},
        {"resistor", "R", "R"},
        {"varistor", "RV", "F"},
        {"thermistor as a sensor", "RT", "B"},
        {"capacitor", "C", "C"},
        {"inductor", "L", "R"},
        {"transformer", "T", "T"},
        {"fuse", "F", "F"},
        {"fuse holder", "XF", "X"},
        {"diode", "D", "R"},
        {"indicator lamp, LED", "DS", "P"},
        {"transistor", "Q", "K"},
        {"integrated circuit, module", "U", "K"},
        {"assembly with several functions", "A", "A"},
        {"sensor", "U", "B"},
        {"crystal", "Y", "G"},
        {"battery", "BT", "G"},
        {"motor", "B", "M"},
        {"sounder", "LS", "P"},
        {"test point", "TP", "X"},
        {"mechanical part, screw", "MP", "U"},
        {"filter", "FL", "R"},
    };
    return all;
}

}  // namespace punch
