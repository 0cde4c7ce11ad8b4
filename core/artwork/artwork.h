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

std::vector<Shape> artwork(const Part& part, const Results& footprint, Layer layer);

/// Copper as it is seen from one side: what lies on the far face alone is seen through the board.
struct SeenCopper {
    Shape shape;
    bool through = false;
};
std::vector<SeenCopper> seenCopper(const Part& part, const Results& footprint, bool fromBelow);

}  // namespace punch
