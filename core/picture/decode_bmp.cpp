#include <cmath>
#include <memory>

#include "core/picture/decode.h"

#define STB_IMAGE_IMPLEMENTATION
#define STB_IMAGE_STATIC
#define STBI_ONLY_BMP
#define STBI_NO_STDIO
#define STBI_MAX_DIMENSIONS 1000000
#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wunused-function"
#pragma GCC diagnostic ignored "-Wconversion"
#pragma GCC diagnostic ignored "-Wshadow"
#pragma GCC diagnostic ignored "-Wunused-but-set-variable"
#include <stb/stb_image.h>
#pragma GCC diagnostic pop

namespace punch::decode {

namespace {

std::uint32_t word(std::string_view bytes, std::size_t at) {
    std::uint32_t v = 0;
    for (std::size_t i = 0; i < 4; ++i)
        v |= static_cast<std::uint32_t>(static_cast<std::uint8_t>(bytes[at + i])) << (8 * i);
    return v;
}

}  // namespace

Result<Decoded> bmp(std::string_view bytes, const std::string& name) {
    const auto* data = reinterpret_cast<const stbi_uc*>(bytes.data());
    const int size = static_cast<int>(bytes.size());
    int width = 0, height = 0, channels = 0;
    if (bytes.size() > 0x7FFFFFFFu || !stbi_info_from_memory(data, size, &width, &height, &channels))
        return broken(name, "its header is damaged");
    auto room = roomFor(width, height, 3, name);
    if (!room) return tl::make_unexpected(room.error());
    // The library fills what is missing at the end of a file with black.
    const std::uint32_t bits = bytes.size() > 30 ? word(bytes, 28) & 0xFFFFu : 0;
    if (bytes.size() > 34 && word(bytes, 14) >= 40 && word(bytes, 30) != 0 && word(bytes, 30) != 3)
        return broken(name, "its pixels are packed");
    const double stride = 4 * std::ceil(bits * static_cast<double>(width) / 32);
    if (word(bytes, 10) + stride * height > static_cast<double>(bytes.size()))
        return broken(name, "the file ends too early");
    struct Free {
        void operator()(stbi_uc* p) const { stbi_image_free(p); }
    };
    const std::unique_ptr<stbi_uc, Free> pixels(stbi_load_from_memory(data, size, &width, &height, &channels, 3));
    if (!pixels) return broken(name, stbi_failure_reason());
    Decoded out;
    out.picture = std::move(*room);
    std::copy(pixels.get(), pixels.get() + out.picture.data.size(), out.picture.data.begin());
    if (bytes.size() >= 46 && word(bytes, 14) >= 40) out.dpi = {word(bytes, 38) * 0.0254, word(bytes, 42) * 0.0254};
    return out;
}

}  // namespace punch::decode
