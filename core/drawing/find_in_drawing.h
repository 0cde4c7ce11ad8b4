#pragma once
// Pins in a drawing: circles, slots and rectangles of a pin's size, as exact as they are drawn.

#include "core/drawing/drawing.h"
#include "core/picture/find.h"

namespace punch {

/// Circles (one within another: a pad with its hole), slots of two half circles and closed rectangles, 0.35 to 7 mm,
/// each once. Frame: the drawing's pixels.
std::vector<SeenFeature> featuresDrawn(const Drawing& drawing, const std::optional<PixelRegion>& region,
                                       double mmPerPixel);

/// As findInPicture; without pairs the drawing's own size holds. `mmPerPixel` is that of the page.
/// Errors: pairs that say nothing, a region outside the drawing.
Result<Found> findInDrawing(const Drawing& drawing, const FindOptions& options);

}  // namespace punch
