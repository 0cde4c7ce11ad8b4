// Logos: figures that are printed, etched, or openings of the mask.

#include <fmt/format.h>

#include "core/dress/mark_scene.h"
#include "core/geometry/shapes.h"
#include "core/marks/fields.h"
#include "core/shape/logo_figure.h"
#include "core/shape/mark_laying.h"
#include "core/size/mark_copper.h"

namespace punch {
namespace {

using V = MarkValue;

constexpr std::size_t kMostHulls = 200;  // of a logo's parts

/// At its size, turned; then without what is too thin, and with gaps that are too narrow closed.
void layLogo(MarkLaying& laying) {
    const std::string text = valueOf(laying.mark, "figure");
    if (text.empty()) return laying.wrong("no figure is brought in yet");
    if (laying.out.lengths["width"] <= Length()) return laying.wrong("it has no width");
    const LogoFigure logo = logoFigure(text, laying.out.lengths["width"], laying.out.lengths["least"]);
    const Point middle = laying.out.points.front();
    laying.out.figure = logo.figure;
    laying.out.leftOut = logo.leftOut;
    for (auto& ring : laying.out.figure)
        for (Point& p : ring) p = turned({middle.x + p.x, middle.y + p.y}, middle, laying.out.angles["turn"]);
    if (laying.out.figure.empty()) laying.wrong("all of it is thinner than the thinnest line");
}

/// Etched, or an opening of the mask. Thousands of corners would be as many convex pieces: for distances a hull
/// around each of its parts stands in, which is never further off.
void copperOfLogo(MarkCopper& copper) {
    const std::string layer = valueOf(copper.mark, "layer");
    const bool below = layer.starts_with("bottom");
    if (!layer.ends_with("copper") && !layer.ends_with("mask")) return;
    Polygons figure = below ? mirroredAbout(copper.laid.figure, copper.laid.points.front().x) : copper.laid.figure;
    std::vector<RoundedPolygon> hulls;
    for (const Area& part : areasOf(figure))
        hulls.push_back(hullOf({RoundedPolygon{flattened(part.outer, chordError()), Length()}}));
    if (hulls.size() > kMostHulls) hulls = {hullOf(hulls)};
    if (layer.ends_with("mask")) {
        copper.out.openings.push_back({copper.mark.id, !below, copper.laid.firm, std::move(figure), std::move(hulls)});
        return;
    }
    for (const RoundedPolygon& hull : hulls) {
        Conductor c = copper.joined(boundsOf(hull).middle());
        c.layers = below ? PadLayers::Bottom : PadLayers::Top;
        (below ? c.bottom : c.top) = polygonLand(hull);
        c.tented = c.outlined = true;
        copper.out.lands.push_back(c);
    }
    copper.out.figures.push_back({copper.mark.id, copper.mark.name, !below, copper.laid.firm, std::move(figure)});
}

void inkLogo(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    if (laid.leftOut > 0.01)
        scene.ink.say(mark.id, fmt::format("{:.0f} % of it is thinner than its thinnest line", 100 * laid.leftOut));
    Polygons figure = laid.figure;
    // On the solder side it reads from below.
    if (valueOf(mark, "layer") == "bottom silkscreen") figure = mirroredAbout(figure, laid.points.front().x);
    print(scene, mark, laid, std::move(figure));
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Logo>() {
    using namespace marks;
    MarkKindInfo kind = {MarkKind::Logo,
                         MarkGroup::Print,
                         {1, 1, false},
                         {{"figure", "Figure", V::Figure, "", "From an SVG or a picture: what is dark in it"},
                          {"file", "From", V::Text, "", "The file that it was brought in from"},
                          {"width", "Width", V::Length, "10", "From its left to its right end"},
                          {"turn", "Turned by", V::Angle, "0", "Counter-clockwise"},
                          {"least", "Thinnest line", V::Length, "0.15",
                           "What is thinner is left out, gaps that are narrower are closed"},
                          {"layer",
                           "Layer",
                           V::Choice,
                           "top silkscreen",
                           "Where it is printed, etched or kept open",
                           {"top silkscreen", "assembly", "both", "bottom silkscreen", "top copper", "bottom copper",
                            "top mask", "bottom mask"}}},
                         "A logo or a sign, made as simple as the board maker can print it"};
    kind.begin = bodyMiddle();
    kind.acts.lay = layLogo;
    kind.acts.copper = copperOfLogo;
    kind.acts.ink = inkLogo;
    return kind;
}

}  // namespace punch
