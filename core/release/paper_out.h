#pragma once
// Footprints on paper at true scale, to lay parts on and to punch their leads through: PDF by Cairo, without a display.
//
// Each part stands in a cell of its own with cut marks at its corners, a cross-hair grid of 5 mm and a ruler along two
// edges; every page has a test length on both axes. Holes are circles as large as their least lead or peg, so that what
// punches through fits. Printers scale behind one's back, and seldom alike on both axes: `printedX` and `printedY` are
// what 100 mm measured, and the page is drawn the other way by as much.

#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/footprint.h"

namespace punch {

inline constexpr double kPaperTestLength = 100;  // mm

struct PaperPart {
    const Part* part = nullptr;
    const Footprint* footprint = nullptr;
    std::string stamp = {};  ///< a line under it; empty: none
};

struct PaperOptions {
    bool mirrored = false;  ///< the underside is laid on it
    double printedX = kPaperTestLength, printedY = kPaperTestLength;  ///< mm that the test lengths measured in print
    double pageWidth = 210, pageHeight = 297;                         ///< mm
};

/// Errors: no parts, a part larger than the page, a correction beyond 10 %, loose pads (unless `part` says so).
Result<std::string> paperPdf(const std::vector<PaperPart>& parts, const PaperOptions& options = {});

}  // namespace punch
