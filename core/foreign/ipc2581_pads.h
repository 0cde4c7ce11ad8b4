#pragma once
// Land patterns of an IPC-2581 file (revisions A to C): each package's pads with their padstacks' holes and lands.

#include <string_view>

#include "core/foreign/foreign_pads.h"

namespace punch {

/// Errors: no XML, no IPC-2581 root, no package with pads.
Result<ForeignFile> padsFromIpc2581(std::string_view text, const std::string& where);

}  // namespace punch
