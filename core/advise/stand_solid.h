#pragma once
// A solid put onto a part: stood on the holes by its leads, as well as they allow.

#include <string>

#include "core/footprint.h"
#include "core/solid/leads.h"

namespace punch {

struct StoodSolid {
    Part part;       ///< with the solid as its last one
    std::string id;  ///< of that
    /// Its leads met holes. Otherwise it stands as in its file, on its leads or its lowest point.
    bool met = false;
};

/// `file` is its name from the part's folder, `digest` that of its bytes (core/solid/found_solid.h).
StoodSolid withSolid(const Part& part, const Footprint& footprint, const Solid& solid,
                     const std::vector<Standing>& standings, const std::string& name, const std::string& file,
                     const std::string& digest);

}  // namespace punch
