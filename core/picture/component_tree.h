#pragma once
// Blobs: connected patches of a picture that stand out, bright on dark or dark on bright, at whatever level.
//
// The component tree holds, for every grey level, the connected patches of pixels at or above it (or at or below it,
// for dark ones); each patch lies in one of the next level. A patch whose area hardly changes over a range of levels
// has a sharp rim: it is stable. From every branch the most stable patches are taken (Matas et al. 2002; the tree
// after Najman and Couprie 2006).

#include <vector>

#include "core/picture/picture.h"

namespace punch {

/// One stable patch, in pixels of the grey picture it was found in.
struct Blob {
    bool bright = true;
    double x = 0, y = 0;                           ///< centroid
    double area = 0;                               ///< pixels
    double xx = 0, yy = 0, xy = 0;                 ///< second central moments, pixels²
    int left = 0, right = 0, top = 0, bottom = 0;  ///< first and last pixels
    int level = 0;                                 ///< grey level at which it is most stable
    double variation = 0;                          ///< change of its area over twice `delta` levels, by its area
    /// Area by that of the ellipse with the same moments: 1 for a full ellipse, 0.955 for a full rectangle.
    double fullness() const;
    /// Half axes of the ellipse with the same moments, longer first; `turn` of the longer one, degrees, y down.
    double major() const;
    double minor() const;
    double turn() const;
};

struct BlobSearch {
    double leastArea = 12, mostArea = 1e9;  ///< pixels
    double leastFullness = 0.85;
    double mostVariation = 0.5;
    std::vector<int> deltas = {6};  ///< grey levels; a patch that is stable over one of them is taken
};

/// Stable patches of one kind. Patches at the border of the picture are left out.
std::vector<Blob> findBlobs(const Grey& grey, bool bright, const BlobSearch& search);

}  // namespace punch
