#pragma once
// What is drawn, printed, cut or kept clear, as shapes by layer: the one place where layers are made of pads, holes,
// bodies and ink. Gerber, drill files, SVG, paper, thumbnails and the sheet draw from it.
//
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <string>
#include <variant>
#include <vector>

#include "core/footprint.h"

namespace punch {

enum class Layer {
    TopCopper,
    InnerCopper,
    BottomCopper,
    TopMask,  ///< its openings
    BottomMask,
    TopPaste,
    BottomPaste,
    TopSilkscreen,
    BottomSilkscreen,
    Assembly,
    PlatedHoles,  ///< finished, at their least
    BareHoles,
    CutOuts,
    Body,
    Keepouts,
    TopCourtyard,
    BottomCourtyard,
};

/// The layers of the board itself, in the order in which they are named.
inline constexpr Layer kBoardLayers[] = {
    Layer::TopSilkscreen, Layer::TopPaste,   Layer::TopMask,     Layer::TopCopper,        Layer::InnerCopper,
    Layer::BottomCopper,  Layer::BottomMask, Layer::BottomPaste, Layer::BottomSilkscreen, Layer::Assembly};
/// "top copper".
const char* layerWords(Layer layer);

/// What a shape stands for, whatever layer it lies on.
enum class Purpose {
    ComponentPad,  ///< copper around a plated hole
    SurfacePad,
    Fiducial,
    LocalFiducial,
    Figure,   ///< copper that is drawn, a logo
    Opening,  ///< of the solder mask
    Paste,
    Ink,
    Hole,
    Cut,  ///< of the board, or its edge
    PlatedCut,
    Room,  ///< kept clear
};

/// A line of a width; closed when first and last are equal.
struct Line {
    std::vector<Point> points;
    Length width;
};

struct Shape {
    Purpose purpose = Purpose::Ink;
    FeatureId of;      ///< pad, hole, cut-out or keepout; empty for ink and body
    std::string name;  ///< the pad's number, "outline", a keepout's name
    std::variant<RoundedPolygon, Line, Polygons> form;
    bool firm = true;  ///< nothing loose moves or shapes it

    const RoundedPolygon* area() const { return std::get_if<RoundedPolygon>(&form); }
    const Line* line() const { return std::get_if<Line>(&form); }
    /// Rings with holes in them, arcs as chords off by less than 5 µm.
    const Polygons* polygons() const { return std::get_if<Polygons>(&form); }
};

std::vector<Shape> artwork(const Part& part, const Results& footprint, Layer layer);

/// Copper as it is seen from one side: what lies on the far face alone is seen through the board.
struct SeenCopper {
    Shape shape;
    bool through = false;
};
std::vector<SeenCopper> seenCopper(const Part& part, const Results& footprint, bool fromBelow);

/// Around all of them.
Rect boundsOf(const std::vector<Shape>& shapes);

}  // namespace punch
