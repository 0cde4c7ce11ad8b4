#pragma once
// Ink: collected by layer, and cut away where it would come too near to an opening of the mask or a cut.
//
// Ink keeps 0.15 (house value) from every mask opening and every bare hole and cut-out of its side: lines that come
// nearer are cut away there, and what remains shorter than the rule's shortest piece is not printed.

#include <string>
#include <vector>

#include "core/clear/board.h"
#include "core/dress/dressed.h"
#include "core/geometry/box_cells.h"

namespace punch {

inline Length leastInkGap() { return Length::fromMm(0.15); }
/// Of a line's width: what is printed at all, and beyond which nobody means it (house values).
inline Length leastInkLine() { return Length::fromMm(0.10); }
inline Length mostInkLine() { return Length::fromMm(0.5); }

/// An opening of the mask, a bare hole or a cut, on one side.
struct InkOpening {
    std::string feature;
    RoundedPolygon shape;
    Point middle;
    Length reach;  ///< no point of it lies further from its middle

    InkOpening(std::string id, RoundedPolygon of);
    /// A lower bound for the distance from a line's middle: from the upright rectangle around it.
    Length atLeast(Point a, Point b) const;
};
std::vector<InkOpening> inkOpenings(const Board& board, bool top);

/// The openings of one side, by where they are.
class InkOpenings {
public:
    InkOpenings(const Board& board, bool top);
    const std::vector<InkOpening>& all() const { return all_; }
    /// Those that may be nearer than `by` to the box.
    std::vector<std::size_t> near(const Rect& box, Length by) const { return cells_.near(box.grown(by)); }

private:
    std::vector<InkOpening> all_;
    BoxCells cells_;
};

/// Where ink goes.
enum class InkLayer { TopSilkscreen, BottomSilkscreen, Assembly };

class Ink {
public:
    Ink(const Board& board, Length shortest);

    const std::vector<InkOpening>& openings(bool top) const { return (top ? top_ : bottom_).all(); }
    /// On a silkscreen it is cut away from openings.
    void add(InkLayer layer, const Shape& ink);
    /// What of a mark could not be printed as asked. What the rules ask for is left out where there is nothing for it.
    void say(const std::string& mark, const std::string& words);
    /// Into the footprint.
    void giveTo(Dressed& dressed) &&;
    /// Does anything with this outline keep its distance from all openings?
    bool isClear(const RoundedPolygon& shape, bool top) const;
    /// And from what is printed there already?
    bool isFree(const Rect& box, bool top) const;

private:
    InkOpenings top_, bottom_;
    Length shortest_;
    std::vector<Shape> shapes_[3];
    std::map<std::string, std::string> words_;
    /// What was printed on each side, by where it is: pieces of lines, as they lie.
    std::vector<RoundedPolygon> printed_[2];
    BoxCells printedCells_[2] = {BoxCells(Length::fromMm(2)), BoxCells(Length::fromMm(2))};
    void addLine(InkLayer layer, const Shape& ink);
    void addArea(InkLayer layer, const Shape& ink);
    void remember(InkLayer layer, const Line& line);
};

}  // namespace punch
