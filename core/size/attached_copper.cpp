#include "core/size/attached_copper.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <numbers>

#include "core/base/find_in.h"
#include "core/part/drawing_value.h"
#include "core/part/mark_kinds.h"
#include "core/size/surface_lands.h"

namespace punch {
namespace {

constexpr int kMostVias = 1000;
constexpr std::size_t kMostHulls = 200;  // of a logo's parts
const Length kSlack = Length::fromUm(0.5);

int countOf(const Mark& mark, const char* key) {
    const std::string typed = valueOf(mark, key);
    int n = 0;
    std::from_chars(typed.data(), typed.data() + typed.size(), n);
    return n;
}

/// What is there besides marks.
struct Metal {
    std::vector<Conductor> copper;  ///< pads and the lands of lugs
    Polygons noVia;                 ///< holes and cut-outs, larger by what a via's copper keeps off them
};

/// The identifier that a mark's copper carries: of the pad it is joined to, else its own.
std::string joinedTo(const Mark& mark) {
    const std::string pad = markField(mark.kind, "pad") == nullptr ? std::string() : valueOf(mark, "pad");
    return pad.empty() ? mark.id : pad;
}

/// Lays the copper of one mark.
class Laying {
public:
    Laying(const Part& part, const Metal& metal, AttachedCopper& out, const Mark& mark, const LaidMark& laid)
        : part_(part), metal_(metal), out_(out), mark_(mark), laid_(laid) {}

    void run() {
        switch (mark_.kind) {
            case MarkKind::CopperArea: return area();
            case MarkKind::Opening: return opening();
            case MarkKind::SurfaceLands: return lands();
            case MarkKind::Fiducial: return fiducial();
            case MarkKind::CutOut: return rim();
            case MarkKind::Logo: return logo();
            default: return;
        }
    }
    /// After all openings are known: vias keep off paste.
    void vias();

private:
    void say(const std::string& words) { out_.words.emplace(mark_.id, words); }
    Length length(const char* key) const {
        const auto it = laid_.lengths.find(key);
        return it == laid_.lengths.end() ? Length() : it->second;
    }
    /// Of the pad that its field "pad" names; else its own.
    Conductor joined(Point at) const {
        Conductor c;
        const std::string pad = markField(mark_.kind, "pad") == nullptr ? std::string() : valueOf(mark_, "pad");
        const Conductor* of = findIn(metal_.copper, [&](const Conductor& p) { return p.id == pad; });
        c.id = of != nullptr ? of->id : mark_.id;
        c.number = of != nullptr ? of->number : mark_.name;
        if (of != nullptr) c.formation = of->formation;
        c.at = at;
        c.firm = laid_.firm && (of == nullptr || of->firm);
        c.sized = true;
        return c;
    }
    std::pair<bool, bool> sides() const {
        const std::string side = valueOf(mark_, "side");
        return {side != "solder side", side != "part side"};
    }
    void open(bool top, Polygons area) {
        std::vector<RoundedPolygon> pieces = convexPieces(area, kSlack);
        out_.openings.push_back({mark_.id, top, laid_.firm, std::move(area), std::move(pieces)});
    }

    void area() {
        const Polygons area = polygonsOf(*laid_.area);
        const auto [top, bottom] = sides();
        for (const RoundedPolygon& piece : laid_.cores.size() == 1 ? laid_.cores : convexPieces(area, kSlack)) {
            Conductor c = joined(boundsOf(piece).middle());
            // A land on one side alone; one on both would need a hole to be one.
            for (const bool on : {true, false}) {
                if (!(on ? top : bottom)) continue;
                Conductor side = c;
                side.layers = on ? PadLayers::Top : PadLayers::Bottom;
                (on ? side.top : side.bottom) = polygonLand(piece);
                side.tented = true;
                out_.lands.push_back(side);
            }
        }
        if (flagOf(mark_, "open"))
            for (const bool on : {true, false})
                if (on ? top : bottom) open(on, grown(area, part_.rules.fab.maskMargin));
    }

    void opening() {
        const Polygons area = polygonsOf(*laid_.area);
        const auto [top, bottom] = sides();
        const std::string paste = valueOf(mark_, "paste");
        for (const bool on : {true, false}) {
            if (!(on ? top : bottom)) continue;
            open(on, area);
            if (paste == "all") out_.pastes.push_back({mark_.id, on, laid_.firm, area});
            if (paste != "windows") continue;
            const int across = countOf(mark_, "across"), down = countOf(mark_, "down");
            for (const Rect& window :
                 pasteWindows(boundsOf(area), across, down, length("web"), countOf(mark_, "share") / 100.0)) {
                const Polygons part = common(area, polygonsOf(rectangleRing(window)));
                if (!part.empty()) out_.pastes.push_back({mark_.id, on, laid_.firm, part});
            }
        }
    }

