#pragma once
// Solids of parts as they may come in files: leads of a known kind at known places under a body.

#include <vector>

#include "core/solid/sections.h"
#include "core/solid/shapes_to_make.h"
#include "tests/support/dice.h"

namespace punch::test {

enum class BodyKind { Header, DualInLine, Tapered, Can, TerminalBlock, Axial, Module };
inline constexpr int kBodyKinds = 7;

struct SolidPart {
    SolidsToMake make;
    std::vector<Flat> leads;  ///< their middles at the board, in the frame of the footprint, seating plane at z 0
    std::vector<Flat> pegs;
    double thick = 0;  ///< of a lead, its longer side
};

/// `pins` is taken as near as the kind can have.
SolidPart solidPart(BodyKind kind, int pins, Dice& dice);
/// Made by punch-solid; fails the test where it cannot be.
Solid madeSolid(std::vector<MadeBody> bodies);
MadeBody boxBody(const char* name, double left, double front, double right, double rear, double low, double high);
/// Turned in any way and moved.
Pose anyPose(Dice& dice);

}  // namespace punch::test
