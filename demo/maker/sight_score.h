#pragma once
// What the finder made of a hard picture, against the truth.

#include <string>
#include <vector>

#include "core/base/result.h"
#include "demo/maker/hard_picture.h"

namespace punch::maker {

struct SightScore {
    bool refused = false;         ///< no answer but a message
    bool formationRight = false;  ///< kind, number, pitch and members of one of the parts
    int pins = 0, missed = 0, invented = 0;
    bool scaleOff = false;            ///< by more than its doubt
    std::vector<std::string> silent;  ///< what is wrong without a note that names it
    std::vector<double> off;          ///< mm, of each pin that was found
    int places = 0, placesHeld = 0;   ///< coordinates, and those in their 95 % doubt
    int sizes = 0, sizesHeld = 0;
    std::vector<double> sizeOff;  ///< mm, found less true
    double scaleOffBy = 0;        ///< relative, the worse axis, by its doubt
    std::string words;            ///< what was found, for a line of the table
};

SightScore scoreOf(const HardPicture& truth, const Result<Found>& found);

}  // namespace punch::maker
