#pragma once
// Packages with surface terminals as they are called, with the form of their leads: lands and bodies are made from
// them.

#include <string_view>

#include "core/size/surface_lands.h"

namespace punch {

struct PackageForm {
    const char* words;
    LeadForm form;
    int sides;  ///< with terminals; 1: a chip, its two ends
};

/// None when nothing is called so.
const PackageForm* packageForm(std::string_view words);

}  // namespace punch
