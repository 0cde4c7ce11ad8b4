#pragma once
// Makes scans of parts that do not exist, with the truth beside them: for the demo parts and for tests.
//
// A flatbed's view of the underside of a part: housing, pins with shading and gloss, pegs, lugs, a ruler with ticks and
// numerals, dust; turned a little, with a scale of its own along each axis, blurred and noisy. Seeded: the same scene
// gives the same pixels.

#include <cstdint>
#include <string>
#include <vector>

#include "core/picture/picture.h"

namespace punch::maker {

enum class Look { Pin, Pad, Hole, Peg, Lug };

/// One thing on the part. Frame: mm, x right, y up, seen from the part side, from the middle of the housing.
struct Thing {
    Look look = Look::Pin;
    double x = 0, y = 0;
    double width = 1, height = 1;  ///< of a round one both its diameter
    double turn = 0;               ///< degrees, counter-clockwise
    bool round = true;
};

/// Round pins in a row about the middle, and on an arc from `from` to `to` degrees.
std::vector<Thing> rowOfPins(int count, double pitch, double diameter, double y = 0);
std::vector<Thing> arcOfPins(int count, double circle, double from, double to, double diameter);

struct Scene {
    double dpi = 600;                              ///< what the scanner says it does
    double stretchX = 1, stretchY = 1;             ///< what it really does: pixels along each axis, by what `dpi` says
    double tilt = 0;                               ///< degrees, counter-clockwise as one looks at the picture
    bool fromBelow = true;                         ///< the solder face lies on the glass: left and right are exchanged
    double pictureWidth = 60, pictureHeight = 45;  ///< mm
    double middleX = 30, middleY = 18;             ///< mm from the top left corner: where the housing's middle lies
    double housingWidth = 24, housingHeight = 20;  ///< mm
    double boss = 0;  ///< mm, diameter of a raised disc in the housing's middle; 0 for none
    int housing = 58, background = 226, metal = 205, plastic = 92;  ///< grey levels
    double gloss = 0.5;                                             ///< 0 to 1
    double dust = 20;                                               ///< flecks per 10 cm²
    double blur = 1.0;                                              ///< pixels
    double noise = 0.02;                                            ///< of full scale
    bool ruler = true;
    double rulerLength = 45;  ///< mm, from 0
    bool colour = false;
    std::uint32_t seed = 1;
    std::vector<Thing> things;
};

struct Scan {
    Picture picture;
    std::vector<PixelPoint> places;             ///< of the things, true
    std::vector<PixelPoint> rulerTicks;         ///< one a millimetre, at the ruler's edge, true
    double pixelsPerMmX = 0, pixelsPerMmY = 0;  ///< true
};

Scan makeScan(const Scene& scene);

/// Writes a PNG with its dpi. Fast: little effort in packing.
std::string pngBytes(const Picture& picture, double dpi);

}  // namespace punch::maker
