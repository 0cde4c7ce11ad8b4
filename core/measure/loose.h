#pragma once
// What is loose, and by which movement: the null space of the adjustment put in words.
//
// The null space is brought to a sparse basis (reduced by Gauss-Jordan elimination with full pivoting, in scaled
// unknowns). Each direction of it moves some features: all by the same amount along or across, as a turn about a
// point, spreading apart, or only in size. Directions that move one and the same feature are named together.

#include <string>
#include <vector>

#include "core/part/part.h"

namespace punch {

class Adjustment;

struct LooseMovement {
    enum class Kind {
        Along,   ///< all by the same amount along the row
        Across,  ///< all by the same amount across it
        Plane,   ///< along and across
        Turn,    ///< about a point
        Spread,  ///< places that move by different amounts, as with a pitch
        Size,    ///< only sizes
        Height,  ///< only levels: lead length, body height
        Value,   ///< a named value or an instrument's zero, no feature
    };
    std::vector<FeatureId> features;  ///< whose place, size or level is moved
    std::string words;                ///< "peg hole is loose: not measured across the row yet"
    Kind kind = Kind::Spread;
    std::vector<std::string> parameters;  ///< that go along with it
};

/// What moves places first, then sizes, then levels; each in the order of the parameters. Empty when all is firm.
std::vector<LooseMovement> looseMovements(const Part& part, const Adjustment& adjustment);

}  // namespace punch
