#pragma once
// Pins against the pads of the footprint and against each other.

#include <map>
#include <string>
#include <vector>

#include "core/part/part.h"
#include "core/size/pads.h"

namespace punch {

/// Which pads each pin is joined to: those of its number, or those that it names.
struct Joints {
    std::vector<std::vector<FeatureId>> pads;  ///< by pin
    std::vector<FeatureId> alone;              ///< pads that no pin is joined to
};
Joints jointsOf(const std::vector<Pin>& pins, const std::vector<Pad>& pads);

struct PinTrouble {
    enum class Weight { Wrong, Doubtful };
    Weight weight = Weight::Wrong;
    std::string words;                 ///< "pin 3: no pad has this number"
    std::vector<std::size_t> pins;     ///< which of the part's
    std::vector<FeatureId> pads = {};  ///< and which pads
};
/// What is wrong before what is doubtful, in the order of the pins. None for a part without pins.
std::vector<PinTrouble> pinTroubles(const std::vector<Pin>& pins, const std::vector<Pad>& pads);

/// Joined by hand: the pad goes from whoever had it to this pin. A pin that is joined to pads of its own number alone
/// names none.
std::vector<Pin> joinedTo(std::vector<Pin> pins, std::size_t pin, const std::string& pad);
/// A pin for every pad that has none, in the order of their numbers.
std::vector<Pin> withMissingPins(std::vector<Pin> pins, const std::vector<Pad>& pads);

}  // namespace punch
