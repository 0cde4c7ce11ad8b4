#include "core/symbol/block_symbol.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/dress/stroke_text.h"
#include "core/symbol/symbol_drawing.h"

namespace punch {
namespace {

constexpr double kMargin = 0.9;  // mm between a text and the block's edge, and between texts

double widthOf(const std::string& text) {
    return text.empty() ? 0 : strokeTextWidth(text, Length::fromMm(kSymbolText)).mm();
}

/// Up to the next place of the grid.
int cells(double mm) { return static_cast<int>(std::ceil(mm / kSymbolGrid - 1e-9)); }

Point at(double x, double y) { return {Length::fromMm(x), Length::fromMm(y)}; }

/// Pins of one side, each with the cell in which it stands; a cell free between groups.
struct SideRows {
    std::vector<std::pair<std::size_t, int>> pins;
    int length = 0;   ///< in cells
    double text = 0;  ///< widest of its names
};

SideRows sideOf(const std::vector<Pin>& pins, const std::vector<std::size_t>& who) {
    SideRows s;
    for (std::size_t i = 0; i < who.size(); ++i) {
        if (i > 0 && pins[who[i]].group != pins[who[i - 1]].group) ++s.length;
        s.length += std::clamp(pins[who[i]].gap, 0, 50);
        s.pins.emplace_back(who[i], s.length++);
        const Pin& p = pins[who[i]];
        s.text = std::max(s.text, p.names.empty() ? 0 : widthOf(plainName(p.names.front())));
    }
    return s;
}

SymbolText textOf(const std::string& text, Point middle, bool turned) {
    return {plainName(text), middle, turned, isActiveLow(text), Length::fromMm(widthOf(plainName(text)))};
}

SymbolBlock blockOf(const std::vector<Pin>& pins, const std::vector<std::size_t>& who, const std::string& element,
                    double left) {
    std::map<PinSide, std::vector<std::size_t>> bySide;
    std::vector<std::size_t> shared;
    for (const std::size_t i : who)
        if (const auto side = symbolSide(pins[i]))
            bySide[*side].push_back(i);
        else
            shared.push_back(i);
    // The first half left, running down, the second right, running up as the numbers of a package do.
    const std::size_t half = (shared.size() + 1) / 2;
    for (std::size_t k = 0; k < shared.size(); ++k)
        bySide[k < half ? PinSide::Left : PinSide::Right].push_back(shared[k]);
    const SideRows l = sideOf(pins, bySide[PinSide::Left]), r = sideOf(pins, bySide[PinSide::Right]),
               t = sideOf(pins, bySide[PinSide::Top]), b = sideOf(pins, bySide[PinSide::Bottom]);
    // Names of top and bottom read upwards within the block, in zones of their own.
    const int top = t.pins.empty() ? 1 : cells(t.text + 3 * kMargin),
              bottom = b.pins.empty() ? 1 : cells(b.text + 3 * kMargin);
    const int high = top + std::max({l.length, r.length, 1}) - 1 + bottom;
    // Between names of left and right, and room for those of top and bottom beside each other.
    const int wide = std::max({cells(l.text + r.text + 3 * kMargin), t.length + 1, b.length + 1, 3});
    double number = 0;
    for (const std::size_t i : who) number = std::max(number, widthOf(pins[i].number));
    const int pinLength = std::max(1, cells(number + kMargin));
    const double pinMm = pinLength * kSymbolGrid;
    SymbolBlock block;
    block.element = element;
    const double x0 = left + pinMm, x1 = x0 + wide * kSymbolGrid, y1 = 0, y0 = -high * kSymbolGrid;
    block.box = {Length::fromMm(x0), Length::fromMm(x1), Length::fromMm(y0), Length::fromMm(y1), false};
    const auto upright = [&](const SideRows& side, bool isLeft) {
        for (const auto& [pin, cell] : side.pins) {
            const double y = -(top + cell) * kSymbolGrid, foot = isLeft ? x0 : x1,
                         end = isLeft ? x0 - pinMm : x1 + pinMm;
            SymbolPin p{pin, isLeft ? PinSide::Left : PinSide::Right, at(end, y), at(foot, y), {}, {}};
            const std::string name = pins[pin].names.empty() ? "" : pins[pin].names.front();
            const double w = widthOf(plainName(name));
            p.name = textOf(name, at(isLeft ? foot + kMargin + w / 2 : foot - kMargin - w / 2, y), false);
            p.number = textOf("", at((foot + end) / 2, y + kSymbolText / 2 + 0.35), false);
            p.number.text = pins[pin].number;
            p.number.width = Length::fromMm(widthOf(pins[pin].number));
            block.pins.push_back(std::move(p));
        }
    };
    const auto level = [&](const SideRows& side, bool isTop) {
        // In the middle of the edge, on the grid.
        const int first = (wide - (side.length - 1)) / 2;
        for (const auto& [pin, cell] : side.pins) {
            const double x = x0 + (first + cell) * kSymbolGrid, foot = isTop ? y1 : y0,
                         end = isTop ? y1 + pinMm : y0 - pinMm;
            SymbolPin p{pin, isTop ? PinSide::Top : PinSide::Bottom, at(x, end), at(x, foot), {}, {}};
            const std::string name = pins[pin].names.empty() ? "" : pins[pin].names.front();
            const double w = widthOf(plainName(name));
            p.name = textOf(name, at(x, isTop ? foot - kMargin - w / 2 : foot + kMargin + w / 2), true);
            p.number = textOf("", at(x - kSymbolText / 2 - 0.35, (foot + end) / 2), true);
            p.number.text = pins[pin].number;
            p.number.width = Length::fromMm(widthOf(pins[pin].number));
            block.pins.push_back(std::move(p));
        }
    };
    upright(l, true);
    upright(r, false);
    level(t, true);
    level(b, false);
    return block;
}

void addText(std::vector<Shape>& out, const SymbolText& t, const char* what) {
    if (t.text.empty()) return;
    const Length height = Length::fromMm(kSymbolText), line = Length::fromMm(kSymbolLine);
    std::vector<Shape> strokes = strokeText(t.text, t.middle, height, line, what);
    if (t.bar) {
        const Length y = t.middle.y + height / 2 + Length::fromMm(0.3);
        strokes.push_back(inkLine({{t.middle.x - t.width / 2, y}, {t.middle.x + t.width / 2, y}}, line, what));
    }
    for (Shape& s : strokes) {
        if (t.turned) {
            std::vector<Point> points;
            for (const Point& p : s.points())
                points.push_back({t.middle.x - (p.y - t.middle.y), t.middle.y + (p.x - t.middle.x)});
            s.form = Line{std::move(points), line};
        }
        out.push_back(std::move(s));
    }
}

}  // namespace

std::string plainName(const std::string& name) { return isActiveLow(name) ? name.substr(1) : name; }

std::optional<PinSide> symbolSide(const Pin& pin) {
    if (pin.side != PinSide::ByKind) return pin.side;
    switch (pin.kind) {
        case PinKind::Input: return PinSide::Left;
        case PinKind::Output:
        case PinKind::Bidirectional:
        case PinKind::ThreeState:
        case PinKind::OpenCollector:
        case PinKind::OpenEmitter: return PinSide::Right;
        case PinKind::Supply: return PinSide::Top;
        case PinKind::Return: return PinSide::Bottom;
        case PinKind::NotSaid:
        case PinKind::Passive:
        case PinKind::NotConnected: break;
    }
    return {};
}

BlockSymbol blockSymbol(const std::vector<Pin>& pins, const std::string& reference, const std::string& value) {
    BlockSymbol symbol;
    std::vector<std::string> elements;
    for (const Pin& p : pins)
        if (std::find(elements.begin(), elements.end(), p.element) == elements.end()) elements.push_back(p.element);
    double left = 0;
    for (const std::string& element : elements) {
        std::vector<std::size_t> who;
        for (std::size_t i = 0; i < pins.size(); ++i)
            if (pins[i].element == element) who.push_back(i);
        SymbolBlock block = blockOf(pins, who, element, left);
        const auto around = [&] {
            Rect bounds = block.box;
            for (const SymbolPin& p : block.pins) bounds.add(p.end);
            const std::string words = elements.size() > 1 ? reference + " " + element : reference;
            const Length wide = Length::fromMm(std::max(widthOf(words), symbol.blocks.empty() ? widthOf(value) : 0.0));
            bounds.add(Rect::around(block.box.middle(), wide, {}));
            return bounds;
        };
        // A text that is wider than its block begins left of it.
        if (const double over = left - around().left.mm(); over > 0 && !symbol.blocks.empty())
            block = blockOf(pins, who, element, left + cells(over) * kSymbolGrid);
        const Rect bounds = around();
        left = std::ceil(bounds.right.mm() / kSymbolGrid - 1e-6) * kSymbolGrid + 3 * kSymbolGrid;
        symbol.bounds.add(bounds);
        symbol.blocks.push_back(std::move(block));
    }
    return symbol;
}

namespace {

/// What of the rule's drawing is shown, and what stands under the value.
struct Shown {
    bool block = true;
    std::vector<std::string> under;
};

std::vector<Shape> ruledInk(const BlockSymbol& symbol, const std::string& reference, const std::string& value,
                            const Shown& shown) {
    std::vector<Shape> out;
    const Length line = Length::fromMm(kSymbolLine);
    for (std::size_t i = 0; i < symbol.blocks.size(); ++i) {
        const SymbolBlock& b = symbol.blocks[i];
        const Rect& r = b.box;
        if (shown.block) out.push_back(
            inkLine({{r.left, r.bottom}, {r.right, r.bottom}, {r.right, r.top}, {r.left, r.top}, {r.left, r.bottom}},
                    line * 2.0, "block"));
        bool top = false, bottom = false;
        for (const SymbolPin& p : b.pins) {
            out.push_back(inkLine({p.foot, p.end}, line, "pin"));
            addText(out, p.name, "name");
            addText(out, p.number, "number");
            top = top || p.side == PinSide::Top;
            bottom = bottom || p.side == PinSide::Bottom;
        }
        // Above and below the block, beyond its pins.
        const Length off = Length::fromMm(kSymbolText);
        Length over = r.top + off, under = r.bottom - off;
        for (const SymbolPin& p : b.pins) {
            if (p.side == PinSide::Top) over = max(over, p.end.y + off);
            if (p.side == PinSide::Bottom) under = min(under, p.end.y - off);
        }
        std::string ref = reference;
        if (symbol.blocks.size() > 1) ref += b.element.empty() ? "" : " " + b.element;
        addText(out, {ref, {(r.left + r.right) / 2, over}, false, false, {}}, "reference");
        if (i > 0) continue;
        addText(out, {value, {(r.left + r.right) / 2, under}, false, false, {}}, "value");
        if (!value.empty()) under = under - 1.6 * Length::fromMm(kSymbolText);
        for (const std::string& words : shown.under) {
            addText(out, {words, {(r.left + r.right) / 2, under}, false, false, {}}, "attribute");
            under = under - 1.6 * Length::fromMm(kSymbolText);
        }
    }
    return out;
}

}  // namespace

std::vector<Shape> symbolInk(const BlockSymbol& symbol, const std::string& reference, const std::string& value) {
    return ruledInk(symbol, reference, value, {});
}

std::vector<std::string> shownAttributes(const Part& part) {
    std::vector<std::string> all;
    for (const SymbolAttribute& a : part.symbol.attributes)
        if (a.shown && !a.value.empty()) all.push_back(a.value);
    return all;
}

BlockSymbol blockSymbol(const Part& part) {
    std::string widest = part.symbol.valueShown ? symbolValue(part) : "";
    for (const std::string& words : shownAttributes(part))
        if (widthOf(words) > widthOf(widest)) widest = words;
    return blockSymbol(part.pins, part.symbol.referenceShown ? part.reference : "", widest);
}

std::vector<Shape> symbolInk(const BlockSymbol& symbol, const Part& part) {
    const SymbolDrawing& d = part.symbol;
    std::vector<Shape> out = ruledInk(symbol, d.referenceShown ? part.reference : "", d.valueShown ? symbolValue(part) : "",
                                      {d.block, shownAttributes(part)});
    for (const SymbolShape& s : d.shapes)
        for (std::size_t i = 0; i < symbol.blocks.size(); ++i) {
            if (symbol.blocks[i].element != s.element) continue;
            const auto ink = inkOf(s, symbol.blocks[i].box.middle());
            out.insert(out.end(), ink.begin(), ink.end());
        }
    return out;
}

}  // namespace punch
