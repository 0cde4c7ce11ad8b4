#pragma once
// The distance between two features of the adjusted part, with its doubt: measuring without making a reading.

#include <optional>

#include "core/part/part.h"

namespace punch {

/// A distance and its 95 % half interval; none while it is loose.
struct DoubtfulLength {
    Length value;
    std::optional<Length> doubt;
};

/// From A to B, seen from the part side. Faces have one coordinate only, so that some of it is missing then.
struct Between {
    std::optional<DoubtfulLength> along, across;  ///< of B from A: positive to the right and to the rear
    std::optional<DoubtfulLength> direct;         ///< true centres
    std::optional<DoubtfulLength> inside;         ///< facing edges, along the joining line (of faces: to the near edge)
    std::optional<DoubtfulLength> outside;        ///< outer edges
};

/// None when one of them is not there, or both are the same.
std::optional<Between> between(const Part& part, const FeatureId& a, const FeatureId& b);

}  // namespace punch
