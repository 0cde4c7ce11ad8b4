#include "core/picture/read_picture.h"

#include <gtest/gtest.h>
#include <jpeglib.h>
#include <tiffio.h>
#include <webp/encode.h>

#include <cmath>
#include <filesystem>
#include <fstream>

#include <zlib.h>

#include "core/picture/rim.h"
#include "demo/maker/scan_maker.h"

namespace punch::picture_test {
namespace {

Picture gradient(int width, int height, int channels) {
    Picture p;
    p.width = width;
    p.height = height;
    p.channels = channels;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (int c = 0; c < channels; ++c)
                p.data.push_back(static_cast<std::uint8_t>((x * 3 + y * 5 + c * 40) % 256));
    return p;
}

/// With a chunk that says how many pictures follow, after the header.
std::string animatedPng(const Picture& p) {
    std::string png = maker::pngBytes(p, 600);
    const std::string body("acTL\0\0\0\x02\0\0\0\0", 12);
    const auto crc = static_cast<std::uint32_t>(crc32(0, reinterpret_cast<const Bytef*>(body.data()), 12));
    std::string chunk("\0\0\0\x08", 4);
    chunk += body;
    for (int shift = 24; shift >= 0; shift -= 8) chunk += static_cast<char>((crc >> shift) & 0xFF);
    png.insert(8 + 25, chunk);  // behind the signature and IHDR
    return png;
}

std::string jpegBytes(const Picture& p, J_COLOR_SPACE space, int components, bool exifTurned) {
    jpeg_compress_struct jpeg{};
    jpeg_error_mgr errors{};
    jpeg.err = jpeg_std_error(&errors);
    jpeg_create_compress(&jpeg);
    unsigned char* out = nullptr;
    unsigned long size = 0;
    jpeg_mem_dest(&jpeg, &out, &size);
    jpeg.image_width = static_cast<JDIMENSION>(p.width);
    jpeg.image_height = static_cast<JDIMENSION>(p.height);
    jpeg.input_components = components;
    jpeg.in_color_space = space;
    jpeg_set_defaults(&jpeg);
    jpeg_set_quality(&jpeg, 95, TRUE);
    jpeg.density_unit = 1;
    jpeg.X_density = jpeg.Y_density = 300;
    jpeg_start_compress(&jpeg, TRUE);
    if (exifTurned) {
        // One entry: orientation 6, the camera was held upright.
        const std::string exif("Exif\0\0MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0\x06\0\0\0\0\0\0", 32);
        jpeg_write_marker(&jpeg, JPEG_APP0 + 1, reinterpret_cast<const JOCTET*>(exif.data()),
                          static_cast<unsigned>(exif.size()));
    }
    std::vector<JSAMPLE> line(static_cast<std::size_t>(p.width) * components);
    while (jpeg.next_scanline < jpeg.image_height) {
        for (int x = 0; x < p.width * components; ++x)
            line[static_cast<std::size_t>(x)] = p.row(static_cast<int>(jpeg.next_scanline))[x % (p.width * p.channels)];
        JSAMPROW row = line.data();
        jpeg_write_scanlines(&jpeg, &row, 1);
    }
    jpeg_finish_compress(&jpeg);
    std::string bytes(reinterpret_cast<char*>(out), size);
    jpeg_destroy_compress(&jpeg);
    std::free(out);
    return bytes;
}

TEST(ReadPicture, PngComesBackAsItWasWithItsDpi) {
    for (const int channels : {1, 3}) {
        const Picture p = gradient(37, 23, channels);
        const auto read = pictureFromBytes(maker::pngBytes(p, 600), "a.png");
        ASSERT_TRUE(read) << read.error().text();
        EXPECT_EQ(read->data, p.data);
        EXPECT_EQ(read->channels, channels);
        ASSERT_TRUE(read->dpi);
        EXPECT_NEAR(read->dpi->x, 600, 0.01);
    }
}

TEST(ReadPicture, EveryTruncationIsAMessageAndNeverTheEnd) {
    const Picture p = gradient(40, 30, 3);
    const std::string png = maker::pngBytes(p, 300);
    const std::string jpeg = jpegBytes(p, JCS_RGB, 3, false);
    uint8_t* webpOut = nullptr;
    const std::size_t webpSize = WebPEncodeLosslessRGB(p.data.data(), p.width, p.height, p.width * 3, &webpOut);
    const std::string webp(reinterpret_cast<char*>(webpOut), webpSize);
    WebPFree(webpOut);
    ASSERT_TRUE(pictureFromBytes(webp, "a.webp"));
    EXPECT_EQ(pictureFromBytes(webp, "a.webp")->data, p.data);
    for (const std::string& whole : {png, jpeg, webp})
        for (std::size_t keep = 0; keep + 20 < whole.size(); keep += 1 + whole.size() / 60) {
            const auto read = pictureFromBytes(std::string_view(whole).substr(0, keep), "cut");
            ASSERT_FALSE(read) << keep;
            EXPECT_FALSE(read.error().what.empty());
        }
}

TEST(ReadPicture, JpegGivesDpiAndStandsUprightAsTheCameraStoredIt) {
    const Picture p = gradient(40, 30, 3);
    const auto plain = pictureFromBytes(jpegBytes(p, JCS_RGB, 3, false), "a.jpg");
    ASSERT_TRUE(plain);
    EXPECT_EQ(plain->width, 40);
    EXPECT_DOUBLE_EQ(plain->dpi->x, 300);
    const auto upright = pictureFromBytes(jpegBytes(p, JCS_RGB, 3, true), "a.jpg");
    ASSERT_TRUE(upright);
    EXPECT_EQ(upright->width, 30);
    EXPECT_EQ(upright->height, 40);
    // Turned clockwise: the bottom left pixel comes to the top left.
    EXPECT_NEAR(upright->row(0)[0], plain->row(29)[0], 2);
    const auto cmyk = pictureFromBytes(jpegBytes(gradient(40, 30, 3), JCS_CMYK, 4, false), "c.jpg");
    ASSERT_TRUE(cmyk);
    EXPECT_EQ(cmyk->channels, 3);
}

TEST(ReadPicture, TiffOfManyKinds) {
    const std::string file = (std::filesystem::temp_directory_path() / "punchbit_kinds.tif").string();
    struct Kind {
        int bits, samples, photometric;
    };
    for (const Kind k :
         {Kind{8, 1, PHOTOMETRIC_MINISBLACK}, Kind{8, 3, PHOTOMETRIC_RGB}, Kind{16, 1, PHOTOMETRIC_MINISBLACK},
          Kind{16, 3, PHOTOMETRIC_RGB}, Kind{8, 1, PHOTOMETRIC_MINISWHITE}, Kind{8, 4, PHOTOMETRIC_SEPARATED}}) {
        TIFF* tiff = TIFFOpen(file.c_str(), "w");
        TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, 20);
        TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, 10);
        TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, k.bits);
        TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, k.samples);
        TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, k.photometric);
        TIFFSetField(tiff, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
        TIFFSetField(tiff, TIFFTAG_ROWSPERSTRIP, 10);
        TIFFSetField(tiff, TIFFTAG_RESOLUTIONUNIT, RESUNIT_INCH);
        TIFFSetField(tiff, TIFFTAG_XRESOLUTION, 1200.0);
        TIFFSetField(tiff, TIFFTAG_YRESOLUTION, 1200.0);
        std::vector<std::uint8_t> line(static_cast<std::size_t>(20 * k.samples * k.bits / 8), 200);
        for (std::uint32_t y = 0; y < 10; ++y) TIFFWriteScanline(tiff, line.data(), y, 0);
        TIFFClose(tiff);
        const auto read = readPicture(file);
        ASSERT_TRUE(read) << k.bits << " " << k.samples << " " << read.error().text();
        EXPECT_EQ(read->width, 20);
        EXPECT_NEAR(read->dpi->y, 1200, 1e-3);
        const int expected = k.photometric == PHOTOMETRIC_MINISWHITE  ? 55
                             : k.photometric == PHOTOMETRIC_SEPARATED ? 12
                                                                      : 200;
        EXPECT_NEAR(read->data[0], expected, 2) << k.bits << " " << k.samples;
    }
    std::filesystem::remove(file);
}

