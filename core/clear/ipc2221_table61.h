#pragma once
// IPC-2221B table 6-1: least spacing of conductors by peak or d.c. volts and column.
//
// Columns: B1 internal; B2 external, uncoated, to 3050 m; B3 external, uncoated, above 3050 m; B4 external, permanent
// polymer coating; A5 external, conformal coating over the assembly; A6 component lead, uncoated, to 3050 m; A7 the
// same, coated. Above 500 V: the 500 V value plus a share for each further volt.

#include "core/base/length.h"
#include "core/base/voltage.h"
#include "core/part/part.h"

namespace punch {

/// The spacing asked for at `peak`; fractions of a volt count into the next row (50.5 V is in 51-100).
Length ipc2221Spacing(VoltageColumn column, Voltage peak);

}  // namespace punch
