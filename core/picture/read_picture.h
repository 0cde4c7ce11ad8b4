#pragma once
// Reading a picture file: PNG, JPEG, TIFF, BMP, WebP.
//
// Whatever the file holds (16 bit, grey, palette, CMYK, alpha) becomes 8 bit grey or red, green, blue; alpha is laid
// on white; the tone curve that a file names is kept (ICC profile, sRGB, gAMA, EXIF); the orientation that a camera
// stored (EXIF 2.3, tag 0x0112) is applied. Of an animated file the first picture is taken, and a note says so.

#include <string>
#include <string_view>

#include "core/base/packed.h"
#include "core/base/result.h"
#include "core/picture/picture.h"

namespace punch {

/// What opening and finding may cost. Pixels, their grey and smaller copies, and the decoder need about three times the
/// pixels: an A4 page in colour at 1200 dpi takes 1.3 GB, and no picture takes more than 1.5.
inline constexpr double kMostPictureBytes = 5.0e8;
inline constexpr double kPictureMemory = 3.0;

/// Decoded in a process of its own with limits (core/base/worker.h).
/// Errors: no such file, no plain file, no picture format, a broken or truncated file, no pixels, more memory than
/// kMostPictureBytes.
Result<Picture> readPicture(const std::string& file);
/// In this process. `name` stands in messages.
Result<Picture> pictureFromBytes(std::string_view bytes, const std::string& name);

/// "PNG", "JPEG", "TIFF", "BMP", "WebP"; empty when the bytes begin like none of them.
std::string pictureFormat(std::string_view bytes);

void pack(Packed& to, const Picture& picture);
void unpack(Packed& from, Picture& picture);

}  // namespace punch