TEST(ReadPicture, BmpWithItsDpi) {
    // 2 x 2, 24 bit, bottom row first: blue, green / red, white; 23622 pixels per metre.
    std::string b(
        "BM\x46\0\0\0\0\0\0\0\x36\0\0\0\x28\0\0\0\x02\0\0\0\x02\0\0\0\x01\0\x18\0\0\0\0\0\x10\0\0\0\x46\x5c\0\0\x46\x5c"
        "\0\0\0\0\0\0\0\0\0\0",
        54);
    b += std::string("\xff\0\0\0\xff\0\0\0", 8) + std::string("\0\0\xff\xff\xff\xff\0\0", 8);
    const auto read = pictureFromBytes(b, "a.bmp");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->row(0)[0], 255);
    EXPECT_EQ(read->row(0)[1], 0);
    EXPECT_EQ(read->row(1)[2], 255);
    EXPECT_NEAR(read->dpi->x, 600, 0.01);
    EXPECT_FALSE(pictureFromBytes(b.substr(0, 60), "a.bmp"));
}

TEST(ReadPicture, TooLargeIsRefusedWithItsMemoryBeforeAnythingIsTaken) {
    std::string png = maker::pngBytes(gradient(4, 4, 3), 0);
    const auto put = [&](std::size_t at, std::uint32_t v) {
        for (std::size_t i = 0; i < 4; ++i) png[at + i] = static_cast<char>(v >> (24 - 8 * i));
    };
    put(16, 30000);
    put(20, 30000);
    // The checksum of the header, worked out anew.
    std::uint32_t crc = 0xFFFFFFFFu;
    for (std::size_t i = 12; i < 29; ++i) {
        crc ^= static_cast<std::uint8_t>(png[i]);
        for (int k = 0; k < 8; ++k) crc = crc & 1 ? 0xEDB88320u ^ (crc >> 1) : crc >> 1;
    }
    put(29, ~crc);
    const auto read = pictureFromBytes(png, "huge.png");
    ASSERT_FALSE(read);
    EXPECT_NE(read.error().what.find("30000 x 30000"), std::string::npos);
    EXPECT_NE(read.error().what.find("GB"), std::string::npos);
}

