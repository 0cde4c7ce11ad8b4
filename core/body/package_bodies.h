#pragma once
// Bodies of usual packages from their dimensions, with real leads, their ends and a sign at the first pin.
// Frame: mm from the datum, x right, y up, z away from the board towards the part, the board's upper face at 0.

#include <vector>

#include "core/footprint.h"
#include "core/solid/shapes_to_make.h"

namespace punch {

/// For a mark of the kind "package body": leads stand at its pins. Nothing while a pin is loose, or what
/// is to be as read was not.
std::vector<MadeBody> packageBody(const Part& part, const Footprint& footprint, const Mark& mark, const LaidMark& laid);
/// For surface lands whose body is to be made: from the same dimensions, in the middle of their limits.
std::vector<MadeBody> surfaceBody(const Part& part, const Mark& mark, const LaidMark& laid);

/// A dot of 0.05 depth in the face at `top`.
Simple dotCut(double x, double y, double diameter, double top);
/// A formed lead that keeps its section; a straight block where it is too short to be bent.
MadeBody formedLead(std::string name, std::vector<Vec3> way, double bend, double across, double thick, bool round);

}  // namespace punch
