#pragma once
// The proof board: the footprint on a small board of its own, with three global fiducials; its layers and their shapes.
//
// Fiducials (IPC-7351, SMEMA 3.1): round copper 1.0, mask opening 2.0, no paste, three and not symmetrical, at least
// 5.0 plus their clear ring from the board's edge. Frame: as the footprint, origin at the datum.

#include <optional>
#include <vector>

#include "core/artwork/artwork.h"

namespace punch {

struct ProofBoard {
    Rect outline;
    Polygons rings = {};    ///< an own shape of it, and what is cut out of it; empty: the rectangle
    std::string name = {};  ///< of a trial board; empty: the part's own proof board
    std::vector<Point> fiducials;
    static Length fiducialCopper() { return Length::fromMm(1.0); }
    static Length fiducialOpening() { return Length::fromMm(2.0); }
};

ProofBoard proofBoard(const Footprint& footprint);

enum class BoardLayer {
    TopCopper,
    BottomCopper,
    TopMask,
    BottomMask,
    TopPaste,
    BottomPaste,
    TopSilkscreen,
    BottomSilkscreen,
    Outline
};

/// One file of the board. The file function is that of the Gerber specification, 5.6.3.
struct BoardLayerKind {
    BoardLayer layer;
    const char* fileName;  ///< "top-copper"
    const char* fileFunction;
    bool negative;                   ///< a mask's image shows its openings (5.6.4)
    std::optional<Layer> shows;      ///< of the footprint; none: the board's edge and cut-outs
    std::optional<Length> fiducial;  ///< diameter of the fiducials on it
};
const std::vector<BoardLayerKind>& boardLayers();
const BoardLayerKind& boardLayer(BoardLayer layer);

/// What lies on a layer of the board: the footprint's shapes, fiducials, the board's edge.
std::vector<Shape> boardArtwork(const Part& part, const Footprint& footprint, const ProofBoard& board,
                                BoardLayer layer);

}  // namespace punch
