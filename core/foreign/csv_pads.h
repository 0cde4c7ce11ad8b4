#pragma once
// Pads out of a table: number, x, y and what else its headings name (hole, land, length, turn, shape, plated), in mm,
// mil or inches as a heading says; any separator and encoding (core/base/text_table).

#include <string_view>

#include "core/foreign/foreign_pads.h"

namespace punch {

/// Errors: no columns of x and y, no line with numbers.
Result<ForeignFile> padsFromCsv(std::string_view text, const std::string& name);

}  // namespace punch
