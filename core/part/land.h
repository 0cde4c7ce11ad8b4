#pragma once
// What the user said about single holes, lands and cut-outs of the board, against what the rules would choose.
//
// An override stands at a pin, at a formation or at the whole part (kWholePart); the nearer one wins, field by field.

#include <optional>
#include <string>
#include <vector>

#include "core/base/angle.h"
#include "core/base/length.h"
#include "core/base/value.h"
#include "core/part/make.h"
#include "core/part/source.h"

namespace punch {

enum class LandShape {
    Round,
    Square,
    Rectangle,
    Oval,
    RoundedRectangle,
    Octagon,
    Polygon  ///< convex, with corners of its own: pieces of what is drawn; nobody chooses it for a pad
};
/// The layers that carry the copper of a pad.
enum class PadLayers {
    Through,  ///< a plated hole and lands on every layer
    Top,      ///< a surface land without a hole on the part side
    Bottom,   ///< the same on the solder side
};

/// Fields that are empty follow the rules. Lengths of the land lie along its own axes before it is turned.
struct PadOverride {
    PUNCH_VALUE(PadOverride)
    std::optional<LandShape> shape;
    std::optional<Length> land;        ///< diameter, side, or width along the land's x
    std::optional<Length> landLength;  ///< along its y, of a rectangle, a rounded one and an oval; none: as `land`
    std::optional<Length> corner;      ///< radius of a rounded rectangle; none: a quarter of its shorter side
    std::optional<Angle> turn;
    std::optional<Length> offsetX, offsetY;  ///< of the land from its hole, in the part's frame
    std::optional<Length> inner, bottom;     ///< `land` of these layers where it differs from the top's
    std::optional<Length> hole;              ///< finished, least; of a slot: its width
    std::optional<Length> holeLength;        ///< of a slot, over its rounded ends
    std::optional<bool> slot;                ///< a plated slot along the lead's longer side
    std::optional<PadLayers> layers;
    std::optional<JoinKind> join;      ///< how its hole takes the leads of several makes
    std::optional<bool> plated;        ///< of a lug: soldered into a plated hole with a land
    std::optional<Length> maskMargin;  ///< of the opening, per side
    std::optional<bool> tented;        ///< mask over the land: on the part side, of a land on the solder side there
    std::optional<bool> paste;
    std::string reason;
    UnknownFields unknown;
    friend bool operator==(const PadOverride&, const PadOverride&);
};

inline constexpr const char* kWholePart = "part";

/// What a board maker can do, and how well: a named set. The values are those of the house.
struct FabProfile {
    PUNCH_VALUE(FabProfile)
    std::string name = "House";
    Length leastDrill = Length::fromMm(0.20);
    Length leastRing = Length::fromMm(0.05);      ///< besides the fabrication allowance
    Length leastSlot = Length::fromMm(0.80);      ///< milled width
    Length leastWeb = Length::fromMm(0.25);       ///< wall between two holes or cuts
    Length leastGap = Length::fromMm(0.15);       ///< copper to copper
    Length copperToEdge = Length::fromMm(0.25);   ///< copper to a cut, a bare hole, the board's edge
    Length leastMaskWeb = Length::fromMm(0.10);   ///< mask between two openings
    Length maskMargin = Length::fromMm(0.05);     ///< of an opening, per side
    Length plating = Length::fromMm(0.10);        ///< bit of a plated hole over its finished size
    Length slotTolerance = Length::fromMm(0.10);  ///< of a milled width, ±
    Length wander = Length::fromMm(0.025);        ///< of a hole's place, standard deviation in each axis
    Length passes = Length::fromMm(0.05);         ///< shift between plated and bare holes, the same
    double aspect = 8;                            ///< most board thickness to bit
    std::vector<Length> mills = {Length::fromMm(0.8), Length::fromMm(1.0), Length::fromMm(1.2),
                                 Length::fromMm(1.6), Length::fromMm(2.0), Length::fromMm(2.4)};
    UnknownFields unknown;
    friend bool operator==(const FabProfile&, const FabProfile&);
};

}  // namespace punch
