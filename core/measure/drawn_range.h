#pragma once
// What a drawing's value leaves open: the one place of ISO 2768-1.

#include "core/part/reading.h"

namespace punch {

/// ISO 2768-1:1989 table 1, class m: permissible deviation of a linear size, ± mm. Below 0.5 mm a house value, since
/// the standard asks for the deviation beside the size. Above 400 the class's next rows.
double iso2768Medium(double mm);

/// The range over which a drawing's value is rectangular, mm. Equal ends for an exact one.
struct DrawnRange {
    double low = 0, high = 0;
    double middle() const { return (low + high) / 2; }
    double half() const { return (high - low) / 2; }
};
DrawnRange drawnRange(const DrawingValue& value);

}  // namespace punch
