#pragma once
// How a footprint is turned where a receiver counts its turns from zero, and where a machine takes the part.
//
// IPC-7351B and IEC 61188-7 know two levels: pin 1 at the upper left (A) or at the lower left (B). Of the quarter turns
// the one is taken that brings pin 1 nearest to that corner of the field of pins; where two do, the one in which the
// next pin lies below it (A) or to its right (B). Two pins lie in a level line, pin 1 at the left, in both.

#include <optional>
#include <string>

#include "core/footprint.h"

namespace punch {

enum class ZeroOrientation { AsPart, LevelA, LevelB };

/// Counter-clockwise, a quarter turn or none; also of a part without pins.
Angle zeroTurn(const Footprint& footprint, ZeroOrientation wanted);

/// The middle of the body, else of its lands, else of its courtyard.
Point pickPoint(const Footprint& footprint);

}  // namespace punch
