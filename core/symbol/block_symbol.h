#pragma once
// The symbol of a part: blocks drawn by rule from its pins, on the grid of 2.54 mm (100 mil).
//
// Sides by kind: inputs left, outputs and what goes both ways right, supplies on top, returns at the bottom; passive
// pins are shared between left and right in their order. A gap stands between groups. A block is as wide as its texts
// ask for. Pins of another element are a block of their own; the supply is one where there are several.
// Frame: mm, x right, y up, the first block's left upper corner at 0, 0. All ends of pins lie on the grid.

#include <string>
#include <vector>

#include "core/part/part.h"
#include "core/shape/shapes.h"

namespace punch {

inline constexpr double kSymbolGrid = 2.54;  // mm
inline constexpr double kSymbolText = 1.27;  // mm, capital letters
inline constexpr double kSymbolLine = 0.15;  // mm

struct SymbolText {
    std::string text;
    Point middle;
    bool turned = false;  ///< reads upwards
    bool bar = false;     ///< a line above it: active low
    Length width;         ///< along its line
};

struct SymbolPin {
    std::size_t pin = 0;  ///< in the part's
    PinSide side = PinSide::Left;
    Point end;   ///< where a wire joins it, on the grid
    Point foot;  ///< at the block
    SymbolText name, number;
};

struct SymbolBlock {
    std::string element;  ///< empty for the first
    Rect box;
    std::vector<SymbolPin> pins;
};

struct BlockSymbol {
    std::vector<SymbolBlock> blocks;
    Rect bounds;  ///< with pins
};

/// None of its texts overlap, whatever they are. A part without pins has an empty symbol.
/// Blocks stand so far apart that the reference above each and the value below the first have room.
BlockSymbol blockSymbol(const std::vector<Pin>& pins, const std::string& reference = {}, const std::string& value = {});
/// The side of a pin, by hand or by kind; none for what is shared.
std::optional<PinSide> symbolSide(const Pin& pin);
/// "RESET" of "/RESET".
std::string plainName(const std::string& name);
inline bool isActiveLow(const std::string& name) { return name.size() > 1 && name[0] == '/'; }

/// Of a part: with its reference and its value, which is its name where it has none.
BlockSymbol blockSymbol(const Part& part);
/// A part without a value is called by its name.
inline const std::string& symbolValue(const Part& part) { return part.value.empty() ? part.name : part.value; }

/// Its lines and letters, for pictures and the screen: with the shapes and attributes that hands added.
std::vector<Shape> symbolInk(const BlockSymbol& symbol, const Part& part);
/// Attributes that are shown, as they are written under the value.
std::vector<std::string> shownAttributes(const Part& part);
/// The same of the rule's drawing alone.
std::vector<Shape> symbolInk(const BlockSymbol& symbol, const std::string& reference, const std::string& value);

}  // namespace punch
