#pragma once
// A part as a picture of any size, without a display: its sheet, or board and body in space.

#include <optional>
#include <string>

#include "core/base/result.h"
#include "core/body/scene.h"
#include "core/footprint.h"
#include "core/solid/solid_worker.h"

namespace punch {

struct PictureWanted {
    std::string view = "slanted";  ///< "sheet", or one of kSeenFrom (core/body/space_camera.h)
    int width = 1280, height = 800;
    double lift = 0;                   ///< mm that the body is lifted off
    double cut = 0;                    ///< share that is cut away from the front
    std::optional<double> yaw, pitch;  ///< degrees, in place of the view's
};

/// "sheet, slanted, above, below, front, right".
std::string pictureViews();
/// The bytes of a PNG. Bodies are read from beside the part, `home` its folder. Errors: no such view or size; a body
/// cannot be read; of the sheet: the part is not placed yet.
Result<std::string> partAsPng(const Part& part, const Footprint& footprint, const std::string& home,
                              const PictureWanted& wanted);

/// Bodies of a part as triangles, read from beside it and made of its marks.
struct BodyMeshes {
    std::vector<std::shared_ptr<const Solid>> meshes;  ///< in the order of the footprint's solids
    MarkedSolid pieces;
};
/// Errors: a body's file is not there or broken, punch-solid is missing.
Result<BodyMeshes> bodyMeshes(const Part& part, const Footprint& footprint, const std::string& home, SolidWorker& worker);

}  // namespace punch