    /// Copper beside a plated edge, on both sides.
    void rim() {
        if (!flagOf(mark_, "plated")) return;
        const Length wide = length("rim");
        if (wide <= Length()) return say("its plated edge has no land around it");
        const Polygons cut = polygonsOf(*laid_.area, Chords::Outside);
        for (const RoundedPolygon& piece : convexPieces(without(grown(cut, wide), cut), kSlack))
            for (const bool top : {true, false}) {
                Conductor c = joined(boundsOf(piece).middle());
                c.layers = top ? PadLayers::Top : PadLayers::Bottom;
                (top ? c.top : c.bottom) = polygonLand(piece);
                c.tented = true;
                out_.lands.push_back(c);
            }
        for (const bool top : {true, false}) open(top, grown(cut, wide + part_.rules.fab.maskMargin));
    }

    /// Etched, or an opening of the mask. Thousands of corners would be as many convex pieces: for distances a hull
    /// around each of its parts stands in, which is never further off.
    void logo() {
        const std::string layer = valueOf(mark_, "layer");
        const bool below = layer.starts_with("bottom");
        if (!layer.ends_with("copper") && !layer.ends_with("mask")) return;
        Polygons figure = below ? mirroredAbout(laid_.figure, laid_.points.front().x) : laid_.figure;
        std::vector<RoundedPolygon> hulls;
        for (const Area& part : areasOf(figure))
            hulls.push_back(hullOf({RoundedPolygon{flattened(part.outer, chordError()), Length()}}));
        if (hulls.size() > kMostHulls) hulls = {hullOf(hulls)};
        if (layer.ends_with("mask")) {
            out_.openings.push_back({mark_.id, !below, laid_.firm, std::move(figure), std::move(hulls)});
            return;
        }
        for (const RoundedPolygon& hull : hulls) {
            Conductor c = joined(boundsOf(hull).middle());
            c.layers = below ? PadLayers::Bottom : PadLayers::Top;
            (below ? c.bottom : c.top) = polygonLand(hull);
            c.tented = c.outlined = true;
            out_.lands.push_back(c);
        }
        out_.figures.push_back({mark_.id, mark_.name, !below, laid_.firm, std::move(figure)});
    }

    void fiducial() {
        const Length size = length("diameter"), ring = length("ring");
        if (size <= Length()) return say("it has no size");
        Conductor c = joined(laid_.points.front());
        c.id = mark_.id;
        c.number = mark_.name;
        c.layers = valueOf(mark_, "side") == "solder side" ? PadLayers::Bottom : PadLayers::Top;
        (c.layers == PadLayers::Top ? c.top : c.bottom) = {LandShape::Round, c.at, size, size, {}, {}};
        c.maskMargin = (ring - size) / 2;
        c.fiducial = true;
        c.local = valueOf(mark_, "reach") == "this part";
        out_.lands.push_back(c);
    }

    std::optional<Limits> limits(const char* key) {
        const auto value = parseDrawingValue(valueOf(mark_, key), Unit::Mm);
        if (!value) {
            say(std::string(markField(mark_.kind, key)->label) + ": " + value.error().what);
            return {};
        }
        if (value->low < Length()) {
            say(std::string(markField(mark_.kind, key)->label) + " reaches below nothing");
            return {};
        }
        return Limits{value->low, value->high};
    }
    void lands();
    bool compare(SurfaceLands& computed);
    void land(Point at, Length along, Length across, bool upright, int number);

