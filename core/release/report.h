#pragma once
// The report that stands for a footprint: one page of HTML that needs nothing else, for a colleague who asks in two
// years why the hole is 1.50. Drawing at 1:1, coordinates with their doubt, holes and lands with the rule behind them,
// voltage, drop-in, readings, gauges, sources, boards, what was set against the rules and why.
//
// Every number in it is one of derive's JSON (release/derive_json).

#include <string>

#include "core/approval/approval.h"
#include "core/base/result.h"
#include "core/footprint.h"

namespace punch {

/// `made`: the date that is printed; empty: none. A part with loose pads says so across its drawing. Errors: a place
/// that is no number.
Result<std::string> reportHtml(const Part& part, const Footprint& footprint, const std::string& made = {},
                               const Stamp& stamp = {});

}  // namespace punch
