#pragma once
// One hole for the leads of several makes: round and larger, a slot along their difference, or two holes in one land.
//
// What each lead needs is a disc of its rule's least hole at its place. In this order the first that holds them all:
//   round      the smallest circle around the discs, up to the next drill; its largest within what IPC-2222 allows
//              the smallest lead of each make
//   slot       as wide as the discs reach across the line of the two that are furthest apart, up to the next mill bit
//              less the plating; as long, up to the next 0.05, as they reach along it
//   two holes  where the makes part into two groups whose holes leave the fab profile's least wall between them
// or the one that the user chose (PadOverride::join). A hole that passes what is allowed says by how much.
// Pegs of one kind that lie too near for a wall between them share a hole in the same way; others get their own.

#include "core/size/pads.h"

namespace punch {

/// Holes and lands of `sized.pads` and bare holes for all of `sized.makes`. Gives the second holes in one land.
std::vector<Conductor> joinHoles(const Part& part, Sized& sized);

}  // namespace punch
