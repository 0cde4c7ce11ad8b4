#include "core/release/proof_board.h"

#include <algorithm>
#include <cmath>

namespace punch {

ProofBoard proofBoard(const Footprint& footprint) {
    // A fiducial's centre stands 5.0 and its clear ring (1.0) inside the edge, and 2.0 clear of the courtyard.
    const Length in = Length::fromMm(6.0);
    const Length margin = in + Length::fromMm(3.0);
    Rect content = footprint.courtyard;
    content.add(boundsOf(footprint.silkscreen));
    ProofBoard board;
    board.outline = content.grown(margin);
    // Whole millimetres outwards make a board that is easy to order and to check.
    const auto down = [](Length l) { return Length::fromMm(std::floor(l.mm())); };
    const auto up = [](Length l) { return Length::fromMm(std::ceil(l.mm())); };
    board.outline = {down(board.outline.left), up(board.outline.right), down(board.outline.bottom),
                     up(board.outline.top), false};
    const Rect f = board.outline.grown(-in);
    // Three of four corners, the third moved along, so that no turn or mirror lays the three on themselves.
    board.fiducials = {{f.left, f.bottom}, {f.right, f.bottom}, {f.left + Length::fromMm(2.5), f.top}};
    return board;
}

const std::vector<BoardLayerKind>& boardLayers() {
    const Length copper = ProofBoard::fiducialCopper();
    const Length opening = ProofBoard::fiducialOpening();
    static const std::vector<BoardLayerKind> all = {
        {BoardLayer::TopCopper, "top-copper", "Copper,L1,Top", false, Layer::TopCopper, copper},
        {BoardLayer::BottomCopper, "bottom-copper", "Copper,L2,Bot", false, Layer::BottomCopper, {}},
        {BoardLayer::TopMask, "top-mask", "Soldermask,Top", true, Layer::TopMask, opening},
        {BoardLayer::BottomMask, "bottom-mask", "Soldermask,Bot", true, Layer::BottomMask, {}},
        {BoardLayer::TopPaste, "top-paste", "Paste,Top", false, Layer::TopPaste, {}},
        {BoardLayer::BottomPaste, "bottom-paste", "Paste,Bot", false, Layer::BottomPaste, {}},
        {BoardLayer::TopSilkscreen, "top-silkscreen", "Legend,Top", false, Layer::TopSilkscreen, {}},
        {BoardLayer::BottomSilkscreen, "bottom-silkscreen", "Legend,Bot", false, Layer::BottomSilkscreen, {}},
        {BoardLayer::Outline, "outline", "Profile,NP", false, {}, {}},
    };
    return all;
}

const BoardLayerKind& boardLayer(BoardLayer layer) {
    return *std::find_if(boardLayers().begin(), boardLayers().end(),
                         [&](const BoardLayerKind& kind) { return kind.layer == layer; });
}

std::vector<Shape> boardArtwork(const Part& part, const Footprint& footprint, const ProofBoard& board,
                                BoardLayer layer) {
    const BoardLayerKind& kind = boardLayer(layer);
    if (kind.shows) {
        std::vector<Shape> shapes = artwork(part, footprint, *kind.shows);
        const Purpose purpose = kind.negative ? Purpose::Opening : Purpose::Fiducial;
        if (kind.fiducial)
            for (const Point& at : board.fiducials)
                shapes.push_back({purpose, {}, "fiducial", RoundedPolygon::disc(at, *kind.fiducial), true});
        return shapes;
    }
    const Length width = Length::fromMm(0.1);
    std::vector<Shape> shapes;
    for (std::vector<Point> ring : board.rings.empty() ? polygonsOf(rectangleRing(board.outline)) : board.rings) {
        ring.push_back(ring.front());
        shapes.push_back({Purpose::Cut, {}, "board", Line{std::move(ring), width}, true});
    }
    for (const Shape& cut : artwork(part, footprint, Layer::CutOuts)) {
        if (cut.purpose == Purpose::PlatedCut) continue;  // milled before plating: the plated drill file has it
        Polygons rings;
        if (const RoundedPolygon* area = cut.rounded()) rings = {outlineOf(*area, Length::fromNm(1000))};
        if (const Polygons* all = cut.polygons()) rings = *all;
        for (std::vector<Point>& contour : rings) {
            contour.push_back(contour.front());
            shapes.push_back(cut);
            shapes.back().form = Line{contour, width};
        }
    }
    return shapes;
}

}  // namespace punch
