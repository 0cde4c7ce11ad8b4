#include <tiffio.h>

#include <cstring>
#include <memory>

#include "core/picture/decode.h"

namespace punch::decode {

namespace {

struct Memory {
    std::string_view bytes;
    toff_t at = 0;
};

tmsize_t readBytes(thandle_t handle, void* to, tmsize_t count) {
    auto* m = static_cast<Memory*>(handle);
    if (m->at >= m->bytes.size()) return 0;
    const auto n = std::min<std::size_t>(static_cast<std::size_t>(count), m->bytes.size() - m->at);
    std::memcpy(to, m->bytes.data() + m->at, n);
    m->at += n;
    return static_cast<tmsize_t>(n);
}
tmsize_t writeBytes(thandle_t, void*, tmsize_t) { return 0; }
toff_t seek(thandle_t handle, toff_t offset, int from) {
    auto* m = static_cast<Memory*>(handle);
    if (from == SEEK_CUR) offset += m->at;
    if (from == SEEK_END) offset += m->bytes.size();
    return m->at = offset;
}
int close(thandle_t) { return 0; }
toff_t sizeOf(thandle_t handle) { return static_cast<Memory*>(handle)->bytes.size(); }

struct Close {
    void operator()(TIFF* tiff) const { TIFFClose(tiff); }
};

/// Rows of plain 8 bit grey or colour, the usual scan, without the detour over four channels.
bool readPlain(TIFF* tiff, Picture& picture, bool whiteIsZero) {
    for (int y = 0; y < picture.height; ++y) {
        if (TIFFReadScanline(tiff, picture.row(y), static_cast<std::uint32_t>(y), 0) != 1) return false;
        if (whiteIsZero)
            for (int x = 0; x < picture.width; ++x)
                picture.row(y)[x] = static_cast<std::uint8_t>(255 - picture.row(y)[x]);
    }
    return true;
}

bool readAnything(TIFF* tiff, Picture& picture) {
    std::vector<std::uint32_t> rgba(static_cast<std::size_t>(picture.width) * picture.height);
    if (TIFFReadRGBAImageOriented(tiff, static_cast<std::uint32_t>(picture.width),
                                  static_cast<std::uint32_t>(picture.height), rgba.data(), ORIENTATION_TOPLEFT, 1) != 1)
        return false;
    const std::uint32_t* in = rgba.data();
    for (int y = 0; y < picture.height; ++y) {
        std::uint8_t* to = picture.row(y);
        for (int x = 0; x < picture.width; ++x, ++in) {
            // The library gives colours already multiplied by alpha: white shines through what is left.
            const unsigned rest = 255u - TIFFGetA(*in);
            *to++ = static_cast<std::uint8_t>(std::min(255u, TIFFGetR(*in) + rest));
            *to++ = static_cast<std::uint8_t>(std::min(255u, TIFFGetG(*in) + rest));
            *to++ = static_cast<std::uint8_t>(std::min(255u, TIFFGetB(*in) + rest));
        }
    }
    return true;
}

}  // namespace

Result<Decoded> tiff(std::string_view bytes, const std::string& name) {
    TIFFSetErrorHandler(nullptr);
    TIFFSetWarningHandler(nullptr);
    Memory memory{bytes, 0};
    const std::unique_ptr<TIFF, Close> tiff(
        TIFFClientOpen(name.c_str(), "rm", &memory, readBytes, writeBytes, seek, close, sizeOf, nullptr, nullptr));
    if (!tiff) return broken(name, "no first picture in it");
    std::uint32_t width = 0, height = 0;
    std::uint16_t bits = 1, samples = 1, meaning = 0, planar = PLANARCONFIG_CONTIG, unit = RESUNIT_INCH;
    std::uint16_t orientation = 1;
    float x = 0, y = 0;
    TIFFGetField(tiff.get(), TIFFTAG_IMAGEWIDTH, &width);
    TIFFGetField(tiff.get(), TIFFTAG_IMAGELENGTH, &height);
    TIFFGetFieldDefaulted(tiff.get(), TIFFTAG_BITSPERSAMPLE, &bits);
    TIFFGetFieldDefaulted(tiff.get(), TIFFTAG_SAMPLESPERPIXEL, &samples);
    TIFFGetField(tiff.get(), TIFFTAG_PHOTOMETRIC, &meaning);
    TIFFGetFieldDefaulted(tiff.get(), TIFFTAG_PLANARCONFIG, &planar);
    TIFFGetFieldDefaulted(tiff.get(), TIFFTAG_RESOLUTIONUNIT, &unit);
    TIFFGetFieldDefaulted(tiff.get(), TIFFTAG_ORIENTATION, &orientation);
    TIFFGetField(tiff.get(), TIFFTAG_XRESOLUTION, &x);
    TIFFGetField(tiff.get(), TIFFTAG_YRESOLUTION, &y);

    const bool grey = samples == 1 && (meaning == PHOTOMETRIC_MINISBLACK || meaning == PHOTOMETRIC_MINISWHITE);
    const bool plain = bits == 8 && planar == PLANARCONFIG_CONTIG && !TIFFIsTiled(tiff.get()) &&
                       (grey || (samples == 3 && meaning == PHOTOMETRIC_RGB));
    Decoded out;
    auto room = roomFor(width, height, plain && grey ? 1 : 3, name);
    if (!room) return tl::make_unexpected(room.error());
    out.picture = std::move(*room);
    if (bits == 16) out.picture.notes.emplace_back("16 bit taken as 8 bit");
    if (meaning == PHOTOMETRIC_SEPARATED) out.picture.notes.emplace_back("CMYK taken as red, green, blue");
    const bool read = plain ? readPlain(tiff.get(), out.picture, meaning == PHOTOMETRIC_MINISWHITE)
                            : readAnything(tiff.get(), out.picture);
    if (!read) return broken(name, "its pixels cannot be read to the end");
    if (plain) out.orientation = orientation;  // the other way has applied it
    if (!TIFFLastDirectory(tiff.get())) out.picture.notes.emplace_back("the first of several pages");
    void* profile = nullptr;
    std::uint32_t profileSize = 0;
    if (meaning != PHOTOMETRIC_SEPARATED && TIFFGetField(tiff.get(), TIFFTAG_ICCPROFILE, &profileSize, &profile) &&
        profile != nullptr)
        readProfile({static_cast<const char*>(profile), profileSize}, out);
    const double perInch = unit == RESUNIT_CENTIMETER ? 2.54 : unit == RESUNIT_INCH ? 1.0 : 0.0;
    out.dpi = {static_cast<double>(x) * perInch, static_cast<double>(y) * perInch};
    return out;
}

}  // namespace punch::decode
