#pragma once
// A scene drawn without a display: pixels with depth, what is seen through laid over from the far side to the near one.

#include <string>

#include "core/base/result.h"
#include "core/body/scene.h"
#include "core/body/space_camera.h"

namespace punch {

struct SpaceLook {
    double lift = 0;              ///< mm that bodies are lifted off
    std::optional<SpaceCut> cut;  ///< what is cut away
    std::vector<double> moved;    ///< of each mover, degrees or mm; those that are missing stand at 0
};

/// Red, green, blue of each pixel, from above, left to right.
struct Drawn {
    int width = 0, height = 0;
    std::vector<unsigned char> pixels;
};

/// Errors: a size below 16 or above 10000 pixels.
Result<Drawn> drawn(const SolidScene& scene, const SpaceCamera& camera, const SpaceLook& look = {});
/// As the bytes of a PNG file.
Result<std::string> pngOf(const Drawn& picture);

}  // namespace punch
