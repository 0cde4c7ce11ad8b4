#pragma once
// Evidence that the user keeps with a part: links, pictures, drawings. A picture can be made an instrument.
//
// Frame of picture values: pixels, y down (base/pixel.h). What is read in a picture stands among the readings, with the
// place in pixels; the picture's scale along both axes, its turn and its shift are unknowns of the adjustment:
// "<id>.scaleX", ".scaleY" (by the nominal scale), ".angle", ".x", ".y", ".rimBright", ".rimDark"
// (core/model/picture_terms.h).

#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/pixel.h"
#include "core/base/value.h"

namespace punch {

/// Which face of the part a picture shows.
enum class PictureFace { NotSaid, PartSide, SolderSide };

/// Fields of a file that this version does not know, as the text of a JSON object; kept and written back. Mostly empty.
using UnknownFields = std::string;

/// How far a source is to be trusted.
enum class SourceState { NotSaid, Guessed, TakenIn, Measured, Drawing, Proven };

struct Source {
    PUNCH_VALUE(Source)
    std::string id;
    std::string title;
    std::string link;
    std::string picture;  ///< file, named from the part's folder; may be empty
    std::string note;
    UnknownFields unknown;
    PictureFace face = PictureFace::NotSaid;
    int page = 0;               ///< of a document, from 0
    int left = 0, top = 0;      ///< pixels: the region's corner on its page
    int width = 0, height = 0;  ///< pixels; 0 while it was never opened
    double dpi = 0;             ///< pixels per inch that the file states (of a drawing: of its page); 0 for none
    bool dpiStated = false;     ///< `dpi` is the size of the part, by the file's word or, of a page, by the user's
    bool exactScale = false;    ///< a drawing: both axes have one scale; when `dpi` is stated too, it is exact
    double mmPerUnit = 0;       ///< of a DXF: mm to its unit; 0 for other files
    Length above;               ///< doubt of how high what is seen stands above the glass
    std::string seen;           ///< "2026-11-29": when it was looked at, or fetched
    SourceState state = SourceState::NotSaid;
    friend bool operator==(const Source&, const Source&);

    /// The scale that the adjustment's scales are relative to.
    double nominalMmPerPixel() const { return 25.4 / (dpi > 0 ? dpi : 600.0); }
    bool fromBelow() const { return face == PictureFace::SolderSide; }
};

/// Where in its picture a reading was taken.
struct Pick {
    PixelPoint a;     ///< centre of the feature, or one end of a known length
    PixelPoint b;     ///< the other end of a known length
    double u = 0.5;   ///< pixels, standard uncertainty of each coordinate; of a size: of the size
    double size = 0;  ///< pixels, of a size read across the feature
    /// Of a size: half width, 95 %, of the rim offset that all rims of its look share, pixels; above 0 bright on dark,
    /// below 0 dark on bright, 0 where there is none (a drawing, a bare click).
    double rim = 0;
    UnknownFields unknown;
    friend bool operator==(const Pick&, const Pick&) = default;
};

/// The outline of the body, traced in a picture. It follows the picture's place on the part.
struct Trace {
    std::string source;
    std::vector<PixelPoint> points;  ///< in order; closed, or of a half from the part's axis back to it
    bool half = false;               ///< the other half is the mirror image about the part's axis
    Length leaveOut;                 ///< detail below this size is left out
    UnknownFields unknown;
    friend bool operator==(const Trace&, const Trace&) = default;
};

}  // namespace punch
