#pragma once
// Plated hole and land for a lead; bare hole for a peg.
//
// IPC-2222 (producibility levels A general, B moderate, C high), lead over its corners:
//   least finished hole = largest lead + 0.25 / 0.20 / 0.15;  largest = smallest lead + 0.70 / 0.70 / 0.60.
// IPC-2221, 9.1.1: least land = largest finished hole + 2 x least ring + fabrication allowance (0.40 / 0.25 / 0.20);
//   least ring, external and plated, 0.05.
// Plated slot, for a blade: both sides get the fit by themselves; its width comes from the fab profile's mill bits.
// House rule: hole = factor x lead (diameter of a round lead, side of another); ring of fixed width on both sides.
// The largest lead is the upper end of its drawing's limits or of its 95 % doubt (core/size/lead_section.h), or its
// mean by a switch of the part.

#include "core/size/pads.h"

namespace punch {

class Adjustment;
class ChainReadings;

Length leastClearance(Level level);                         ///< IPC-2222: added to the largest lead
Length largestClearance(Level level);                       ///< IPC-2222: added to the smallest lead
Length fabricationAllowance(Level level);                   ///< IPC-2221, 9.1.1
inline Length leastRing() { return Length::fromMm(0.05); }  ///< IPC-2221, external, supported

/// What a hole is made for: the largest size, or the mean where the part says so.
Length largestOf(const Rules& rules, const Extent& size);

/// A slot for a blade: as wide as the next mill bit up, less the plating; so long, up to the next 0.05, that the
/// blade's corners may shift along by `spare` between the rounded ends.
struct MilledSlot {
    Length width, length;  ///< finished, least; the length over the rounded ends
    bool byMill = false;   ///< the fab profile has a bit that is wide enough
};
MilledSlot milledSlot(const Rules& rules, Length wide, Length thick, Length spare, Length plating);

/// Sizes the holes and lands of one formation. A loose lead is sized at its assumed width and marked as not sized.
LeadFit fitLead(const Part& part, const Formation& formation, const Adjustment& adjustment,
                const ChainReadings& chains);

/// By how much a lead may shift in its hole in the direction that lets it least: hole less lead over its corners; of a
/// slot the smaller of both axes. `atMost`: at the lead's largest. Negative: it does not go in.
Length spareRoom(const LeadSection& lead, Length hole, Length slotLength, bool atMost);
/// The same of a pad, for the mean lead.
Length holeSpare(const Sized& sized, const Pad& pad);
Length holeSpare(const BareHole& hole);

/// Sizes the hole of a peg, lock or lug (spot_fit.cpp): its diameter, or its diagonal when it is flat, at its largest
/// or mean, + clearance, up to the next drill. A mounting hole is as large as it was read or given, up to the next
/// drill.
BareHole fitSpot(const Part& part, const Spot& spot, const Adjustment& adjustment);

}  // namespace punch
