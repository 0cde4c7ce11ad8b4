#pragma once
// The proof board: the footprint on a small board of its own, with three global fiducials.
//
// Fiducials (IPC-7351, SMEMA 3.1): round copper 1.0, mask opening 2.0, no paste, three and not symmetrical, at least
// 5.0 plus their clear ring from the board's edge. Frame: as the footprint, origin at the datum.

#include <string>
#include <vector>

#include "core/base/atomic_file.h"
#include "core/footprint.h"

namespace punch {

struct ProofBoard {
    Rect outline;
    std::vector<Point> fiducials;
    static Length fiducialCopper() { return Length::fromMm(1.0); }
    static Length fiducialOpening() { return Length::fromMm(2.0); }
};

ProofBoard proofBoard(const Footprint& footprint);

enum class Format { Gerber, Drill, Csv, Svg };
std::string formatName(Format format);
/// Errors: an unknown name.
Result<Format> formatFromName(const std::string& name);

/// The files of the chosen formats, in memory.
std::vector<NamedContent> releaseFiles(const Part& part, const Footprint& footprint,
                                       const std::vector<Format>& formats);

/// What keeps the footprint from being released with a clear conscience: loose features, no-go gauges. One line each.
std::vector<std::string> releaseWarnings(const Part& part, const Footprint& footprint);

/// A file name from a part's name: letters, digits, - and _ stay.
std::string fileStem(const std::string& name);

}  // namespace punch
