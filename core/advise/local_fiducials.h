#pragma once
// A pair of local fiducials for a part of fine pitch, written into it as marks.

#include <optional>

#include "core/footprint.h"

namespace punch {

/// From this pitch down a placement machine wants a pair (house value).
inline Length finePitch() { return Length::fromMm(0.65); }

/// The least pitch of the part's lands, where it is fine and no local fiducials are there yet.
std::optional<Length> pitchAskingForFiducials(const Part& part, const Footprint& footprint);

/// With two of them on a diagonal, outside copper and body, as large as the part's others, attached to what the lands
/// are attached to.
Part withLocalFiducials(Part part, const Footprint& footprint);

}  // namespace punch
