#pragma once
// Copper that marks ask for beside the pads: areas joined to a pad, openings of their mask, thermal vias, surface lands
// by package dimensions, fiducials. All of it is conductors, so that every distance and gauge counts it.

#include "core/shape/shaped.h"
#include "core/size/pads.h"

namespace punch {

/// In the order of the part's marks. `pads` give their numbers to what is joined to them.
AttachedCopper attachedCopper(const Part& part, const Shaped& shaped, const std::vector<Pad>& pads,
                              const std::vector<BareHole>& bareHoles);

/// `across` x `down` windows in a rectangle, `web` apart, that together cover `share` of it at most (0: as they come
/// out); centred.
std::vector<Rect> pasteWindows(const Rect& area, int across, int down, Length web, double share);

}  // namespace punch
