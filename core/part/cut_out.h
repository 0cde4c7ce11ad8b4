#pragma once
// Slots and windows, the usual cut-outs of a board, as a hand or a command makes them: between two places. In the part
// each is a mark of the kind "cut-out", attached like any other.

#include "core/part/part.h"

namespace punch {

enum class CutOutKind {
    Slot,    ///< milled along a line, with round ends
    Window,  ///< a rectangle with rounded corners
};

/// Places in the frame of the model (core/model/model.h).
struct CutOut {
    std::string id;
    std::string name = "slot";
    CutOutKind kind = CutOutKind::Slot;
    Point from, to;  ///< of a slot the middles of its two round ends; of a window two opposite corners
    Length width;    ///< of a slot; of a window the radius of its corners, twice
    /// What it is attached to: a feature, or two of which it is the middle, and where that stands. Empty: the origin.
    FeatureId of = {}, with = {};
    Point base = {};
    friend bool operator==(const CutOut&, const CutOut&) = default;
};

/// The same as a mark, without an identifier of its own.
Mark markOf(const CutOut& cut);

/// Its identifier is new.
Part withCutOut(Part part, const CutOut& cut);

/// Both of its places moved: the first by `from`, the second by `to`. What they are attached to stays.
Part withCutOutMoved(Part part, const std::string& id, Point from, Point to);

/// A typed length made longer by as much: "0.3" by 0.1 is "0.4"; what is more than a number gets one behind it.
std::string movedBy(const std::string& typed, Length by);

}  // namespace punch
