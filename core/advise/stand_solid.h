#pragma once
// A solid put onto a part: stood on the holes by its leads, as well as they allow, or by hand, in numbers.
// What is done by hand gives the file as it is then; whoever asks puts it back into the part.

#include <string>
#include <vector>

#include "core/base/result.h"
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

/// As it stands on the footprint, made its numbers.
SolidFile asNumbers(SolidFile file, const Footprint& footprint);
/// About an axis of the board: z keeps it on its leads' middle, another one puts another side down, whose leads are
/// found anew; its middle stays where it was.
SolidFile turnedBy(SolidFile file, const Solid& solid, const Footprint& footprint, Vec3 axis, double degrees);
/// Moved; lifting it leaves it on its leads.
SolidFile movedBy(SolidFile file, const Footprint& footprint, Vec3 by);
/// A flat face of it lies on the board, its middle where it was. Errors: the face is not flat.
Result<SolidFile> seatedOn(SolidFile file, const Solid& solid, const Footprint& footprint, std::size_t face);
/// The middle of its outline in the middle of these features. Errors: one has no place.
Result<SolidFile> centredOn(SolidFile file, const Footprint& footprint, const std::vector<FeatureId>& features);

/// One of its bodies moves so; what it sweeps, and where it touches the rest, is found. In place of an earlier motion
/// of the same body. Errors: there is no such body, it does not move.
Result<SolidFile> withMotion(SolidFile file, const Solid& solid, SolidMotion motion);
/// A first motion for a body: round ones turn about the axis that they share with another body, else their own; others
/// slide upwards.
SolidMotion usualMotion(const Solid& solid, const SolidFile& file, int body);

}  // namespace punch
