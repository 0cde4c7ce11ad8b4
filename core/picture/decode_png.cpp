#include <png.h>

#include <cstring>

#include "core/picture/decode.h"

namespace punch::decode {

namespace {

struct Reader {
    std::string_view bytes;
    std::size_t at = 0;
    std::string message;
};

void readBytes(png_structp png, png_bytep to, png_size_t count) {
    auto* reader = static_cast<Reader*>(png_get_io_ptr(png));
    if (reader->bytes.size() - reader->at < count) png_error(png, "the file ends too early");
    std::memcpy(to, reader->bytes.data() + reader->at, count);
    reader->at += count;
}

[[noreturn]] void onError(png_structp png, png_const_charp message) {
    static_cast<Reader*>(png_get_error_ptr(png))->message = message;
    png_longjmp(png, 1);
}

void onWarning(png_structp, png_const_charp) {}

/// What lives across the jumps of libpng.
struct PngState {
    Reader reader;
    png_structp png = nullptr;
    png_infop info = nullptr;
    Decoded out;
    std::vector<std::uint8_t> line;
    std::vector<png_bytep> rows;
    Problem refused;
    bool isRefused = false;
    ~PngState() { png_destroy_read_struct(&png, &info, nullptr); }
};

void takeRow(PngState& s, const std::uint8_t* line, int y, int samples) {
    const int channels = s.out.picture.channels;
    std::uint8_t* to = s.out.picture.row(y);
    for (int x = 0; x < s.out.picture.width; ++x, line += samples)
        for (int c = 0; c < channels; ++c) *to++ = onWhite(line[c], line[channels]);
}

/// False when libpng gave up.
bool decodeInto(PngState& s, const std::string& name) {
    if (setjmp(png_jmpbuf(s.png))) return false;  // NOLINT: libpng's way of reporting errors
    png_set_user_limits(s.png, 1000000, 1000000);
    png_read_info(s.png, s.info);
    const png_uint_32 width = png_get_image_width(s.png, s.info);
    const png_uint_32 height = png_get_image_height(s.png, s.info);
    const int type = png_get_color_type(s.png, s.info);
    const int depth = png_get_bit_depth(s.png, s.info);
    auto room = roomFor(width, height, (type & PNG_COLOR_MASK_COLOR) ? 3 : 1, name);
    if (!room) {
        s.refused = room.error();
        s.isRefused = true;
        return false;
    }
    s.out.picture = std::move(*room);
    if (depth == 16) {
        png_set_scale_16(s.png);
        s.out.picture.notes.emplace_back("16 bit taken as 8 bit");
    }
    png_set_expand(s.png);  // palette, fewer than 8 bits, a transparent colour
    const int passes = png_set_interlace_handling(s.png);
    png_read_update_info(s.png, s.info);
    const int samples = png_get_channels(s.png, s.info);
    const bool alpha = samples == s.out.picture.channels + 1;
    if (passes > 1) {
        const std::size_t bytes = png_get_rowbytes(s.png, s.info);
        s.line.resize(bytes * height);
        s.rows.resize(height);
        for (png_uint_32 y = 0; y < height; ++y) s.rows[y] = s.line.data() + y * bytes;
        png_read_image(s.png, s.rows.data());
        for (png_uint_32 y = 0; y < height; ++y) {
            if (alpha)
                takeRow(s, s.rows[y], static_cast<int>(y), samples);
            else
                std::memcpy(s.out.picture.row(static_cast<int>(y)), s.rows[y], bytes);
        }
    } else if (alpha) {
        s.line.resize(png_get_rowbytes(s.png, s.info));
        for (png_uint_32 y = 0; y < height; ++y) {
            png_read_row(s.png, s.line.data(), nullptr);
            takeRow(s, s.line.data(), static_cast<int>(y), samples);
        }
    } else {
        for (png_uint_32 y = 0; y < height; ++y) png_read_row(s.png, s.out.picture.row(static_cast<int>(y)), nullptr);
    }
    png_uint_32 x = 0, y = 0;
    int unit = 0;
    if (png_get_pHYs(s.png, s.info, &x, &y, &unit) && unit == PNG_RESOLUTION_METER)
        s.out.dpi = {x * 0.0254, y * 0.0254};
    // What names the curve best goes first: a profile, then sRGB, then a bare exponent.
    png_charp profileName = nullptr;
    png_bytep profile = nullptr;
    png_uint_32 profileSize = 0;
    int how = 0;
    double coded = 0;
    if (png_get_iCCP(s.png, s.info, &profileName, &how, &profile, &profileSize) && profile != nullptr)
        readProfile({reinterpret_cast<const char*>(profile), profileSize}, s.out);
    else if (png_get_sRGB(s.png, s.info, &how))
        s.out.picture.tone = kSrgbTone;
    else if (png_get_gAMA(s.png, s.info, &coded) && coded > 0.25 && coded < 2)
        s.out.picture.tone = 1 / coded;
    png_uint_32 exifSize = 0;
    png_bytep exif = nullptr;
    if (png_get_eXIf_1(s.png, s.info, &exifSize, &exif) && exif != nullptr)
        readExif({reinterpret_cast<const char*>(exif), exifSize}, s.out);
    return true;
}

}  // namespace

Result<Decoded> png(std::string_view bytes, const std::string& name) {
    PngState s;
    s.reader.bytes = bytes;
    s.png = png_create_read_struct(PNG_LIBPNG_VER_STRING, &s.reader, onError, onWarning);
    s.info = png_create_info_struct(s.png);
    png_set_read_fn(s.png, &s.reader, readBytes);
    if (decodeInto(s, name)) {
        // What animates a PNG stands before its first picture, which is whole.
        if (bytes.substr(0, bytes.find("IDAT")).find("acTL") != std::string_view::npos)
            s.out.picture.notes.emplace_back("animated: the first picture is taken");
        return std::move(s.out);
    }
    if (s.isRefused) return tl::make_unexpected(s.refused);
    return broken(name, s.reader.message);
}

}  // namespace punch::decode
