#pragma once
// Which function draws which kind of mark. A mark that is no ink (room, cut-outs) has none.

#include "core/dress/ink.h"
#include "core/part/mark_kinds.h"

namespace punch {

/// What a mark is drawn into.
struct MarkScene {
    const Part& part;
    const Board& board;
    const Shaped& shaped;
    Rect inkBox;  ///< around body and openings: what lies outside it is free
    Ink& ink;
};

using DrawMark = void (*)(const MarkScene& scene, const Mark& mark, const LaidMark& laid);

void drawFirstPin(const MarkScene& scene, const Mark& mark, const LaidMark& laid);
void drawNotch(const MarkScene& scene, const Mark& mark, const LaidMark& laid);
void drawLandmark(const MarkScene& scene, const Mark& mark, const LaidMark& laid);
void drawSign(const MarkScene& scene, const Mark& mark, const LaidMark& laid);
void drawPinTexts(const MarkScene& scene, const Mark& mark, const LaidMark& laid);
void drawText(const MarkScene& scene, const Mark& mark, const LaidMark& laid);
void drawLogo(const MarkScene& scene, const Mark& mark, const LaidMark& laid);
void drawDrawing(const MarkScene& scene, const Mark& mark, const LaidMark& laid);

/// None for kinds that print nothing.
DrawMark drawerOf(MarkKind kind);

/// The layers that a mark's field "layer" names.
std::vector<InkLayer> inkLayersOf(const Mark& mark);

/// Prints a stroke or area of a mark on all of its layers.
void print(const MarkScene& scene, const Mark& mark, const LaidMark& laid, std::vector<Point> line);
void print(const MarkScene& scene, const Mark& mark, const LaidMark& laid, Polygons area);
/// Its text, capital letters `height` tall around `middle`, turned by degrees.
void printText(const MarkScene& scene, const Mark& mark, const LaidMark& laid, const std::string& text, Point middle,
               Length height, double turn = 0);

/// The triangle at the first pin that the rules ask for.
std::vector<Stroke> ruledFirstPin(const Part& part, const Board& board, const Rect& inkBox);

/// A text's fields put in: {reference}, {name}, {description}.
std::string withFields(const Part& part, std::string text);

}  // namespace punch
