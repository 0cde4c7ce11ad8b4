#pragma once
// What the text beside a dimension line says: "20.3 ±0.2", "4x Ø1.65", "R2.5", "(12.0)", "0.800 [20.32]", "20,3 +0,1
// -0".
//
// Only proposed: the user looks at it and takes it over (part/drawing_value.h reads the value then).

#include <string>
#include <string_view>
#include <vector>

#include "core/base/quantity.h"

namespace punch {

struct OfferedDimension {
    std::string typed;       ///< as part/drawing_value.h reads it, without a unit unless the text names one
    Unit unit = Unit::Mm;    ///< of bare numbers in `typed`
    int count = 1;           ///< "4x": so many of them
    bool diameter = false;   ///< Ø
    bool radius = false;     ///< R: the value is half a diameter
    bool angle = false;      ///< degrees
    bool reference = false;  ///< in parentheses: for information, follows from others
    std::string letter;      ///< "B" where the drawing names a letter instead of a value
};

/// `typed` as a diameter: of a radius every number twice, "2.5 ±0.1" -> "2*2.5 ±2*0.1".
std::string asDiameter(const OfferedDimension& offered);

/// The values in a text, those in the page's unit first; a value in brackets beside another is the same in the other
/// unit. Empty when the text is none.
std::vector<OfferedDimension> dimensionsIn(std::string_view text, Unit pageUnit);

}  // namespace punch
