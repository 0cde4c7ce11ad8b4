#pragma once
// Reading DXF: lines, polylines with bulges, circles, arcs, ellipses, splines, blocks, texts and dimensions.
//
// Text files of all versions from R12 on. Only the model is read, not the sheets it is printed on; layers that are
// frozen or off are read too. Height (z) is ignored: the drawing is seen from above.

#include <optional>
#include <string>
#include <string_view>

#include "core/base/result.h"
#include "core/drawing/drawing.h"

namespace punch {

/// `mmPerUnit` is what the user says; it goes before the file's word. With neither, units are taken as mm and
/// Drawing::mmPerUnit stays empty, so that the caller can ask. The page is what is drawn, with a margin of a tenth.
/// Errors: cannot be opened, no DXF, a binary one, nothing drawn, larger than 10 m or too much to hold.
Result<Drawing> readDxf(const std::string& file, std::optional<double> mmPerUnit = {});
Result<Drawing> dxfFromText(std::string_view text, const std::string& name, std::optional<double> mmPerUnit = {});

/// Is this the beginning of a DXF?
bool looksLikeDxf(std::string_view bytes);

}  // namespace punch
