#pragma once
// The gauges: go or no-go for every check, with value, limit, margin and culprits.
//
//   unknown  something it needs is not measured or loose
//   no-go    the value breaks the limit
//   watch    the limit holds, but by less than a tenth of it, or not over the whole 95 % doubt of the value
//   go       the rest; also a value that equals its limit by construction

#include "core/footprint.h"

namespace punch {

class Adjustment;

std::vector<Gauge> gauges(const Part& part, const Adjustment& adjustment, const Results& results);

/// The share of a finer run than derive()'s, and with it the gauge.
void setDropIn(const Part& part, Footprint& footprint, const DropInShare& share);

/// The worst state: no-go before unknown before watch before go.
GaugeState worstState(const std::vector<Gauge>& gauges);

/// "go", "watch", "no-go", "unknown".
std::string stateName(GaugeState state);

}  // namespace punch
