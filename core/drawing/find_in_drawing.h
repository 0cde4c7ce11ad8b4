#pragma once
// Pins in a drawing: circles, slots and rectangles of a pin's size, as exact as they are drawn.

#include "core/drawing/drawing.h"
#include "core/drawing/stated_scale.h"
#include "core/picture/find.h"

namespace punch {

/// Circles (one within another: a pad with its hole), slots of two half circles and closed rectangles, 0.35 to 7 mm,
/// each once. Frame: the drawing's pixels.
std::vector<SeenFeature> featuresDrawn(const Drawing& drawing, const std::optional<PixelRegion>& region,
                                       double mmPerPixel);

/// How wide the line around a rim is drawn, pixels: the darkness along rays outwards from it, over the darkest; the
/// median of many rays, so that lines that cross do not count. 0 when there is none.
double lineWidthAround(const Grey& page, const Rim& rim);

/// On a page of a PDF, whose lines are only seen: as findInPicture, but what stands in a text is none, and sizes are
/// those of the lines' middles (a rim that is found is the inner edge of a line). `texts` are the page's.
Result<Found> findOnPage(const Picture& page, const Drawing& texts, const FindOptions& options);

/// As findInPicture; without pairs the drawing's own size holds. `mmPerPixel` is that of the page.
/// Errors: pairs that say nothing, a region outside the drawing.
Result<Found> findInDrawing(const Drawing& drawing, const FindOptions& options);

/// What the page's texts say of the formation: "4x 0.60" makes it sure, two places without a word are little.
void noteLabels(Found& found, const Drawing& texts);

}  // namespace punch
