#pragma once
// Taking what was found in a picture into the part: features, and the readings of where they stand in it.

#include <optional>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/part/part.h"
#include "core/picture/find.h"

namespace punch {

struct TakeOptions {
    std::size_t pinOne = 0;   ///< index among the features of the one that is pin 1
    bool asFormation = true;  ///< else every pin by itself: nothing but the places is taken for known
    bool spots = true;        ///< pegs, lugs and holes beside the formation come too
};

/// Brings a picture or drawing into the part and gives the source its id.
std::pair<Part, std::string> withSource(Part part, Source source);
/// Of a picture: its size and dpi, and a title. The face is asked later.
std::pair<Part, std::string> withPicture(Part part, const std::string& title, const std::string& file,
                                         const Picture& picture);

/// Adds a known length between two places of a picture. Errors: no such picture, places that coincide, no length.
Result<Part> withKnownLength(Part part, const std::string& source, PixelPoint a, PixelPoint b, const std::string& typed,
                             Unit unit, double u);

/// Adds a line that runs along the row or across it. Errors: no such picture, places that lie close together.
Result<Part> withLevel(Part part, const std::string& source, PixelPoint a, PixelPoint b, double u);

/// Features and readings from what was found. The formation goes into the part's first one while nothing was read of
/// it; onto one of the same kind and number when there is one; else it is added. Where the picture's parameters and the
/// formation's are drawn follows from what was found. Errors: the face has not been said, no formation, no such
/// picture.
Result<Part> withFound(Part part, const std::string& source, const Found& found, const TakeOptions& options);

/// Reads one feature's place in a picture (or reads it anew): two readings, of a face the one across it, and a size
/// when one is given, with the offset that its rim shares (Pick::rim).
Part withPick(Part part, const std::string& source, const FeatureId& feature, PixelPoint at, double u,
              std::optional<double> size = {}, double uSize = 0.5, double rim = 0);

/// The feature whose place was read here in the picture before; empty when there is none. With `bySize` a size that was
/// read here counts too.
FeatureId featureReadAt(const Part& part, const std::string& source, const Rim& rim, bool bySize = false);

/// Takes a picture out, with everything that was read or traced in it; a drawing's values stay, without their places.
Part withoutPicture(Part part, const std::string& source);

}  // namespace punch
