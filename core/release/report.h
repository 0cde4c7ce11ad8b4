#pragma once
// The report that stands for a footprint as one page of HTML that needs nothing else, for a colleague who asks in two
// years why the hole is 1.50. What it says: release/report_content.

#include <string>

#include "core/base/result.h"
#include "core/release/report_content.h"

namespace punch {

/// A part with loose pads says so across its drawing. Errors: a place that is no number.
Result<std::string> reportHtml(const Part& part, const Footprint& footprint, const ReportContent& content);

}  // namespace punch
