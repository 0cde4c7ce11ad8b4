#pragma once
// The drawing in a report: the footprint at a scale of ISO 5455, each place dimensioned from the datum with its doubt
// (ISO 129-1, by coordinates along one line).

#include "core/release/report_pages.h"

namespace punch::report {

/// Below what stands on the page already; `loose`: it says so across it.
void drawFootprint(Pages& pages, const Part& part, const Footprint& footprint, bool loose);

}  // namespace punch::report
