#pragma once
// Several makes in one footprint: parts that differ a little and shall all go into the same holes. The part's own
// readings are those of the first make; the others stand here whole, so that the footprint follows from the part alone.

#include <string>
#include <vector>

#include "core/part/source.h"

namespace punch {

struct Part;

/// How a hole takes the leads of several makes.
enum class JoinKind {
    Round,     ///< one round hole around all of them
    Slot,      ///< a slot along their difference
    TwoHoles,  ///< two holes in one land
};

/// By which of its features a make is laid over the part's own.
enum class JoinBy {
    Leads,   ///< so that leads of the same number lie as near to each other as they can
    PinOne,  ///< the first pins lie on each other
    Datum,   ///< their datums do
};

struct Make {
    std::string name;  ///< of the make, "HT-TB4"
    std::string file;  ///< that it is read from again, named from the part's folder; may be empty
    JoinBy by = JoinBy::Leads;
    std::vector<Part> part;  ///< one; none while its file was never read
    UnknownFields unknown;
    friend bool operator==(const Make& a, const Make& b);
};

}  // namespace punch
