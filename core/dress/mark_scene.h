#pragma once
// What a mark is printed into, and what is there already.

#include "core/dress/ink.h"
#include "core/part/mark_kinds.h"

namespace punch {

struct MarkScene {
    const Part& part;
    const Board& board;
    const Shaped& shaped;
    Rect inkBox;  ///< around body and openings: what lies outside it is free
    Ink& ink;
};

/// The layers that a mark's field "layer" names.
std::vector<InkLayer> inkLayersOf(const Mark& mark);
/// Is it printed on a layer that is seen from the part side?
bool onTop(const Mark& mark);

/// Prints a line or area of a mark on all of its layers; the shape gets the mark's places and doubt.
void print(const MarkScene& scene, const Mark& mark, const LaidMark& laid, Shape ink);
void print(const MarkScene& scene, const Mark& mark, const LaidMark& laid, std::vector<Point> line);
void print(const MarkScene& scene, const Mark& mark, const LaidMark& laid, Polygons area);
/// Its text, capital letters `height` tall around `middle`, turned by degrees.
void printText(const MarkScene& scene, const Mark& mark, const LaidMark& laid, const std::string& text, Point middle,
               Length height, double turn = 0);
/// Its outline: a line, the rings of its area, or the area where the field "filled" says so.
void printOutline(const MarkScene& scene, const Mark& mark, const LaidMark& laid);

/// A text's fields put in: {reference}, {value}, {name}, {description}. A part without a value of its own is called
/// by its name.
std::string withFields(const Part& part, std::string text);

/// Room beside a pad, off every opening and all ink: outside the body where that is as near. The middle of a box of
/// this size; none where there is no room near the pad.
std::optional<Point> placeBeside(const MarkScene& scene, const Pad& pad, bool top, Length width, Length height,
                                 Length line);

}  // namespace punch
