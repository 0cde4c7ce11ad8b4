// The kinds of hard pictures.

#include <algorithm>
#include <cmath>
#include <numbers>

#include "demo/maker/hard_painter.h"

namespace punch::maker {

namespace {

struct Layout {
    FormationKind kind = FormationKind::Row;
    std::vector<std::pair<double, double>> places;
    double pitch = 0, width = 0, height = 0;  // mm, of what the places cover
};

constexpr std::array<double, 7> kPitches = {2.0, 2.5, 2.54, 3.5, 3.81, 5.0, 5.08};

Layout rowOf(int count, double pitch) {
    Layout l{FormationKind::Row, {}, pitch, pitch * (count - 1), 0};
    for (int i = 0; i < count; ++i) l.places.emplace_back((i - (count - 1) / 2.0) * pitch, 0.0);
    return l;
}
Layout gridOf(int columns, int rows, double pitch, double gap) {
    Layout l{
        rows == 2 ? FormationKind::TwoRows : FormationKind::Grid, {}, pitch, pitch * (columns - 1), gap * (rows - 1)};
    for (int r = 0; r < rows; ++r)
        for (int i = 0; i < columns; ++i)
            l.places.emplace_back((i - (columns - 1) / 2.0) * pitch, (r - (rows - 1) / 2.0) * gap);
    return l;
}
Layout ringOf(int count, double circle, bool arc) {
    Layout l{FormationKind::Ring, {}, 0, circle, circle};
    for (int i = 0; i < count; ++i) {
        const double a = (arc ? 30 + 120.0 * i / (count - 1) : 360.0 * i / count) * std::numbers::pi / 180;
        l.places.emplace_back(circle / 2 * std::cos(a), circle / 2 * std::sin(a));
    }
    return l;
}

Layout anyLayout(HardPainter& p, double mostWidth) {
    const double pitch = kPitches[static_cast<std::size_t>(p.among(7))];
    const int fit = std::max(3, static_cast<int>(mostWidth / pitch));
    switch (p.among(4)) {
        case 0: return rowOf(std::clamp(3 + p.among(12), 3, fit), pitch);
        case 1: return gridOf(std::clamp(3 + p.among(7), 3, fit), 2, pitch, pitch * (2 + p.among(2)));
        case 2:
            return gridOf(std::clamp(3 + p.among(3), 3, std::min(fit, 5)), 3 + p.among(2), std::min(pitch, 3.81),
                          std::min(pitch, 3.81));
        default:
            return p.sometimes(0.5) ? ringOf(5 + p.among(4), p.between(9, 15), false)
                                    : ringOf(5 + p.among(3), p.between(11, 15), true);
    }
}

struct PartLook {
    double x = 0, y = -5, turn = 0, size = 1, gloss = 0, gap = 0;
    bool round = true;
    double flatHeight = 1;
    Ink body = greyInk(0.04), metal = greyInk(0.55);
    double margin = 2.5;
};

/// Body and pins.
void part(HardPainter& p, const Layout& l, const PartLook& look) {
    const int number = static_cast<int>(p.out.parts.size());
    p.out.parts.push_back(l.kind);
    p.out.pitches.push_back(l.pitch);
    p.body(look.x, look.y, l.width + look.size + 2 * look.margin, l.height + look.size + 2 * look.margin, look.turn,
           look.body);
    const double c = std::cos(look.turn * std::numbers::pi / 180), s = std::sin(look.turn * std::numbers::pi / 180);
    for (const auto& [u, v] : l.places)
        p.pin(number, look.x + c * u - s * v, look.y + s * u + c * v, look.size,
              look.round ? look.size : look.flatHeight, look.turn, look.round, look.metal, look.gloss, look.gap);
}

/// A ruler in one of four positions: below the part with its edge towards or away from it, left or right of it.
void rulerAt(HardPainter& p, int position, RulerKind kind) {
    HardRuler r;
    r.kind = kind;
    r.bodyWidth = p.between(12, 20);
    r.length = std::min(45.0, p.widthMm - 6);
    const double lean = p.between(-1.2, 1.2);
    switch (position) {
        case 0:
            r.x = -r.length / 2;
            r.y = p.heightMm / 2 - 9;
            r.turn = lean;
            break;
        case 1:  // the graduations away from the part, the body between
            r.x = r.length / 2;
            r.y = p.heightMm / 2 - 1.5;
            r.turn = 180 + lean;
            r.bodyWidth = p.between(9, 12);
            break;
        case 2:
            r.length = std::min(r.length, p.heightMm - 6);
            r.x = -p.widthMm / 2 + 9;
            r.y = -r.length / 2;
            r.turn = 90 + lean;
            break;
        default:
            r.length = std::min(r.length, p.heightMm - 6);
            r.x = p.widthMm / 2 - 9;
            r.y = r.length / 2;
            r.turn = 270 + lean;
            break;
    }
    p.ruler(r);
}

PartLook lookBeside(HardPainter& p, int position, double size = 1) {
    PartLook look;
    look.size = size;
    look.x = position == 2 ? 6 : position == 3 ? -6 : p.between(-2, 2);
    look.y = position <= 1 ? -7 : p.between(-2, 2);
    look.turn = p.between(-1.5, 1.5);
    look.gap = p.sometimes(0.5) ? 0.12 : 0;
    look.metal = greyInk(p.between(0.35, 0.7));
    look.body = greyInk(p.between(0.02, 0.06));
    return look;
}

double pinSize(HardPainter& p, const Layout& l) {
    return l.pitch > 0 ? std::min(p.between(0.6, 1.3), 0.45 * l.pitch) : p.between(0.7, 1.2);
}

using Kind = HardPicture (*)(int);

/// A part and a ruler, developed in one way or another.
HardPicture usual(int n, double dpi, Development how, RulerKind ruler, int position, double turn = 0,
                  double gloss = 0) {
    HardPainter p(n, dpi, 56, 46);
    p.camera.turn += turn;
    rulerAt(p, position, ruler);
    const Layout l = anyLayout(p, position <= 1 ? 42 : 28);
    PartLook look = lookBeside(p, position, pinSize(p, l));
    look.gloss = gloss > 0 ? p.between(0.3, gloss) : 0;
    // What fits above the ruler.
    part(p, l, look);
    if (!how.dpiTag && p.sometimes(0.7)) how.dpiTag = dpi;
    return p.develop(how);
}

HardPicture plain(int n) { return usual(n, 600, {}, RulerKind::Steel, n / 30 % 4); }
HardPicture toneNamed(int n) {
    Development d;
    d.toneNamed = true;
    d.blur = 0.8 + 0.1 * (n / 30 % 10);
    return usual(n, 600, d, RulerKind::Steel, 0);
}
HardPicture toneUnnamed(int n) {
    Development d;
    d.blur = 0.8 + 0.1 * (n / 30 % 10);
    return usual(n, 600, d, RulerKind::Steel, 0);
}
HardPicture shiny(int n) { return usual(n, 600, {}, RulerKind::Steel, 0, 0, 1.0); }
HardPicture focusThree(int n) {
    Development d;
    d.defocus = 3;
    return usual(n, 600, d, RulerKind::Steel, 0);
}
HardPicture focusFive(int n) {
    Development d;
    d.defocus = 5;
    d.tone = n % 2 == 0 ? 1 : 2.2;
    return usual(n, 600, d, RulerKind::Steel, 0);
}
HardPicture slanted(int n) {
    HardPainter p(n, 500, 56, 46);
    const double share = p.between(0.005, 0.03), direction = p.between(0, 2 * std::numbers::pi);
    p.camera.slantX = share * std::cos(direction) / 50;
    p.camera.slantY = share * std::sin(direction) / 50;
    rulerAt(p, 0, RulerKind::Steel);
    const Layout l = anyLayout(p, 42);
    part(p, l, lookBeside(p, 0, pinSize(p, l)));
    return p.develop({});
}
HardPicture lettered(int n) {
    HardPainter p(n, 600, 56, 46);
    rulerAt(p, 0, RulerKind::Steel);
    const Layout l = anyLayout(p, 38);
    PartLook look = lookBeside(p, 0, pinSize(p, l));
    look.margin = 5;
    part(p, l, look);
    const Ink faint = greyInk(p.between(0.15, 0.5));
    p.letters(p.sometimes(0.5) ? "O8 B60" : "250V 6A", look.x - l.width / 2, look.y - l.height / 2 - 3.4,
              p.between(1.2, 2.0), 0, faint);
    for (int k = 0; k < 2; ++k) {  // moulding marks of nearly a pin's size
        const double x = look.x + p.between(-0.5, 0.5) * l.width,
                     y = look.y + l.height / 2 + look.size / 2 + p.between(2.2, 3.2);
        p.beside(x, y, look.size * p.between(0.9, 1.1), greyInk(0.3));
    }
    return p.develop({});
}
HardPicture onGround(int n, int which) {
    HardPainter p(n, 400, 56, 46);
    p.ground(greyInk(which == 0 ? 0.5 : which == 1 ? 0.06 : 0.6));
    if (which == 0) p.plate(p.between(3, 5), p.between(1.2, 2));
    if (which == 1) p.mesh(p.between(1.5, 3), p.between(0.3, 0.6));
    if (which == 2) p.cloth(4);
    rulerAt(p, 0, RulerKind::Steel);
    const Layout l = anyLayout(p, 40);
    part(p, l, lookBeside(p, 0, pinSize(p, l)));
    Development d;
    if (p.sometimes(0.5)) d.dpiTag = 400;
    return p.develop(d);
}
HardPicture onPlate(int n) { return onGround(n, 0); }
HardPicture onMesh(int n) { return onGround(n, 1); }
HardPicture onCloth(int n) { return onGround(n, 2); }
HardPicture twoParts(int n) {
    HardPainter p(n, 600, 60, 46);
    rulerAt(p, 0, RulerKind::Steel);
    const int count = 6 + p.among(9);
    const double size = p.between(0.7, 1.0);
    PartLook a = lookBeside(p, 0, size), b = lookBeside(p, 0, size * p.between(0.97, 1.03));
    a.y = -15;
    b.y = -1;
    b.x = p.between(-8, 8);
    b.turn = p.sometimes(0.5) ? a.turn : p.between(-8, 8);
    b.metal = a.metal;
    part(p, rowOf(count, 2.54), a);
    part(p, rowOf(3 + p.among(std::min(count - 3, 4)), p.sometimes(0.5) ? 2.54 : 5.08), b);
    return p.develop({});
}
HardPicture smallBody(int n) {
    HardPainter p(n, 600, 50, 40);
    rulerAt(p, 0, RulerKind::Steel);
    const double size = p.between(0.6, 1.0);
    PartLook look = lookBeside(p, 0, size);
    look.margin = p.between(0.6, 1.2);
    const double pitch = p.sometimes(0.5) ? 2.54 : 3.5;
    part(p, p.sometimes(0.5) ? rowOf(2, pitch) : gridOf(2, 2, pitch, pitch), look);
    return p.develop({});
}
HardPicture whiteBody(int n) {
    HardPainter p(n, 600, 56, 46);
    p.ground(greyInk(p.between(0.2, 0.5)));
    rulerAt(p, 0, RulerKind::Steel);
    const Layout l = anyLayout(p, 40);
    PartLook look = lookBeside(p, 0, pinSize(p, l));
    look.body = greyInk(p.between(0.75, 0.92));
    look.metal = greyInk(p.between(0.2, 0.4));
    look.gap = 0;
    if (p.sometimes(0.4) && l.kind != FormationKind::Ring) {
        look.round = false;
        look.flatHeight = look.size * 0.6;
    }
    part(p, l, look);
    return p.develop({});
}
HardPicture faint(int n) {
    HardPainter p(n, 600, 56, 46);
    rulerAt(p, 0, RulerKind::Steel);
    const Layout l = anyLayout(p, 40);
    PartLook look = lookBeside(p, 0, pinSize(p, l));
    look.gap = 0;
    look.body = greyInk(std::pow(45 / 255.0, 2.2));
    look.metal = greyInk(std::pow((45 + p.between(10, 24)) / 255.0, 2.2));
    part(p, l, look);
    return p.develop({});
}
HardPicture halfMillimetres(int n) { return usual(n, 600, {}, RulerKind::HalfMillimetres, n / 30 % 4); }
HardPicture inches(int n) { return usual(n, 600, {}, RulerKind::InchSixteenths, n / 30 % 4); }
HardPicture lightOnDark(int n) { return usual(n, 600, {}, RulerKind::LightOnDark, n / 30 % 4); }
HardPicture clearRuler(int n) { return usual(n, 600, {}, RulerKind::Clear, n / 30 % 4); }
HardPicture turnedAway(int n) { return usual(n, 600, {}, RulerKind::Steel, 1); }
HardPicture wrongTag(int n) {
    Development d;
    constexpr std::array<double, 6> tags = {300, 1200, 72, 96, 150, 200};
    d.dpiTag = tags[static_cast<std::size_t>(n / 30 % 6)];
    return usual(n, 600, d, RulerKind::Steel, n / 30 % 4);
}
HardPicture blades(int n) {
    HardPainter p(n, 600, 56, 46);
    rulerAt(p, n / 30 % 4 == 0 ? 2 : 0, RulerKind::Steel);
    PartLook look = lookBeside(p, 0, 0.5);
    look.round = false;
    look.flatHeight = 1.8;
    look.x = n / 30 % 4 == 0 ? 5 : look.x;
    look.margin = 2;
    part(p, rowOf(14, 2.5), look);
    return p.develop({});
}
HardPicture cutOff(int n) {
    HardPainter p(n, 600, 36, 40);
    rulerAt(p, 0, RulerKind::Steel);
    PartLook look = lookBeside(p, 0, p.between(0.7, 1.1));
    const Layout l = rowOf(12, 2.54);
    look.x = p.widthMm / 2 - 10 + p.between(0, 2);
    part(p, l, look);
    auto out = p.develop({});
    std::erase_if(out.pins, [&](const TruePin& t) {
        const double room = t.width / 2 / out.mmPerPixelX;
        return t.at.x > out.picture.width - 1 - room || t.at.x < room;
    });
    out.kind = "cut off";
    return out;
}
HardPicture turned(int n) { return usual(n, 600, {}, RulerKind::Steel, 0, n % 2 == 0 ? 15 : -12); }
HardPicture coloured(int n) {
    HardPainter p(n, 400, 56, 46, true);
    rulerAt(p, 0, RulerKind::Steel);
    const Layout l = anyLayout(p, 40);
    PartLook look = lookBeside(p, 0, pinSize(p, l));
    look.gap = 0;
    look.metal = {0.50f, 0.33f, 0.07f};  // gold
    // Green of the same brightness.
    const double bright = 0.2126 * 0.50 + 0.7152 * 0.33 + 0.0722 * 0.07;
    look.body = {0.05f, static_cast<float>((bright - 0.2126 * 0.05 - 0.0722 * 0.12) / 0.7152), 0.12f};
    part(p, l, look);
    return p.develop({});
}
HardPicture fine(int n) {
    HardPainter p(n, 600, 50, 40);
    rulerAt(p, 0, RulerKind::Steel);
    PartLook look = lookBeside(p, 0, p.between(0.38, 0.5));
    look.gap = 0;
    part(p, p.sometimes(0.5) ? rowOf(6 + p.among(8), 2.0) : gridOf(6, 2, 2.54, 5.08), look);
    return p.develop({});
}
HardPicture threeHundred(int n) { return usual(n, 300, {}, RulerKind::Steel, n / 30 % 4); }
HardPicture twelveHundred(int n) {
    HardPainter p(n, 1200, 34, 28);
    HardRuler r;
    r.x = -14;
    r.y = 8;
    r.length = 28;
    p.ruler(r);
    PartLook look = lookBeside(p, 0, p.between(0.4, 1.0));
    look.y = -4;
    part(p, rowOf(5 + p.among(4), 2.54), look);
    Development d;
    d.blur = p.between(1, 2);
    d.dpiTag = 1200;
    return p.develop(d);
}
HardPicture thickEnds(int n) {
    HardPainter p(n, 600, 56, 46);
    rulerAt(p, 0, RulerKind::Steel);
    const double size = p.between(0.6, 0.8);
    PartLook look = lookBeside(p, 0, size);
    const Layout l = rowOf(6 + p.among(6), 3.81);
    p.out.parts.push_back(l.kind);
    p.out.pitches.push_back(l.pitch);
    p.body(look.x, look.y, l.width + 6, 7, look.turn, look.body);
    const double c = std::cos(look.turn * std::numbers::pi / 180), s = std::sin(look.turn * std::numbers::pi / 180);
    for (std::size_t i = 0; i < l.places.size(); ++i) {
        const double u = l.places[i].first, d = i == 0 || i + 1 == l.places.size() ? 1.5 * size : size;
        p.pin(0, look.x + c * u, look.y + s * u, d, d, 0, true, look.metal, 0, look.gap);
    }
    return p.develop({});
}
HardPicture withGaps(int n) {
    HardPainter p(n, 600, 56, 46);
    rulerAt(p, 0, RulerKind::Steel);
    Layout l = gridOf(4 + p.among(4), 3, 3.81, 3.81);
    l.places.erase(l.places.begin() + 1 + p.among(static_cast<int>(l.places.size()) - 2));
    part(p, l, lookBeside(p, 0, p.between(0.7, 1.1)));
    return p.develop({});
}

const std::vector<std::pair<std::string, Kind>>& kinds() {
    static const std::vector<std::pair<std::string, Kind>> all = {
        {"plain", plain},
        {"tone named", toneNamed},
        {"tone unnamed", toneUnnamed},
        {"gloss", shiny},
        {"focus 3 px", focusThree},
        {"focus 5 px", focusFive},
        {"slanted", slanted},
        {"letters", lettered},
        {"on a plate", onPlate},
        {"on a mesh", onMesh},
        {"on cloth", onCloth},
        {"two parts", twoParts},
        {"small body", smallBody},
        {"white body", whiteBody},
        {"faint", faint},
        {"half mm", halfMillimetres},
        {"inches", inches},
        {"light on dark", lightOnDark},
        {"clear ruler", clearRuler},
        {"turned away", turnedAway},
        {"wrong dpi", wrongTag},
        {"blades", blades},
        {"cut off", cutOff},
        {"turned 15°", turned},
        {"gold on green", coloured},
        {"pins of 0.4", fine},
        {"300 dpi", threeHundred},
        {"1200 dpi", twelveHundred},
        {"thick ends", thickEnds},
        {"gaps", withGaps},
    };
    return all;
}

}  // namespace

const std::vector<std::string>& hardKinds() {
    static const std::vector<std::string> names = [] {
        std::vector<std::string> out;
        for (const auto& [name, make] : kinds()) out.push_back(name);
        return out;
    }();
    return names;
}

HardPicture hardPicture(int number) {
    const auto& [name, make] = kinds()[static_cast<std::size_t>(number) % kinds().size()];
    HardPicture made = make(number);
    made.kind = name;
    return made;
}

}  // namespace punch::maker
