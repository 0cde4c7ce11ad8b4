// Symbols by rule: all pins on the grid, no text over another, EDIF whose brackets hold what was put in.

#include <gtest/gtest.h>

#include <cmath>
#include <random>
#include <set>

#include "core/dress/stroke_text.h"
#include "core/part/file.h"
#include "core/pins/pin_table.h"
#include "core/symbol/edif.h"
#include "core/symbol/symbol_drawing.h"
#include "tests/support/parts.h"

namespace punch::symbol_test {
namespace {

Pin pin(const std::string& number, const std::string& name, PinKind kind, const std::string& group = {}) {
    Pin p;
    p.number = number;
    p.names = {name};
    p.kind = kind;
    p.group = group;
    return p;
}

bool onGrid(Length l) { return std::abs(std::remainder(l.mm(), kSymbolGrid)) < 1e-6; }

Rect boxOf(const SymbolText& t) {
    const Length high = Length::fromMm(kSymbolText) + (t.bar ? Length::fromMm(0.6) : Length());
    return t.turned ? Rect::around(t.middle, high, t.width) : Rect::around(t.middle, t.width, high);
}

bool overlap(const Rect& a, const Rect& b) {
    const Length slack = Length::fromUm(1);
    return a.left < b.right - slack && b.left < a.right - slack && a.bottom < b.top - slack && b.bottom < a.top - slack;
}

TEST(BlockSymbol, SidesGoByKind) {
    const std::vector<Pin> pins = {pin("1", "VCC", PinKind::Supply),  pin("2", "IN", PinKind::Input),
                                   pin("3", "/OUT", PinKind::Output), pin("4", "GND", PinKind::Return),
                                   pin("5", "A", PinKind::Passive),   pin("6", "B", PinKind::Passive)};
    const BlockSymbol s = blockSymbol(pins);
    ASSERT_EQ(s.blocks.size(), 1U);
    std::map<std::string, PinSide> sides;
    for (const SymbolPin& p : s.blocks[0].pins) sides[pins[p.pin].number] = p.side;
    EXPECT_EQ(sides, (std::map<std::string, PinSide>{{"1", PinSide::Top},
                                                     {"2", PinSide::Left},
                                                     {"3", PinSide::Right},
                                                     {"4", PinSide::Bottom},
                                                     {"5", PinSide::Left},
                                                     {"6", PinSide::Right}}));
    for (const SymbolPin& p : s.blocks[0].pins) {
        EXPECT_EQ(p.name.bar, pins[p.pin].number == "3");
        if (p.name.bar) {
            EXPECT_EQ(p.name.text, "OUT");
        }
    }
    EXPECT_TRUE(blockSymbol(std::vector<Pin>()).blocks.empty());
}

TEST(BlockSymbol, KeepsTheGridAndTextsApartForAnyPins) {
    std::mt19937 random(12);
    const std::string letters = "WMABCXiIl1";
    for (int round = 0; round < 150; ++round) {
        std::vector<Pin> pins;
        const int count = 1 + static_cast<int>(round < 5 ? 500 : random() % 60);
        for (int i = 0; i < count; ++i) {
            std::string name = random() % 4 == 0 ? "/" : "";
            for (auto k = 1 + random() % (round % 3 == 0 ? 24 : 6); k > 0; --k)
                name += letters[random() % letters.size()];
            Pin p = pin(random() % 5 == 0 ? "AB" + std::to_string(i) : std::to_string(i + 1), name,
                        static_cast<PinKind>(random() % 11), std::string(1, static_cast<char>('a' + random() % 3)));
            p.side = random() % 3 == 0 ? static_cast<PinSide>(random() % 5) : PinSide::ByKind;
            p.element = random() % 4 == 0 ? "supply" : random() % 5 == 0 ? "B" : "";
            pins.push_back(std::move(p));
        }
        const BlockSymbol s = blockSymbol(pins);
        std::set<std::size_t> seen;
        std::set<std::pair<double, double>> ends;
        std::vector<Rect> texts;
        for (const SymbolBlock& b : s.blocks) {
            EXPECT_TRUE(onGrid(b.box.width()) && onGrid(b.box.height()));
            for (const SymbolPin& p : b.pins) {
                EXPECT_TRUE(seen.insert(p.pin).second);
                EXPECT_TRUE(onGrid(p.end.x) && onGrid(p.end.y)) << p.end.x.mm() << " " << p.end.y.mm();
                EXPECT_TRUE(ends.insert({p.end.x.mm(), p.end.y.mm()}).second) << "two ends at one place";
                const Rect name = boxOf(p.name);
                if (!p.name.text.empty()) {
                    EXPECT_TRUE(name.left > b.box.left && name.right < b.box.right && name.bottom > b.box.bottom &&
                                name.top < b.box.top);
                    texts.push_back(name);
                }
                texts.push_back(boxOf(p.number));
            }
        }
        EXPECT_EQ(seen.size(), pins.size());
        std::sort(texts.begin(), texts.end(), [](const Rect& a, const Rect& b) { return a.left < b.left; });
        int clashes = 0;
        for (std::size_t i = 0; i < texts.size(); ++i)
            for (std::size_t k = i + 1; k < texts.size() && texts[k].left < texts[i].right; ++k)
                clashes += overlap(texts[i], texts[k]);
        EXPECT_EQ(clashes, 0) << "round " << round << ", " << count << " pins";
        for (std::size_t i = 0; i < s.blocks.size(); ++i)
            for (std::size_t k = i + 1; k < s.blocks.size(); ++k)
                EXPECT_FALSE(overlap(s.blocks[i].box, s.blocks[k].box));
    }
}

/// EDIF as nested lists.
struct Node {
    std::string word;
    std::vector<Node> inside;
    const Node* find(const std::string& name) const {
        for (const Node& n : inside)
            if (!n.inside.empty() && n.inside[0].word == name) return &n;
        return nullptr;
    }
    void all(const std::string& name, std::vector<const Node*>& out) const {
        for (const Node& n : inside) {
            if (!n.inside.empty() && n.inside[0].word == name) out.push_back(&n);
            n.all(name, out);
        }
    }
};

Node parsed(const std::string& text, std::size_t& i) {
    Node n;
    for (++i; i < text.size();) {
        if (text[i] == '(') {
            n.inside.push_back(parsed(text, i));
        } else if (text[i] == ')') {
            ++i;
            return n;
        } else if (std::isspace(static_cast<unsigned char>(text[i])) != 0) {
            ++i;
        } else {
            std::size_t end = text[i] == '"' ? text.find('"', i + 1) + 1 : text.find_first_of(" ()\n", i);
            n.inside.push_back({text.substr(i, end - i), {}});
            i = end;
        }
    }
    ADD_FAILURE() << "a bracket is missing";
    return n;
}

TEST(BlockSymbol, TextsAboveAndBelowHaveRoomBesideEachOther) {
    std::vector<Pin> pins;
    for (const char* element : {"", "a supply with a very long name", "B", "another one with a long name"}) {
        Pin p = pin(std::to_string(pins.size() + 1), "A", PinKind::Passive);
        p.element = element;
        pins.push_back(p);
    }
    const std::string value = "a value that is much wider than its block";
    const BlockSymbol s = blockSymbol(pins, "X", value);
    // All ink of a text stands apart from that of the next.
    std::vector<std::pair<double, double>> spans;
    for (const SymbolBlock& b : s.blocks) {
        double left = b.box.left.mm(), right = b.box.right.mm();
        for (const SymbolPin& p : b.pins) {
            left = std::min(left, p.end.x.mm());
            right = std::max(right, p.end.x.mm());
        }
        const std::string words = "X " + b.element;
        for (const std::string& text : {words, spans.empty() ? value : words}) {
            const double half = strokeTextWidth(text, Length::fromMm(kSymbolText)).mm() / 2,
                         middle = b.box.middle().x.mm();
            left = std::min(left, middle - half);
            right = std::max(right, middle + half);
        }
        if (!spans.empty()) {
            EXPECT_GT(left, spans.back().second + 0.5) << b.element;
        }
        spans.emplace_back(left, right);
        for (const SymbolPin& p : b.pins) EXPECT_TRUE(onGrid(p.end.x) && onGrid(p.end.y));
    }
}

TEST(Edif, HoldsEveryPinWithNumberNameAndPlace) {
    Part part = test::demoPart();
    part.name = "QB-TB4 \"x\"";
    part.pins = pinsFromText("1 VCC supply\n2 /RESET in\n3 3V in\n4 D+ i/o\n5 D- i/o\n6 reset out\n")->pins;
    part.pins[1].names.push_back("RST");
    const auto edif = symbolEdif(part);
    ASSERT_TRUE(edif) << edif.error().text();
    for (const char c : *edif) ASSERT_LT(static_cast<unsigned char>(c), 0x80);
    std::size_t at = edif->find('(');
    const Node root = parsed(*edif, at);
    EXPECT_EQ(root.inside[0].word, "edif");
    ASSERT_NE(root.find("edifVersion"), nullptr);
    std::vector<const Node*> ports, places, dots;
    root.all("port", ports);
    root.all("portImplementation", places);
    root.all("dot", dots);
    ASSERT_EQ(ports.size(), 6U);
    ASSERT_EQ(places.size(), 6U);
    ASSERT_EQ(dots.size(), 6U);
    std::map<std::string, std::string> names;
    std::set<std::string> ids;
    for (const Node* p : ports) {
        const Node& name = p->inside[1];
        const std::string id = name.inside.empty() ? name.word : name.inside[1].word;
        std::string lower;
        for (const char c : id) lower += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        EXPECT_TRUE(ids.insert(lower).second) << id;
        names[p->find("designator")->inside[1].word] = name.inside.empty() ? name.word : name.inside[2].word;
    }
    EXPECT_EQ(names, (std::map<std::string, std::string>{{"\"1\"", "VCC"},
                                                         {"\"2\"", "\"/RESET\""},
                                                         {"\"3\"", "\"3V\""},
                                                         {"\"4\"", "\"D+\""},
                                                         {"\"5\"", "\"D-\""},
                                                         {"\"6\"", "reset"}}));
    for (const Node* d : dots)
        for (const int k : {1, 2})
            EXPECT_EQ(std::stoi(d->inside[1].inside[static_cast<std::size_t>(k)].word) % 254, 0)
                << "the grid, in 10 µm";
    const auto svg = symbolSvg(part);
    ASSERT_TRUE(svg);
    EXPECT_NE(svg->find("class=\"number\""), std::string::npos);
    part.pins.clear();
    EXPECT_FALSE(symbolEdif(part));
    EXPECT_FALSE(symbolSvg(part));
}

TEST(SymbolDrawing, WordsBecomeShapesAndBackAgain) {
    const auto read = symbolDrawingFromText(
        "without block\nline 0 0  2.54 0, 2.54 1.27\narc 0 0 1 1 2 0 in POWER\ncircle 0 0 1.27 0 filled\n"
        "polygon 0 0 1 0 1 1 filled\ntext 0 2.54 \"N \\\"O\\\"\"\n\nRating = 230 V 5 A shown\nMaterial = PA 66\n");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_FALSE(read->block);
    ASSERT_EQ(read->shapes.size(), 5U);
    EXPECT_EQ(read->shapes[0].places.size(), 3U);
    EXPECT_EQ(read->shapes[1].element, "POWER");
    EXPECT_TRUE(read->shapes[3].filled);
    EXPECT_EQ(read->shapes[4].text, "N \"O\"");
    ASSERT_EQ(read->attributes.size(), 2U);
    EXPECT_TRUE(read->attributes[0].shown);
    EXPECT_EQ(read->attributes[0].value, "230 V 5 A");
    const auto again = symbolDrawingFromText(symbolDrawingText(*read));
    ASSERT_TRUE(again);
    EXPECT_EQ(*again, *read);
    for (const SymbolBeginning& b : symbolBeginnings()) EXPECT_TRUE(symbolDrawingFromText(b.lines)) << b.name;
    for (const char* wrong : {"lime 0 0 1 1", "line 0 0", "line 0 0 1", "circle 0 0", "arc 0 0 1 1", "text 0 0",
                              "line 0 a 1 1", "without pins", "A = 1\nA = 2", "line 0 0 1e9 0"}) {
        const auto bad = symbolDrawingFromText(wrong);
        ASSERT_FALSE(bad) << wrong;
        EXPECT_NE(bad.error().text().find("line "), std::string::npos);
    }
}

TEST(SymbolDrawing, AnArcPassesThroughItsThreePlaces) {
    const auto near = [](const std::vector<Shape>& ink, double x, double y) {
        double least = 1e9;
        for (const Point& p : ink.at(0).points()) least = std::min(least, std::hypot(p.x.mm() - x, p.y.mm() - y));
        return least;
    };
    for (const double sign : {1.0, -1.0}) {
        SymbolShape arc;
        arc.form = SymbolForm::Arc;
        arc.places = {{0, 0}, {1, sign}, {2, 0}};
        const auto ink = inkOf(arc, {});
        EXPECT_LT(near(ink, 0, 0), 1e-6);
        EXPECT_LT(near(ink, 2, 0), 1e-6);
        EXPECT_LT(near(ink, 1, sign), 0.2);
        EXPECT_GT(near(ink, 1, -sign), 0.9);
        // A half circle of radius 1: every point is as far from its middle.
        for (const Point& p : ink[0].points()) EXPECT_NEAR(std::hypot(p.x.mm() - 1, p.y.mm()), 1, 1e-6);
    }
    // Filled strokes stay within the outline.
    SymbolShape circle;
    circle.form = SymbolForm::Circle;
    circle.places = {{0, 0}, {2, 0}};
    circle.filled = true;
    const auto filled = inkOf(circle, {});
    EXPECT_GT(filled.size(), 20U);
    for (const Shape& s : filled)
        for (const Point& p : s.points()) EXPECT_LT(std::hypot(p.x.mm(), p.y.mm()), 2.001);
}

TEST(SymbolDrawing, GoesOutWithTheSymbol) {
    Part part;
    part.name = "HT-SW";
    part.reference = "S";
    for (const char* number : {"1", "2"}) {
        Pin p;
        p.number = number;
        part.pins.push_back(p);
    }
    part.symbol = *symbolDrawingFromText(
        "without block\nline -2.54 0 -1.27 0\nline -1.27 0 1 1\ncircle 0 0 1 0\ntext 0 2 \"NO\"\nRating = 5 A shown\n");
    const std::string edif = *symbolEdif(part);
    EXPECT_NE(edif.find("(annotate (stringDisplay \"NO\""), std::string::npos);
    EXPECT_NE(edif.find("(property Rating (string \"5 A\"))"), std::string::npos);
    EXPECT_NE(edif.find("(circle "), std::string::npos);
    EXPECT_EQ(edif.find("(figure BLOCK"), std::string::npos);
    EXPECT_EQ(std::count(edif.begin(), edif.end(), '('), std::count(edif.begin(), edif.end(), ')'));
    const std::string svg = *symbolSvg(part);
    EXPECT_NE(svg.find("class=\"shape\""), std::string::npos);
    EXPECT_NE(svg.find("class=\"attribute\""), std::string::npos);
    EXPECT_EQ(svg.find("class=\"block\""), std::string::npos);
    const auto back = fromText(toText(part), "x");
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(back->symbol, part.symbol);
}

TEST(SymbolDrawing, GapsByHandMoveThePinAlongItsSide) {
    std::vector<Pin> pins(3);
    for (int i = 0; i < 3; ++i) {
        pins[static_cast<std::size_t>(i)].number = std::to_string(i + 1);
        pins[static_cast<std::size_t>(i)].kind = PinKind::Input;
    }
    const BlockSymbol plain = blockSymbol(pins);
    pins[1].gap = 2;
    const BlockSymbol gapped = blockSymbol(pins);
    const auto y = [](const BlockSymbol& s, std::size_t pin) { return s.blocks[0].pins[pin].end.y.mm(); };
    EXPECT_NEAR(y(gapped, 0), y(plain, 0), 1e-9);
    EXPECT_NEAR(y(gapped, 1), y(plain, 1) - 2 * kSymbolGrid, 1e-9);
    EXPECT_NEAR(y(gapped, 2), y(plain, 2) - 2 * kSymbolGrid, 1e-9);
}

}  // namespace
}  // namespace punch::symbol_test
