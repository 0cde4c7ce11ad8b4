#pragma once
// What every pad gets: the rule's sizes, and what the user set against them.
//
// An override is asked for at the pin, then at its formation, then at the whole part; each field by itself.
// Without an override: a round land of the rule's size on every layer, pin 1 marked by a square one; no paste in plated
// holes; openings larger by the fab profile's margin.

#include "core/size/pads.h"

namespace punch {

/// The fields that hold for a pin, each from the nearest place that sets it.
PadOverride overrideFor(const Part& part, const FeatureId& pin, const std::string& formation);
/// What is set at a single feature (peg, lock, lug, screw): nothing but its own, since what holds for a formation or
/// the whole part is meant for pins.
PadOverride overrideForSpot(const Part& part, const FeatureId& spot);
/// Does any of the pin's fields come from an override?
bool isOverridden(const Part& part, const FeatureId& pin, const std::string& formation);

/// The hole and lands of a pad whose place and lead are known.
void sizePad(const Part& part, const std::string& formation, const LeadFit& lead, Pad& pad);
/// The same with these fields set.
void sizePad(const Rules& rules, const PadOverride& set, const LeadFit& lead, Pad& pad);

/// The ring of a hole at its largest and off its place by half the fabrication allowance: the least way from the
/// hole's wall to the land's edge on the layer where it is least, less that half.
Length ringOf(const Rules& rules, const Conductor& pad);
/// IPC-2221's least ring, or the fab profile's where that is more.
Length leastRingOf(const Rules& rules);

/// What is recommended where a pad meets a plane on an inner layer.
struct PlaneAdvice {
    Length clearance;  ///< diameter kept free of the plane: over the land, by the profile's copper to edge on each side
    int spokes = 4;
    Length spokeWidth;  ///< 60 % of the land's width over all spokes (IPC-2221, 9.1.3)
};
PlaneAdvice planeAdvice(const Rules& rules, const Conductor& pad);

/// May the land's length differ from its width?
bool mayBeLonger(LandShape shape);

/// The pad with its shown land at this width (`across`: length), the other layers too where they are as large.
Conductor withLand(Conductor pad, Length size, bool across);

}  // namespace punch
