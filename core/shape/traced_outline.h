#pragma once
// The outline of the body as it was traced in a picture: placed on the part, mirrored where half of it was traced,
// without the detail that is to be left out.

#include <vector>

#include "core/base/length.h"
#include "core/part/part.h"

namespace punch {

class Adjustment;

/// A closed ring from the datum, without its first point again. Empty when nothing was traced, fewer than three places
/// are left, or the picture is not joined to the part: nothing was read in it.
/// A half is mirrored about the part's axis: across its ends' direction through the middle of the pins.
std::vector<Point> tracedOutline(const Part& part, const Adjustment& adjustment, Point datum);

/// Leaves out what strays less than `detail` from straight pieces (Ramer, Douglas, Peucker), and whole notches and
/// noses that are narrower and shorter than it. Frame and unit: the points' own.
std::vector<PixelPoint> withoutDetail(const std::vector<PixelPoint>& ring, double detail, bool closed);

}  // namespace punch
