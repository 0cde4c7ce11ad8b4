#pragma once
// Making a photograph square: a rectangle of known size that lies in it becomes one again, and everything that lies in
// its plane with it. What stands above that plane stays shifted, away from the camera.

#include <array>

#include "core/base/result.h"
#include "core/picture/picture.h"

namespace punch {

/// Plane to picture: x = (h0 X + h1 Y + h2) / (h6 X + h7 Y + 1), y = (h3 X + h4 Y + h5) / (...).
struct Homography {
    std::array<double, 8> h{};
    PixelPoint map(double x, double y) const;
    /// Above 0 in front of the camera.
    double depth(double x, double y) const { return h[6] * x + h[7] * y + 1; }
};

/// From the corners (0,0), (width,0), (width,height), (0,height) of the plane to four places, in this order.
/// Errors: three of them on one line, or crossed over.
Result<Homography> homographyOf(double width, double height, const std::array<PixelPoint, 4>& corners);

/// A photograph that was made square.
struct Squared {
    Picture picture;                      ///< its dpi is stated: as far as the corners are right
    std::array<PixelPoint, 4> corners{};  ///< where the rectangle's corners are now
};

/// `corners` in the order in which they lie around the rectangle, `width` mm from the first to the second, `height`
/// from the second to the third. Either way around it: the picture is never turned over. The result shows the
/// rectangle's surroundings too, up to twice its size on each side as far as the picture shows them; nothing is drawn
/// more finely than it was taken. Errors: as homographyOf; sizes that are none; more than the memory of a picture.
Result<Squared> madeSquare(const Picture& picture, const std::array<PixelPoint, 4>& corners, double width,
                           double height);

}  // namespace punch