TEST(ReadPicture, NoPictureIsSaid) {
    EXPECT_FALSE(pictureFromBytes("", "empty"));
    EXPECT_FALSE(pictureFromBytes("hello, this is a letter and no picture at all", "letter.txt"));
    EXPECT_FALSE(readPicture("/nowhere/at/all.png"));
    EXPECT_FALSE(readPicture("/tmp"));
    const auto odd = pictureFromBytes(maker::pngBytes(gradient(3, 3, 1), 3), "odd.png");
    ASSERT_TRUE(odd);
    EXPECT_FALSE(odd->dpi);
    ASSERT_EQ(odd->notes.size(), 1u);
    EXPECT_NE(odd->notes[0].find("dpi"), std::string::npos);
}

TEST(Rim, OneClickFindsThePinAroundIt) {
    maker::Scene s;
    s.ruler = false;
    s.tilt = 2;
    maker::Thing pin;
    pin.x = 3;
    pin.width = pin.height = 1.0;
    s.things.push_back(pin);
    const maker::Scan scan = maker::makeScan(s);
    const Grey grey = greyOf(scan.picture);
    const PixelPoint c = scan.places[0];
    const auto rim = rimAround(grey, {c.x + 6, c.y - 4}, 60);
    ASSERT_TRUE(rim);
    EXPECT_EQ(rim->shape, RimShape::Round);
    EXPECT_NEAR(rim->centre.x, c.x, 0.2);
    EXPECT_NEAR(rim->centre.y, c.y, 0.2);
    EXPECT_NEAR(rim->width / scan.pixelsPerMmX, 1.0, 0.01);
    EXPECT_FALSE(rimAround(grey, {100, 900}, 40));  // nothing but the lid
}

TEST(Rim, EdgesOfTheHousingMeetInItsCorner) {
    maker::Scene s;
    s.ruler = false;
    s.tilt = 1.5;
    s.dust = 0;
    const maker::Scan scan = maker::makeScan(s);
    const Grey grey = greyOf(scan.picture);
    const double t = 1.5 * 3.14159265358979 / 180;
    const auto at = [&](double u, double v) {  // as one looks at it, from the housing's middle
        return PixelPoint{(s.middleX + u * std::cos(t) - v * std::sin(t)) * scan.pixelsPerMmX - 0.5,
                          (s.middleY - u * std::sin(t) - v * std::cos(t)) * scan.pixelsPerMmY - 0.5};
    };
    const auto off = [](PixelPoint p, double dx, double dy) { return PixelPoint{p.x + dx, p.y + dy}; };
    const auto left = edgeNear(grey, off(at(-12, -7), 3, 0), off(at(-12, 7), -2, 0), 15);
    const auto top = edgeNear(grey, off(at(-9, 10), 0, 2), off(at(9, 10), 0, 4), 15);
    ASSERT_TRUE(left && top);
    EXPECT_LT(left->u, 0.1);
    const auto meet = corner(*left, *top);
    ASSERT_TRUE(meet);
    const PixelPoint truth = at(-12, 10);
    EXPECT_NEAR(meet->x, truth.x, 0.15);
    EXPECT_NEAR(meet->y, truth.y, 0.15);
    EXPECT_FALSE(corner(*left, *left));
}

TEST(Rim, CirclesThroughPoints) {
    EXPECT_FALSE(circleThrough({{0, 0}, {1, 0}}));
    EXPECT_FALSE(circleThrough({{0, 0}, {1, 0}, {2, 0}}));
    const auto c = circleThrough({{10, 0}, {0, 10}, {-10, 0}, {0, -10}});
    ASSERT_TRUE(c);
    EXPECT_NEAR(c->radius, 10, 1e-9);
    EXPECT_NEAR(c->centre.x, 0, 1e-9);
}

TEST(Pictures, OfAnAnimatedOneTheFirstIsTakenAndItIsSaid) {
    const Picture p = gradient(9, 7, 1);
    const auto read = pictureFromBytes(animatedPng(p), "moving.png");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->data, p.data);
    ASSERT_EQ(read->notes.size(), 1U);
    EXPECT_NE(read->notes[0].find("animated"), std::string::npos);
    EXPECT_TRUE(pictureFromBytes(maker::pngBytes(p, 600), "still.png")->notes.empty());
}

}  // namespace
}  // namespace punch::picture_test