    const Part& part_;
    const Metal& metal_;
    AttachedCopper& out_;
    const Mark& mark_;
    const LaidMark& laid_;
};

/// One land: `along` its row's outward direction, `across` it.
void Laying::land(Point at, Length along, Length across, bool upright, int number) {
    Conductor c;
    const double turn = laid_.angle("turn");
    c.at = turned(at, laid_.points.front(), turn);
    c.number = std::to_string(number);
    c.id = mark_.id + "/" + c.number;
    c.layers = valueOf(mark_, "side") == "solder side" ? PadLayers::Bottom : PadLayers::Top;
    Land land{LandShape::Rectangle,     c.at, upright ? across : along,
              upright ? along : across, {},   Angle::fromDegrees(turn)};
    (c.layers == PadLayers::Top ? c.top : c.bottom) = land;
    c.maskMargin = part_.rules.fab.maskMargin;
    c.firm = laid_.firm;
    c.sized = true;
    out_.lands.push_back(c);
    out_.pastes.push_back({mark_.id, c.layers == PadLayers::Top, c.firm, polygonsOf(copperShape(land))});
}

/// What the drawing recommends beside what the equations give; taken where that is asked. False when it cannot be.
bool Laying::compare(SurfaceLands& s) {
    const bool take = valueOf(mark_, "lands") != "by IPC-7351";
    const auto drawn = [&](const char* key) -> std::optional<Length> {
        if (valueOf(mark_, key).empty()) return {};
        const auto value = limits(key);
        if (!value) return {};
        return (value->least + value->most) / 2;
    };
    const auto over = drawn("drawnOver"), between = drawn("drawnBetween"), width = drawn("drawnWidth");
    Chain& chain = out_.chains["lands:" + mark_.id];
    std::string note;
    const auto beside = [&](const char* words, std::optional<Length> is, Length computed) {
        if (!is) return;
        const Length more = *is - computed;
        chain.push_back({std::string("the drawing's ") + words,
                         more < Length() ? "{} less than computed" : "{} more than computed",
                         {abs(more)},
                         *is,
                         ChainStep::Link::None,
                         "",
                         0});
        note += fmt::format("{}{} {:+.2f}", note.empty() ? "the drawing's lands: " : ", ", words,
                            std::round(more.mm() * 100) / 100 + 0.0);
    };
    beside("over both", over, s.z);
    beside("between", between, s.g);
    beside("width", width, s.x);
    if (!note.empty()) out_.notes[mark_.id] = note + " mm";
    if (!take) return true;
    if (!over || !between || !width || *over <= *between || *width <= Length()) {
        say("of the drawing's lands the sizes over both, between and width are needed");
        return false;
    }
    s.length = (*over - *between) / 2;
    s.apart = (*over + *between) / 2;
    s.width = *width;
    return true;
}

void Laying::lands() {
    struct Package {
        const char* words;
        LeadForm form;
        int sides;
    };
    static const Package packages[] = {{"chip", LeadForm::Chip, 1},
                                       {"gull wing, two sides", LeadForm::GullWing, 2},
                                       {"gull wing, four sides", LeadForm::GullWing, 4},
                                       {"J lead, two sides", LeadForm::JLead, 2},
                                       {"J lead, four sides", LeadForm::JLead, 4},
                                       {"flat lead, two sides", LeadForm::FlatLead, 2},
                                       {"no-lead, two sides", LeadForm::NoLead, 2},
                                       {"no-lead, four sides", LeadForm::NoLead, 4},
                                       {"half holes, two sides", LeadForm::Castellated, 2},
                                       {"half holes, four sides", LeadForm::Castellated, 4}};
    const std::string words = valueOf(mark_, "package");
    const auto* package =
        std::find_if(std::begin(packages), std::end(packages), [&](const Package& p) { return words == p.words; });
    const auto overall = limits("overall"), terminal = limits("terminal"), width = limits("width");
    if (package == std::end(packages) || !overall || !terminal || !width) return;
    PackageSize size{*overall,           *terminal, *width, package->form, Density::B, length("fabrication"),
                     length("placement")};
    const std::string density = valueOf(mark_, "density");
    size.density = density == "A" ? Density::A : density == "C" ? Density::C : Density::B;
    const bool chip = package->sides == 1;
    const Length pitch = chip ? Length() : length("pitch");
    if (size.form == LeadForm::GullWing && pitch <= Length::fromMm(0.625)) size.form = LeadForm::FineGullWing;
    // 1.6 x 0.8 and larger have larger goals.
    if (chip && ((overall->least + overall->most) / 2 < Length::fromMm(1.6) ||
                 (width->least + width->most) / 2 < Length::fromMm(0.8)))
        size.form = LeadForm::SmallChip;
    const int count = chip ? 1 : countOf(mark_, "count");
    if (count < 1 || count > 200) return say("it has 1 to 200 terminals on a side");
    if (!chip && count > 1 && pitch <= Length()) return say("its pitch is nothing");
    if (!chip && count > 1 && width->most > pitch) return say("its terminals overlap: they are wider than their pitch");
    if (terminal->most + terminal->most > overall->least)
        return say("its terminals overlap: they are longer than half of it");
    SurfaceLands s = surfaceLands(size, count > 1 ? pitch : Length(), part_.rules.fab.leastGap);
    out_.chains["lands:" + mark_.id] = s.chain;
    const Density around = part_.dress.density;
    out_.courtyards[mark_.id] = Length::fromMm(goalsOf(size.form).courtyard[around == Density::B   ? 1
                                                                            : around == Density::C ? 2
                                                                                                   : 0]);
    if (!s.trimmed.empty()) say(s.trimmed);
    if (!compare(s)) return;
    const Point middle = laid_.points.front();
    int number = std::max(countOf(mark_, "start"), 1);
    const auto row = [&](double dx, double dy, const SurfaceLands& l) {
        // Counter-clockwise: down the left side, on along the front, up the right one, back along the rear.
        for (int i = 0; i < count; ++i) {
            const Length along = pitch * ((count - 1) / 2.0 - i);
            const Point at{middle.x + dx * (l.apart / 2) + dy * along, middle.y + dy * (l.apart / 2) - dx * along};
            land(at, l.length, l.width, dy != 0, number++);
        }
    };
    SurfaceLands other = s;
    if (package->sides == 4) {
        if (!valueOf(mark_, "overall2").empty()) {
            const auto overall2 = limits("overall2");
            if (!overall2) return;
            size.overall = *overall2;
            other = surfaceLands(size, pitch, part_.rules.fab.leastGap);
            if (valueOf(mark_, "lands") != "by IPC-7351") {
                // The drawing's lands stand as far out as its package is longer this way.
                other.apart = s.apart + ((overall2->least + overall2->most) - (overall->least + overall->most)) / 2;
                other.length = s.length;
                other.width = s.width;
            }
        }
        row(-1, 0, s);
        row(0, -1, other);
        row(1, 0, s);
        row(0, 1, other);
    } else {
        row(-1, 0, s);
        row(1, 0, s);
    }
    const Length tabX = length("tabWidth"), tabY = length("tabLength");
    if (tabX > Length() && tabY > Length()) {
        land(middle, tabX, tabY, false, number);
        // Paste on a large land comes in windows, or the part floats.
        out_.pastes.pop_back();
        const int across = std::max(1, static_cast<int>(std::lround(tabX.mm() / 1.5))),
                  down = std::max(1, static_cast<int>(std::lround(tabY.mm() / 1.5)));
        const bool top = valueOf(mark_, "side") != "solder side";
        for (const Rect& w : pasteWindows(Rect::around(middle, tabX, tabY), across, down, Length::fromMm(0.3), 0.6))
            out_.pastes.push_back(
                {mark_.id, top, laid_.firm, polygonsOf(turned(rectangleRing(w), middle, laid_.angle("turn")))});
    }
}

void Laying::vias() {
    const Length hole = length("hole"), land = length("land"), pitch = length("pitch"), edge = length("edge");
    if (hole <= Length() || land <= hole) return say("its lands are no larger than their holes");
    if (pitch < land) return say("its vias overlap: the pitch is less than their lands");
    const Polygons area = polygonsOf(*laid_.area);
    const Polygons inner = grown(area, -(land / 2 + edge));
    const Rect box = boundsOf(inner);
    if (box.empty) return say("there is no room for a via in it");
    const auto along = [&](Length size) { return static_cast<int>(std::floor(size / pitch + 1e-9)) + 1; };
    const int nx = along(box.width()), ny = along(box.height());
    if (1.0 * nx * ny > kMostVias) return say(fmt::format("more than {} vias: choose a larger pitch", kMostVias));
    Polygons pastes;
    for (const MarkPaste& p : out_.pastes)
        for (const auto& ring : p.area) pastes.push_back(ring);
    const Polygons off = grown(united(pastes), land / 2 + Length::fromMm(0.1));
    const Polygons taken = grown(metal_.noVia, land / 2);
    int dropped = 0, made = 0;
    for (int j = 0; j < ny; ++j)
        for (int i = 0; i < nx; ++i) {
            const Point at{box.middle().x + pitch * (i - (nx - 1) / 2.0),
                           box.middle().y + pitch * (j - (ny - 1) / 2.0)};
            if (!contains(inner, at) || contains(taken, at)) continue;
            if (flagOf(mark_, "offPaste") && !off.empty() && contains(off, at)) {
                ++dropped;
                continue;
            }
            Conductor c = joined(at);
            c.layers = PadLayers::Through;
            c.top = c.inner = c.bottom = {LandShape::Round, at, land, land, {}, {}};
            c.hole = hole;
            c.holeLargest = hole;  // no lead has to go in
            c.tented = valueOf(mark_, "top") == "tented";
            c.tentedBelow = valueOf(mark_, "bottom") == "tented";
            c.maskMargin = part_.rules.fab.maskMargin;
            out_.lands.push_back(c);
            ++made;
        }
    if (made == 0) say(dropped > 0 ? "paste leaves no room for a via" : "there is no room for a via in it");
}

}  // namespace

std::vector<Rect> pasteWindows(const Rect& area, int across, int down, Length web, double share) {
    std::vector<Rect> windows;
    if (area.empty || across < 1 || down < 1 || across > 50 || down > 50) return windows;
    Length w = (area.width() - (across - 1.0) * web) / across, h = (area.height() - (down - 1.0) * web) / down;
    if (w <= Length() || h <= Length()) return windows;
    const Length stepX = w + web, stepY = h + web, firstX = area.left + w / 2, firstY = area.bottom + h / 2;
    const double covers = across * down * (w / area.width()) * (h / area.height());
    if (share > 0 && covers > share) {
        const double k = std::sqrt(share / covers);
        w = w * k;
        h = h * k;
    }
    for (int j = 0; j < down; ++j)
        for (int i = 0; i < across; ++i)
            windows.push_back(Rect::around({firstX + stepX * i, firstY + stepY * j}, w, h));
    return windows;
}

AttachedCopper attachedCopper(const Part& part, const Shaped& shaped, const std::vector<Pad>& pads,
                              const std::vector<BareHole>& bareHoles) {
    AttachedCopper out;
    if (part.marks.empty()) return out;
    const FabProfile& fab = part.rules.fab;
    Metal metal{copperOf(pads, bareHoles, {}), {}};
    const bool vias = std::any_of(part.marks.begin(), part.marks.end(),
                                  [](const Mark& m) { return m.kind == MarkKind::ThermalVias; });
    if (vias) {
        const auto keep = [&](const Polygons& area, Length by) {
            for (const auto& ring : grown(area, by)) metal.noVia.push_back(ring);
        };
        for (const Pad& p : pads)
            if (p.hole > Length()) keep(polygonsOf(holeShape(p), Chords::Outside), fab.leastWeb);
        for (const BareHole& h : bareHoles)
            keep(polygonsOf(holeShape(h), Chords::Outside), h.plated ? fab.leastWeb : fab.copperToEdge);
        for (const CutArea& c : shaped.cutAreas) keep(polygonsOf(c.area, Chords::Outside), fab.copperToEdge);
        metal.noVia = united(metal.noVia);
    }
    const auto each = [&](auto how) {
        for (std::size_t i = 0; i < shaped.laid.size(); ++i)
            if (shaped.laid[i].wrong.empty()) how(part.marks[i], shaped.laid[i]);
    };
    each([&](const Mark& m, const LaidMark& l) { Laying(part, metal, out, m, l).run(); });
    each([&](const Mark& m, const LaidMark& l) {
        if (m.kind == MarkKind::ThermalVias) Laying(part, metal, out, m, l).vias();
    });
    // How much copper each number has on each side, its holes taken off.
    if (!out.lands.empty()) {
        std::map<std::string, std::array<Polygons, 3>> by;
        const auto add = [&](const Conductor& c) {
            if (c.outlined) return;
            auto& [top, bottom, holes] = by[c.number];
            const auto put = [](Polygons& to, const RoundedPolygon& shape) {
                for (const auto& ring : polygonsOf(shape)) to.push_back(ring);
            };
            if (c.top.there()) put(top, copperShape(c.top));
            if (c.bottom.there()) put(bottom, copperShape(c.bottom));
            if (c.hole > Length()) put(holes, holeShape(c, false));
        };
        for (const Conductor& c : out.lands) add(c);
        for (const Conductor& p : metal.copper)
            if (by.contains(p.number)) add(p);
        for (const MarkFigure& f : out.figures)
            for (const auto& ring : f.area) by[f.number][f.top ? 0 : 1].push_back(ring);
        for (const auto& [number, layers] : by) {
            const Polygons holes = united(layers[2]);
            out.areas[number] = {areaOf(without(united(layers[0]), holes)), areaOf(without(united(layers[1]), holes))};
        }
        // Said at the areas that belong to it.
        each([&](const Mark& m, const LaidMark&) {
            if (m.kind != MarkKind::CopperArea) return;
            const Conductor* land = findIn(out.lands, [&](const Conductor& c) { return c.id == joinedTo(m); });
            if (land == nullptr || !out.areas.contains(land->number)) return;
            const auto& [top, bottom] = out.areas.at(land->number);
            out.notes[m.id] = fmt::format("copper of {}: {:.1f} mm² on top, {:.1f} at the bottom, holes taken off",
                                          land->number, top, bottom);
        });
    }
    return out;
}

}  // namespace punch
