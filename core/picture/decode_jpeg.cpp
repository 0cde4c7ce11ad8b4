#include <csetjmp>
#include <cstdio>
#include <cstdlib>

#include <jpeglib.h>

#include "core/picture/decode.h"

namespace punch::decode {

namespace {

struct Errors {
    jpeg_error_mgr base{};
    std::jmp_buf jump{};
    char message[JMSG_LENGTH_MAX] = {};
    long warnings = 0;
};

[[noreturn]] void onError(j_common_ptr jpeg) {
    auto* errors = reinterpret_cast<Errors*>(jpeg->err);
    errors->base.format_message(jpeg, errors->message);
    std::longjmp(errors->jump, 1);
}

void onMessage(j_common_ptr jpeg, int level) {
    auto* errors = reinterpret_cast<Errors*>(jpeg->err);
    if (level >= 0) return;
    if (errors->warnings++ == 0) errors->base.format_message(jpeg, errors->message);
}

struct JpegState {
    jpeg_decompress_struct jpeg{};
    Errors errors;
    Decoded out;
    std::vector<std::uint8_t> line;
    Problem refused;
    bool isRefused = false;
    ~JpegState() { jpeg_destroy_decompress(&jpeg); }
};

bool decodeInto(JpegState& s, std::string_view bytes, const std::string& name) {
    if (setjmp(s.errors.jump)) return false;  // NOLINT: the library's way of reporting errors
    jpeg_mem_src(&s.jpeg, reinterpret_cast<const unsigned char*>(bytes.data()), bytes.size());
    jpeg_save_markers(&s.jpeg, JPEG_APP0 + 1, 0xFFFF);
    jpeg_save_markers(&s.jpeg, JPEG_APP0 + 2, 0xFFFF);
    jpeg_read_header(&s.jpeg, TRUE);
    const bool grey = s.jpeg.jpeg_color_space == JCS_GRAYSCALE;
    const bool cmyk = s.jpeg.jpeg_color_space == JCS_CMYK || s.jpeg.jpeg_color_space == JCS_YCCK;
    s.jpeg.out_color_space = grey ? JCS_GRAYSCALE : cmyk ? JCS_CMYK : JCS_RGB;
    auto room = roomFor(s.jpeg.image_width, s.jpeg.image_height, grey ? 1 : 3, name);
    if (!room) {
        s.refused = room.error();
        s.isRefused = true;
        return false;
    }
    s.out.picture = std::move(*room);
    jpeg_start_decompress(&s.jpeg);
    const bool inverted = s.jpeg.saw_Adobe_marker;
    if (cmyk) {
        s.line.resize(std::size_t{4} * s.jpeg.output_width);
        s.out.picture.notes.emplace_back("CMYK taken as red, green, blue");
    }
    if (JOCTET* profile = nullptr; !cmyk) {
        unsigned size = 0;
        if (jpeg_read_icc_profile(&s.jpeg, &profile, &size)) {
            readProfile({reinterpret_cast<const char*>(profile), size}, s.out);
            std::free(profile);
        }
    }
    while (s.jpeg.output_scanline < s.jpeg.output_height) {
        JSAMPROW to = s.out.picture.row(static_cast<int>(s.jpeg.output_scanline));
        if (!cmyk) {
            jpeg_read_scanlines(&s.jpeg, &to, 1);
            continue;
        }
        JSAMPROW line = s.line.data();
        jpeg_read_scanlines(&s.jpeg, &line, 1);
        for (unsigned x = 0; x < s.jpeg.output_width; ++x, line += 4)
            for (int c = 0; c < 3; ++c) {
                const unsigned ink = inverted ? line[c] : 255u - line[c];
                const unsigned black = inverted ? line[3] : 255u - line[3];
                *to++ = static_cast<std::uint8_t>(ink * black / 255u);
            }
    }
    if (s.jpeg.saw_JFIF_marker && s.jpeg.density_unit != 0) {
        const double unit = s.jpeg.density_unit == 2 ? 2.54 : 1.0;
        s.out.dpi = {s.jpeg.X_density * unit, s.jpeg.Y_density * unit};
    }
    for (jpeg_saved_marker_ptr m = s.jpeg.marker_list; m != nullptr; m = m->next)
        if (m->marker == JPEG_APP0 + 1) readExif({reinterpret_cast<const char*>(m->data), m->data_length}, s.out);
    // Warnings are data errors that the library papers over with grey: such pixels must not be measured in.
    return s.errors.warnings == 0;
}

}  // namespace

Result<Decoded> jpeg(std::string_view bytes, const std::string& name) {
    JpegState s;
    s.jpeg.err = jpeg_std_error(&s.errors.base);
    s.errors.base.error_exit = onError;
    s.errors.base.emit_message = onMessage;
    jpeg_create_decompress(&s.jpeg);
    if (decodeInto(s, bytes, name)) return std::move(s.out);
    if (s.isRefused) return tl::make_unexpected(s.refused);
    return broken(name, s.errors.message);
}

}  // namespace punch::decode
