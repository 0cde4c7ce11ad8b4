#include "core/symbol/edif.h"

#include <fmt/format.h>

#include <cctype>
#include <cmath>
#include <set>

#include "core/part/names.h"
#include "core/version.h"

namespace punch {
namespace {

/// A text as EDIF keeps it: ASCII, quotes and everything else as %code%.
std::string edifString(const std::string& text) {
    std::string out = "\"";
    for (const char c : text) {
        const auto u = static_cast<unsigned char>(c);
        if (u < 0x20 || u > 0x7E || c == '"' || c == '%')
            out += fmt::format("%{}%", u);
        else
            out += c;
    }
    return out + "\"";
}

/// An identifier of its own: letters, digits, underscores, at most 255; "&" before what begins otherwise.
std::string identifier(const std::string& text, std::set<std::string>& used) {
    std::string id;
    for (const char c : text) id += std::isalnum(static_cast<unsigned char>(c)) != 0 ? c : '_';
    if (id.size() > 200) id.resize(200);
    if (id.empty() || std::isalpha(static_cast<unsigned char>(id[0])) == 0) id.insert(0, "&");
    // EDIF tells no case apart.
    const auto key = [](std::string s) {
        for (char& c : s) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        return s;
    };
    std::string now = id;
    for (int k = 2; !used.insert(key(now)).second; ++k) now = fmt::format("{}_{}", id, k);
    return now;
}

std::string named(const std::string& text, std::set<std::string>& used) {
    const std::string id = identifier(text, used);
    return id == text ? id : fmt::format("(rename {} {})", id, edifString(text));
}

long unitsOf(Length l) { return std::lround(l.mm() * 100); }

std::string pt(Point p) { return fmt::format("(pt {} {})", unitsOf(p.x), unitsOf(p.y)); }

const char* direction(PinKind kind) {
    switch (kind) {
        case PinKind::Input:
        case PinKind::Supply:
        case PinKind::Return: return "INPUT";
        case PinKind::Output:
        case PinKind::ThreeState:
        case PinKind::OpenCollector:
        case PinKind::OpenEmitter: return "OUTPUT";
        default: return "INOUT";
    }
}

const char* justified(PinSide side) {
    return side == PinSide::Left    ? "CENTERLEFT"
           : side == PinSide::Right ? "CENTERRIGHT"
           : side == PinSide::Top   ? "CENTERRIGHT"
                                    : "CENTERLEFT";
}

/// A shape in EDIF's own figures.
std::string figureOf(const SymbolShape& s, Point middle) {
    const auto at = [&](SymbolPlace p) { return pt({middle.x + Length::fromMm(p.x), middle.y + Length::fromMm(p.y)}); };
    std::string places;
    for (const SymbolPlace& p : s.places) places += (places.empty() ? "" : " ") + at(p);
    switch (s.form) {
        case SymbolForm::Line: return fmt::format("            (figure SHAPES (path (pointList {})))\n", places);
        case SymbolForm::Arc:
            return s.places.size() < 3 ? ""
                                       : fmt::format("            (figure SHAPES (openShape (curve (arc {} {} {}))))\n",
                                                     at(s.places[0]), at(s.places[1]), at(s.places[2]));
        case SymbolForm::Circle: {
            // By two places that lie across from each other.
            if (s.places.size() < 2) return "";
            const SymbolPlace &c = s.places[0], &r = s.places[1];
            return fmt::format("            (figure SHAPES (circle {} {}))\n", at(r),
                               at({2 * c.x - r.x, 2 * c.y - r.y}));
        }
        case SymbolForm::Polygon: return fmt::format("            (figure SHAPES (polygon (pointList {})))\n", places);
        case SymbolForm::Text:
            return s.places.empty()
                       ? ""
                       : fmt::format(
                             "            (annotate (stringDisplay {} (display TEXTS (justify CENTERCENTER) "
                             "(orientation R0) (origin {}))))\n",
                             edifString(s.text), at(s.places[0]));
    }
    return "";
}

}  // namespace

Result<std::string> symbolEdif(const Part& part, const std::vector<std::string>& says) {
    if (part.pins.empty()) return problem("it has no pins: there is no symbol", part.name, "Name its pins first");
    const BlockSymbol symbol = blockSymbol(part);
    std::set<std::string> cells;
    std::string out =
        fmt::format("(edif {}\n  (edifVersion 2 0 0)\n  (edifLevel 0)\n  (keywordMap (keywordLevel 0))\n", [&] {
            std::set<std::string> own;
            return named(part.name, own);
        }());
    out += fmt::format("  (status (written (timeStamp 2000 1 1 0 0 0) (program \"Punchbit\" (version {}))))\n",
                       edifString(kVersion));
    for (const std::string& line : says) out += fmt::format("  (comment {})\n", edifString(line));
    out +=
        "  (library SYMBOLS\n    (edifLevel 0)\n    (technology (numberDefinition (scale 1 (e 1 -5) (unit DISTANCE)))\n"
        "      (figureGroup PINS) (figureGroup BLOCK) (figureGroup SHAPES) (figureGroup TEXTS))\n";
    for (const SymbolBlock& block : symbol.blocks) {
        const std::string name = block.element.empty() ? part.name : part.name + " " + block.element;
        out += fmt::format(
            "    (cell {}\n      (cellType GENERIC)\n      (view SYMBOL\n        (viewType SCHEMATIC)\n        "
            "(interface\n",
            named(name, cells));
        std::set<std::string> used;
        std::vector<std::string> ports;
        for (const SymbolPin& p : block.pins) {
            const Pin& pin = part.pins[p.pin];
            const std::string words = pin.names.empty() ? "pin " + pin.number : pin.names.front();
            std::string id = named(words, used);
            std::string ref = id.starts_with("(rename ") ? id.substr(8, id.find(' ', 8) - 8) : id;
            out += fmt::format("          (port {} (direction {}) (designator {})", id, direction(pin.kind),
                               edifString(pin.number));
            if (pin.kind != PinKind::NotSaid)
                out += fmt::format(" (property KIND (string {}))", edifString(std::string(nameOf(pin.kind))));
            if (!pin.group.empty()) out += fmt::format(" (property GROUP (string {}))", edifString(pin.group));
            for (std::size_t k = 1; k < pin.names.size(); ++k)
                out += fmt::format(" (comment {})", edifString("also " + pin.names[k]));
            out += ")\n";
            ports.push_back(std::move(ref));
        }
        out += fmt::format("          (designator {})\n", edifString(part.reference));
        out += fmt::format("          (symbol\n            (boundingBox (rectangle {} {}))\n",
                           pt({block.box.left, block.box.bottom}), pt({block.box.right, block.box.top}));
        for (std::size_t i = 0; i < block.pins.size(); ++i) {
            const SymbolPin& p = block.pins[i];
            out += fmt::format(
                "            (portImplementation\n              (name {} (display TEXTS (justify {}) (orientation {}) "
                "(origin {})))\n",
                ports[i], justified(p.side), p.name.turned ? "R90" : "R0", pt(p.name.middle));
            out += fmt::format(
                "              (connectLocation (figure PINS (dot {})))\n              (figure PINS (path (pointList "
                "{} {}))))\n",
                pt(p.end), pt(p.end), pt(p.foot));
        }
        for (const SymbolShape& s : part.symbol.shapes)
            if (s.element == block.element) out += figureOf(s, block.box.middle());
        if (part.symbol.block)
            out += fmt::format("            (figure BLOCK (rectangle {} {}))\n", pt({block.box.left, block.box.bottom}),
                               pt({block.box.right, block.box.top}));
        out += "          )\n";
        std::set<std::string> properties;
        for (const SymbolAttribute& a : part.symbol.attributes)
            out += fmt::format("          (property {} (string {}))\n", named(a.name, properties), edifString(a.value));
        out += "        )))\n";
    }
    return out + "  )\n)\n";
}

Result<std::string> symbolSvg(const Part& part) {
    if (part.pins.empty()) return problem("it has no pins: there is no symbol", part.name, "Name its pins first");
    const std::vector<Shape> ink = symbolInk(blockSymbol(part), part);
    const Rect box = boundsOf(ink).grown(Length::fromMm(2.54));
    std::string out = fmt::format(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0:.3f}mm\" height=\"{1:.3f}mm\" viewBox=\"0 0 {0:.3f} "
        "{1:.3f}\">\n",
        box.width().mm(), box.height().mm());
    out += "<g fill=\"none\" stroke=\"#24333A\" stroke-linecap=\"round\" stroke-linejoin=\"round\">\n";
    for (const Shape& s : ink) {
        out += fmt::format("<polyline class=\"{}\" stroke-width=\"{:.3g}\" points=\"", s.name, s.line()->width.mm());
        for (const Point& p : s.points())
            out += fmt::format("{:.4f},{:.4f} ", (p.x - box.left).mm(), (box.top - p.y).mm());
        out.back() = '"';
        out += "/>\n";
    }
    return out + "</g>\n</svg>\n";
}

}  // namespace punch
