#pragma once
// What the decoders of the single formats share. Only read_picture.cpp and the decoders use this.

#include <cstdint>
#include <string>
#include <string_view>

#include "core/base/result.h"
#include "core/picture/picture.h"

namespace punch::decode {

/// Before orientation and dpi are judged.
struct Decoded {
    Picture picture;
    Dpi dpi;              ///< as stated; 0 for none
    int orientation = 1;  ///< EXIF 2.3, 1 to 8
};

Result<Decoded> png(std::string_view bytes, const std::string& name);
Result<Decoded> jpeg(std::string_view bytes, const std::string& name);
Result<Decoded> tiff(std::string_view bytes, const std::string& name);
Result<Decoded> webp(std::string_view bytes, const std::string& name);
Result<Decoded> bmp(std::string_view bytes, const std::string& name);

/// Takes the size, or says what it would need. Errors: no pixels, more than kMostPictureBytes.
Result<Picture> roomFor(double width, double height, int channels, const std::string& name);
tl::unexpected<Problem> broken(const std::string& name, const std::string& why);
/// Orientation and resolution from an EXIF block ("Exif\0\0" or the TIFF header first).
void readExif(std::string_view exif, Decoded& into);
/// The tone curve of an ICC profile (ISO 15076-1), as the exponent that is nearest to it; nothing when it has none.
void readProfile(std::string_view profile, Decoded& into);
inline constexpr double kSrgbTone = 2.2;  ///< IEC 61966-2-1, as near as one exponent comes to it
/// `alpha` of 255 lays `value` on white.
inline std::uint8_t onWhite(unsigned value, unsigned alpha) {
    return static_cast<std::uint8_t>((value * alpha + 255u * (255u - alpha) + 127u) / 255u);
}

}  // namespace punch::decode
