#pragma once
// Pictures as people make them, hard to read, with their truth: for `./dev sight` and tests.
//
// Unlike scan_maker, the scene is painted in linear light with exact coverage, then blurred (lens, focus), and only
// then coded with a tone curve; cameras may look slantwise. So what it shows differs from what the finder was made
// with.
//
// Frame of a scene: mm, x right, y down, as one looks at the picture, from the picture's middle.

#include <array>
#include <cstdint>
#include <functional>
#include <optional>
#include <random>
#include <string>
#include <vector>

#include "core/picture/find.h"

namespace punch::maker {

using Ink = std::array<float, 3>;  ///< linear light, 0 to 1

inline Ink greyInk(double level) {
    return {static_cast<float>(level), static_cast<float>(level), static_cast<float>(level)};
}

/// From mm of the scene to pixels: scale, turn, and a camera's slant.
struct Camera {
    double perMmX = 23.6, perMmY = 23.6;
    double turn = 0;                  ///< degrees, clockwise as seen
    double slantX = 0, slantY = 0;    ///< relative change of scale per mm towards +x and +y
    double middleX = 0, middleY = 0;  ///< pixels

    PixelPoint at(double x, double y) const;
    void back(double px, double py, double& x, double& y) const;
    /// mm per pixel along the picture's axes about a place.
    std::pair<double, double> scaleAt(double x, double y) const;
};

/// Linear light, painted with coverage.
class Light {
public:
    Light(int w, int h, int channelCount, const Ink& ground);

    /// `distance(x, y)`: mm to the shape's outline, below 0 inside; exact or less than exact. `ink(x, y)`.
    void paint(const Camera& camera, double x, double y, double reach,
               const std::function<double(double, double)>& distance, const std::function<Ink(double, double)>& ink);
    void blur(double sigma);        ///< pixels, Gaussian
    void defocus(double diameter);  ///< pixels, a disc

    int width, height, channels;
    std::vector<float> levels;
};

// Signed distances, mm.
double toDisc(double x, double y, double radius);
double toBox(double x, double y, double width, double height, double rounded = 0);

enum class RulerKind { Steel, HalfMillimetres, InchSixteenths, LightOnDark, Clear };

struct HardRuler {
    RulerKind kind = RulerKind::Steel;
    double x = 0, y = 0;    ///< where 0 stands, at the graduated edge
    double turn = 0;        ///< degrees, clockwise as seen; 0: graduations run to the right, body below
    double length = 45;     ///< mm
    double bodyWidth = 16;  ///< mm
};

/// One true pin. Size: of a round one its diameter twice.
struct TruePin {
    PixelPoint at;
    double width = 0, height = 0;  ///< mm
    int part = 0;
};

struct HardPicture {
    std::string kind;  ///< "gloss", "two parts"
    Picture picture;
    FindOptions options;
    std::vector<FormationKind> parts;  ///< the formations in it; pins name theirs
    std::vector<double> pitches;       ///< of the same, 0 where there is none
    std::vector<TruePin> pins;
    std::vector<PixelPoint> beside;           ///< pegs, holes, lugs: found or not, they are there
    double mmPerPixelX = 0, mmPerPixelY = 0;  ///< true, at the middle of the first part
    bool square = true;                       ///< no camera looked slantwise
};

/// Kinds of hard pictures, and one of a kind. The same number gives the same pixels.
const std::vector<std::string>& hardKinds();
HardPicture hardPicture(int number);

}  // namespace punch::maker
