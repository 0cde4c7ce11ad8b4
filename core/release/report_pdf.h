#pragma once
// The report as one to four pages of PDF, set like a measuring laboratory's certificate: what it is of, its digest, the
// drawing with dimensions and their doubt, tables, sources with the readings on them. By Cairo, without a display.
//
// The drawing stands at a scale of ISO 5455; each place is dimensioned from the datum (ISO 129-1, by coordinates along
// one line), with its doubt at 95 %.

#include <string>

#include "core/base/result.h"
#include "core/release/report_content.h"

namespace punch {

inline constexpr int kMostReportPages = 4;

/// Tables that would lead past the last page are cut, and say how many lines are left out. The same part gives the same
/// bytes. Errors: a place that is no number.
Result<std::string> reportPdf(const Part& part, const Footprint& footprint, const ReportContent& content);

}  // namespace punch
