#pragma once
// The numbers printed at the pins.

#include <map>
#include <string>
#include <vector>

#include "core/part/part.h"

namespace punch {

/// The pins of a formation in the order of their numbers.
std::vector<FeatureId> numberedOrder(const Part& part, const Formation& formation);

/// The numbers of all pins, each pin's own.
std::map<FeatureId, std::string> pinNumbers(const Part& part);

/// The number of one pin: "3". Empty when there is no such pin.
std::string pinNumber(const Part& part, const FeatureId& pin);
/// The pin that carries `number`, the first if it is shared. Empty when there is none.
FeatureId pinByNumber(const Part& part, const std::string& number);
/// The pin whose number comes first, which is marked by its shape.
FeatureId firstPin(const Part& part);

/// Does number a stand before number b? Digits count as numbers: "A9" before "A10".
bool numberLess(const std::string& a, const std::string& b);

/// Numbers that stand at more than one pin although nobody asked for it, in order.
std::vector<std::string> doubledNumbers(const Part& part);

/// The letter of row `row` (from 0): A B C D E F G H J K L M N P R T U V W Y AA ... (JEDEC JESD95: no I O Q S X Z).
std::string rowLetter(int row);

}  // namespace punch
