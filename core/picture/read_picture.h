#pragma once
// Reading a picture file: PNG, JPEG, TIFF, BMP, WebP.
//
// Whatever the file holds (16 bit, grey, palette, CMYK, alpha) becomes 8 bit grey or red, green, blue; alpha is laid
// on white; the orientation that a camera stored (EXIF 2.3, tag 0x0112) is applied. Of an animated file the first
// picture is taken, and a note says so.

#include <string>
#include <string_view>

#include "core/base/result.h"
#include "core/picture/picture.h"

namespace punch {

/// What opening may cost. Pixels, their smaller copies for looking at them, and the decoder need about 1.4 times this.
inline constexpr double kMostPictureBytes = 1.0e9;

/// Errors: no such file, no picture format, a broken or truncated file, no pixels, more memory than kMostPictureBytes.
Result<Picture> readPicture(const std::string& file);
/// `name` stands in messages.
Result<Picture> pictureFromBytes(std::string_view bytes, const std::string& name);

/// "PNG", "JPEG", "TIFF", "BMP", "WebP"; empty when the bytes begin like none of them.
std::string pictureFormat(std::string_view bytes);

}  // namespace punch
