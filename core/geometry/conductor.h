#pragma once
// A piece of metal on the board: a pad, the land of a soldered lug, a screw's head, and all that carries a potential.
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/value.h"
#include "core/part/land.h"
#include "core/part/part.h"

namespace punch {

enum class CopperLayer { Top, Inner, Bottom };
inline constexpr CopperLayer kCopperLayers[] = {CopperLayer::Top, CopperLayer::Inner, CopperLayer::Bottom};

/// Metal on one layer. No width: none there.
struct Land {
    LandShape shape = LandShape::Round;
    Point at;              ///< its middle
    Length width, length;  ///< along its own x and y
    Length corner;         ///< radius, of a rounded rectangle
    Angle turn;
    std::vector<Point> corners = {};  ///< of a polygon, counter-clockwise, from the datum; rounded by `corner`
    bool there() const { return width > Length(); }
    friend bool operator==(const Land&, const Land&) = default;
};

inline constexpr std::size_t kNoFormation = static_cast<std::size_t>(-1);

struct Conductor {
    PUNCH_VALUE(Conductor)
    FeatureId id;
    std::string number;                    ///< what has the same may touch; a name, of what is no pad
    std::size_t formation = kNoFormation;  ///< index among the part's formations
    Point at;
    PadLayers layers = PadLayers::Through;
    Land top, inner, bottom;
    Length hole;               ///< plated, finished, least; of a slot its width; 0: no hole
    Length holeLargest;        ///< finished, with its tolerance
    Length slotLength;         ///< finished, least, over its rounded ends; 0: a round hole
    Angle slotTurn;            ///< of the slot's length
    Length maskMargin;         ///< of its openings, per side
    bool tented = false;       ///< no opening on the side of its shown land
    bool tentedBelow = false;  ///< of a through one: none on the solder side
    bool fiducial = false;
    bool outlined = false;  ///< a hull around a figure, for distances; its copper is drawn as it is
    bool local = false;     ///< a fiducial of this part, not of the board
    bool firm = false;      ///< nothing loose moves its place
    bool sized = false;     ///< its lead is measured
};

}  // namespace punch
