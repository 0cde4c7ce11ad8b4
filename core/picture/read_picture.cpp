#include "core/picture/read_picture.h"

#include <fmt/format.h>
#include <lcms2.h>
#include <libexif/exif-data.h>

#include <cmath>
#include <filesystem>
#include <fstream>
#include <memory>

#include "core/base/atomic_file.h"
#include "core/base/read_in_worker.h"
#include "core/picture/decode.h"

namespace punch {

namespace decode {

Result<Picture> roomFor(double width, double height, int channels, const std::string& name) {
    if (width < 1 || height < 1) return broken(name, "it has no pixels");
    const double bytes = width * height * channels;
    if (bytes > kMostPictureBytes)
        return problem(
            fmt::format("{:.0f} x {:.0f} pixels need {:.1f} GB of memory, more than the {:.1f} GB that a "
                        "picture may take",
                        width, height, bytes * kPictureMemory / 1e9, kMostPictureBytes * kPictureMemory / 1e9),
            name, "Cut out the part and the ruler, or scan at a lower resolution");
    Picture picture;
    picture.width = static_cast<int>(width);
    picture.height = static_cast<int>(height);
    picture.channels = channels;
    picture.data.resize(static_cast<std::size_t>(bytes));
    return picture;
}

tl::unexpected<Problem> broken(const std::string& name, const std::string& why) {
    return problem("the picture cannot be read: " + why, name, "Scan or save it again");
}

void readExif(std::string_view exif, Decoded& into) {
    std::string block(exif);
    if (!block.starts_with(std::string_view("Exif\0\0", 6))) {
        if (!block.starts_with("II") && !block.starts_with("MM")) return;
        block.insert(0, std::string_view("Exif\0\0", 6));
    }
    struct Free {
        void operator()(ExifData* d) const { exif_data_unref(d); }
    };
    const std::unique_ptr<ExifData, Free> data(exif_data_new_from_data(
        reinterpret_cast<const unsigned char*>(block.data()), static_cast<unsigned>(block.size())));
    if (!data) return;
    const ExifByteOrder order = exif_data_get_byte_order(data.get());
    const auto entry = [&](ExifTag tag, ExifFormat format) -> const unsigned char* {
        const ExifEntry* e = exif_content_get_entry(data->ifd[EXIF_IFD_0], tag);
        return e != nullptr && e->format == format && e->size >= exif_format_get_size(format) ? e->data : nullptr;
    };
    if (const auto* o = entry(EXIF_TAG_ORIENTATION, EXIF_FORMAT_SHORT)) {
        const int orientation = exif_get_short(o, order);
        if (orientation >= 1 && orientation <= 8) into.orientation = orientation;
    }
    // 1 is sRGB; what is not calibrated (0xFFFF) says nothing.
    if (const ExifEntry* e = exif_content_get_entry(data->ifd[EXIF_IFD_EXIF], EXIF_TAG_COLOR_SPACE);
        e != nullptr && e->format == EXIF_FORMAT_SHORT && e->size >= 2 && exif_get_short(e->data, order) == 1 &&
        !into.picture.tone)
        into.picture.tone = kSrgbTone;
    if (into.dpi.x > 0) return;
    const auto* x = entry(EXIF_TAG_X_RESOLUTION, EXIF_FORMAT_RATIONAL);
    const auto* y = entry(EXIF_TAG_Y_RESOLUTION, EXIF_FORMAT_RATIONAL);
    if (x == nullptr || y == nullptr) return;
    const auto* u = entry(EXIF_TAG_RESOLUTION_UNIT, EXIF_FORMAT_SHORT);
    const double unit = u != nullptr && exif_get_short(u, order) == 3 ? 2.54 : 1.0;
    const auto value = [&](const unsigned char* p) {
        const ExifRational r = exif_get_rational(p, order);
        return r.denominator == 0 ? 0.0 : unit * r.numerator / r.denominator;
    };
    into.dpi = {value(x), value(y)};
}

void readProfile(std::string_view profile, Decoded& into) {
    struct Close {
        void operator()(void* p) const { cmsCloseProfile(p); }
    };
    const std::unique_ptr<void, Close> open(
        cmsOpenProfileFromMem(profile.data(), static_cast<cmsUInt32Number>(profile.size())));
    if (!open) return;
    for (const cmsTagSignature tag : {cmsSigGreenTRCTag, cmsSigGrayTRCTag}) {
        const auto* curve = static_cast<const cmsToneCurve*>(cmsReadTag(open.get(), tag));
        if (curve == nullptr) continue;
        // How far it may stray from one exponent: an sRGB curve does by some hundredths.
        const double tone = cmsEstimateGamma(curve, 0.3);
        if (tone > 0.5 && tone < 4) into.picture.tone = tone;
        return;
    }
}

}  // namespace decode

namespace {

/// Turned and mirrored as the camera was held.
Picture upright(Picture in, int orientation) {
    if (orientation <= 1 || orientation > 8) return in;
    const bool swapped = orientation >= 5;
    Picture out = in;
    if (swapped) std::swap(out.width, out.height);
    for (int y = 0; y < out.height; ++y) {
        std::uint8_t* to = out.row(y);
        for (int x = 0; x < out.width; ++x) {
            int sx = swapped ? y : x;
            int sy = swapped ? x : y;
            if (orientation == 2 || orientation == 3 || orientation == 7 || orientation == 8) sx = in.width - 1 - sx;
            if (orientation == 3 || orientation == 4 || orientation == 6 || orientation == 7) sy = in.height - 1 - sy;
            const std::uint8_t* from = in.row(sy) + static_cast<std::size_t>(sx) * in.channels;
            for (int c = 0; c < in.channels; ++c) *to++ = from[c];
        }
    }
    out.notes.emplace_back("turned upright as the camera stored it");
    return out;
}

constexpr double kMostFileBytes = 1.5e9;

bool isPlausible(double dpi) { return dpi >= 20 && dpi <= 20000; }

}  // namespace

std::string pictureFormat(std::string_view b) {
    if (b.starts_with("\x89PNG\r\n\x1a\n")) return "PNG";
    if (b.starts_with("\xFF\xD8\xFF")) return "JPEG";
    if (b.starts_with(std::string_view("II*\0", 4)) || b.starts_with(std::string_view("MM\0*", 4)) ||
        b.starts_with(std::string_view("II+\0", 4)) || b.starts_with(std::string_view("MM\0+", 4)))
        return "TIFF";
    if (b.size() > 12 && b.starts_with("RIFF") && b.substr(8, 4) == "WEBP") return "WebP";
    if (b.size() > 18 && b.starts_with("BM") && b[14] != 0 && b[15] == 0) return "BMP";
    return {};
}

Result<Picture> pictureFromBytes(std::string_view bytes, const std::string& name) {
    if (bytes.empty()) return problem("the file is empty", name, "Scan or save it again");
    const std::string format = pictureFormat(bytes);
    if (format.empty()) return problem("no picture that can be read", name, "PNG, JPEG, TIFF, BMP and WebP can");
    try {
        auto decoded = format == "PNG"    ? decode::png(bytes, name)
                       : format == "JPEG" ? decode::jpeg(bytes, name)
                       : format == "TIFF" ? decode::tiff(bytes, name)
                       : format == "WebP" ? decode::webp(bytes, name)
                                          : decode::bmp(bytes, name);
        if (!decoded) return tl::make_unexpected(decoded.error());
        Dpi dpi = decoded->dpi;
        if (decoded->orientation >= 5) std::swap(dpi.x, dpi.y);
        Picture picture = upright(std::move(decoded->picture), decoded->orientation);
        picture.format = format;
        if (isPlausible(dpi.x) && isPlausible(dpi.y))
            picture.dpi = dpi;
        else if (dpi.x != 0 || dpi.y != 0)
            picture.notes.push_back(
                fmt::format("its {:.4g} x {:.4g} dpi are not used: no scanner makes them", dpi.x, dpi.y));
        return picture;
    } catch (const std::bad_alloc&) {
        return problem("the picture needs more memory than there is", name, "Cut out the part and the ruler");
    }
}

void pack(Packed& to, const Picture& p) {
    to.put(p.width);
    to.put(p.height);
    to.put(p.channels);
    to.put(p.dpi ? std::vector<double>{p.dpi->x, p.dpi->y} : std::vector<double>{});
    to.put(p.tone.value_or(0));
    to.put(p.format);
    to.put(p.notes);
    to.put(p.data);
}

void unpack(Packed& from, Picture& p) {
    std::vector<double> dpi;
    from.get(p.width);
    from.get(p.height);
    from.get(p.channels);
    from.get(dpi);
    if (dpi.size() == 2) p.dpi = Dpi{dpi[0], dpi[1]};
    double tone = 0;
    from.get(tone);
    if (tone > 0) p.tone = tone;
    from.get(p.format);
    from.get(p.notes);
    from.get(p.data);
}

Result<Picture> readPicture(const std::string& file) {
    if (auto plain = plainFile(file, kMostFileBytes); !plain) return tl::make_unexpected(plain.error());
    return readInWorker<Picture>(file, [&]() -> Result<Picture> {
        const auto bytes = readWhole(file, kMostFileBytes);
        if (!bytes) return tl::make_unexpected(bytes.error());
        return pictureFromBytes(*bytes, file);
    });
}

}  // namespace punch
