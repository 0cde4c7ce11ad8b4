#pragma once
// What a footprint can be written as. One table: dialog, command line and writing read it.

#include <optional>
#include <string>
#include <vector>

#include "core/approval/approval.h"
#include "core/base/atomic_file.h"
#include "core/footprint.h"
#include "core/release/zero_orientation.h"

namespace punch {

enum class Format { Gerber, Drill, Ipc2581, Dxf, Csv, Json, Svg, Paper, Report, Step, Symbol };

/// Where the receiver wants 0, 0.
enum class Origin {
    Datum,         ///< as the part says
    PinOne,
    MiddleOfPins,  ///< of the field that they span
    MiddleOfBody,
};

/// What files are called, and what they say of themselves.
struct Leaving {
    std::string stem;
    std::string home;  ///< the folder of the part's file
    Stamp stamp;
    Angle turn;  ///< of the footprint, for what is not a footprint: bodies
};

struct FormatKind {
    Format format;
    const char* name;   ///< of the command line
    const char* words;  ///< "Gerber X2, nine layers"
    /// Its files, their names beginning with `stem`. Errors: something that the format cannot hold.
    Result<std::vector<NamedContent>> (*files)(const Part& part, const Footprint& footprint, const Leaving& as);
};
const std::vector<FormatKind>& formats();

/// "gerber, drill, csv, svg or step".
std::string formatNames();
/// Errors: an unknown name.
Result<Format> formatFromName(const std::string& name);

/// How the footprint is turned for the receiver.
struct Turning {
    ZeroOrientation zero = ZeroOrientation::AsPart;
    int quarters = 0;  ///< and then so many quarter turns, counter-clockwise
    friend bool operator==(const Turning&, const Turning&) = default;
};

/// The part with its datum there; all else stays. A part without a body keeps its datum.
Part withOrigin(Part part, Origin origin);

/// The files of the chosen formats, in memory. Errors: as their formats; then there are none. `stamp` is that of the
/// part as it is kept, which turning it or moving its 0, 0 does not change; none: that of `part`.
Result<std::vector<NamedContent>> releaseFiles(const Part& part, const Footprint& footprint,
                                               const std::vector<Format>& chosen, const std::string& home = {},
                                               const std::optional<Stamp>& stamp = {}, Turning turning = {});

/// What is to be handed over: the formats of an occasion.
struct Occasion {
    const char* name;   ///< of the command line: "layout"
    const char* words;  ///< "For the layout"
    std::vector<Format> formats;
};
const std::vector<Occasion>& occasions();

/// The footprint as the receiver wants it turned.
Footprint turnedFor(const Part& part, const Footprint& footprint, Turning turning);

/// What keeps the footprint from being released with a clear conscience: loose features, no-go gauges. One line each.
std::vector<std::string> releaseWarnings(const Footprint& footprint);

/// A file name from a part's name: letters, digits, - and _ stay.
std::string fileStem(const std::string& name);

}  // namespace punch
