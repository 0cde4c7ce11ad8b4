#include "demo/maker/scan_maker.h"

#include "demo/maker/gaussian.h"

extern "C" {
#include <hersheyfont.h>
}
#include <png.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <random>

#include "core/base/angle.h"

namespace punch::maker {

namespace {

constexpr int kScanSub = 4;  // subsamples of a pixel along each axis

/// Floating levels, painted with coverage.
class Canvas {
public:
    Canvas(int w, int h, double level)
        : width(w), height(h), levels(static_cast<std::size_t>(w) * h, static_cast<float>(level)) {}

    /// Paints wherever `inside(x, y)` of a subsample holds, with the level `shade(x, y)`; pixels.
    template <class Inside, class Shade>
    void paint(double left, double top, double right, double bottom, Inside inside, Shade shade) {
        const int x0 = std::max(0, static_cast<int>(std::floor(left)) - 1);
        const int y0 = std::max(0, static_cast<int>(std::floor(top)) - 1);
        const int x1 = std::min(width - 1, static_cast<int>(std::ceil(right)) + 1);
        const int y1 = std::min(height - 1, static_cast<int>(std::ceil(bottom)) + 1);
        for (int y = y0; y <= y1; ++y)
            for (int x = x0; x <= x1; ++x) {
                int hits = 0;
                for (int j = 0; j < kScanSub; ++j)
                    for (int i = 0; i < kScanSub; ++i)
                        hits += inside(x + (i + 0.5) / kScanSub - 0.5, y + (j + 0.5) / kScanSub - 0.5) ? 1 : 0;
                if (hits == 0) continue;
                float& to = levels[static_cast<std::size_t>(y) * width + x];
                const double share = hits / static_cast<double>(kScanSub * kScanSub);
                to = static_cast<float>(to * (1 - share) + shade(x, y) * share);
            }
    }

    void blur(double sigma) { blurGaussian(levels, width, height, 1, sigma); }

    int width, height;
    std::vector<float> levels;
};

/// From mm on the part to pixels.
struct View {
    const Scene& scene;
    double px, py;  // pixels per mm
    PixelPoint at(double x, double y) const {
        const double c = std::cos(scene.tilt * kRadians);
        const double s = std::sin(scene.tilt * kRadians);
        const double mx = scene.fromBelow ? -x : x;
        // Turned counter-clockwise as one looks at it, and y runs down in the picture.
        return {(scene.middleX + c * mx - s * y) * px - 0.5, (scene.middleY - (s * mx + c * y)) * py - 0.5};
    }
    /// Back, without mirroring: mm about the housing's middle as one looks at the picture.
    void back(double x, double y, double& mx, double& my) const {
        const double c = std::cos(scene.tilt * kRadians);
        const double s = std::sin(scene.tilt * kRadians);
        const double dx = (x + 0.5) / px - scene.middleX;
        const double dy = scene.middleY - (y + 0.5) / py;
        mx = c * dx + s * dy;
        my = -s * dx + c * dy;
    }
};

bool inRounded(double x, double y, double w, double h, double r) {
    const double dx = std::max(std::abs(x) - (w / 2 - r), 0.0);
    const double dy = std::max(std::abs(y) - (h / 2 - r), 0.0);
    return dx * dx + dy * dy <= r * r;
}

void paintThing(Canvas& canvas, const View& view, const Thing& t, std::mt19937& random) {
    const Scene& s = view.scene;
    const PixelPoint c = view.at(t.x, t.y);
    const double reach = 0.8 * std::hypot(t.width, t.height) * std::max(view.px, view.py) + 4;
    const double mx = s.fromBelow ? -t.x : t.x;
    const double turn = (s.fromBelow ? -t.turn : t.turn) * kRadians;
    const auto local = [&](double x, double y, double& u, double& v) {
        double a = 0, b = 0;
        view.back(x, y, a, b);
        a -= mx;
        b -= t.y;
        u = std::cos(turn) * a + std::sin(turn) * b;
        v = -std::sin(turn) * a + std::cos(turn) * b;
    };
    const auto insideBy = [&](double grow) {
        return [&, grow](double x, double y) {
            double u = 0, v = 0;
            local(x, y, u, v);
            if (t.round) return u * u + v * v <= (t.width / 2 + grow) * (t.width / 2 + grow);
            return std::abs(u) <= t.width / 2 + grow && std::abs(v) <= t.height / 2 + grow;
        };
    };
    std::uniform_real_distribution<double> unit(-1, 1);
    const double slopeX = 0.12 * s.gloss * unit(random);
    const double slopeY = 0.12 * s.gloss * unit(random);
    const int level = t.look == Look::Peg ? s.plastic : t.look == Look::Hole ? std::max(8, s.housing / 3) : s.metal;
    if (t.look == Look::Pin || t.look == Look::Lug)  // the gap in the housing that it comes out of
        canvas.paint(c.x - reach, c.y - reach, c.x + reach, c.y + reach, insideBy(0.12),
                     [&](double, double) { return s.housing * 0.6; });
    canvas.paint(c.x - reach, c.y - reach, c.x + reach, c.y + reach, insideBy(0), [&](double x, double y) {
        double u = 0, v = 0;
        local(x, y, u, v);
        return level * (1 + slopeX * u / t.width * 2 + slopeY * v / t.height * 2);
    });
    if (t.look == Look::Pad)
        canvas.paint(c.x - reach, c.y - reach, c.x + reach, c.y + reach, insideBy(-0.25 * t.width),
                     [&](double, double) { return 25.0; });
    if (s.gloss > 0 && (t.look == Look::Pin || t.look == Look::Lug)) {
        const double r = 0.16 * std::min(t.width, t.height);
        const double gx = 0.35 * t.width / 2 * unit(random);
        const double gy = 0.35 * t.height / 2 * unit(random);
        canvas.paint(
            c.x - reach, c.y - reach, c.x + reach, c.y + reach,
            [&](double x, double y) {
                double u = 0, v = 0;
                local(x, y, u, v);
                return std::hypot(u - gx, v - gy) <= r;
            },
            [&](double, double) { return level + (252.0 - level) * s.gloss; });
    }
}

void paintStroke(Canvas& canvas, const View& view, double x0, double y0, double x1, double y1, double width,
                 double level) {
    // Millimetres from the picture's corner, y down.
    const double l = std::hypot(x1 - x0, y1 - y0);
    const auto inside = [&](double px, double py) {
        const double x = (px + 0.5) / view.px - x0;
        const double y = (py + 0.5) / view.py - y0;
        const double t = l > 0 ? std::clamp((x * (x1 - x0) + y * (y1 - y0)) / (l * l), 0.0, 1.0) : 0.0;
        return std::hypot(x - t * (x1 - x0), y - t * (y1 - y0)) <= width / 2;
    };
    canvas.paint((std::min(x0, x1) - width) * view.px, (std::min(y0, y1) - width) * view.py,
                 (std::max(x0, x1) + width) * view.px, (std::max(y0, y1) + width) * view.py, inside,
                 [&](double, double) { return level; });
}

void paintRuler(Canvas& canvas, const View& view, Scan& scan) {
    const Scene& s = view.scene;
    const double top = s.pictureHeight - 9;
    const double left = (s.pictureWidth - s.rulerLength) / 2;
    const double tilt = 0.35 * s.tilt * kRadians;  // laid beside the part, not quite as crooked
    const auto at = [&](double along, double down) {
        return PixelPoint{left + along * std::cos(tilt) + down * std::sin(tilt),
                          top - along * std::sin(tilt) + down * std::cos(tilt)};
    };
    canvas.paint((left - 8) * view.px, (top - 8) * view.py, (left + s.rulerLength + 8) * view.px,
                 s.pictureHeight * view.py,
                 [&](double px, double py) {
                     const double x = (px + 0.5) / view.px - left;
                     const double y = (py + 0.5) / view.py - top;
                     const double along = x * std::cos(tilt) - y * std::sin(tilt);
                     const double down = x * std::sin(tilt) + y * std::cos(tilt);
                     return along >= -3 && along <= s.rulerLength + 3 && down >= 0 && down <= 20;
                 },
                 [&](double, double) { return 238.0; });
    hershey_font* font = hershey_font_load("futural");
    for (int mm = 0; mm <= static_cast<int>(s.rulerLength); ++mm) {
        const double length = mm % 10 == 0 ? 4.2 : mm % 5 == 0 ? 3.2 : 2.2;
        const PixelPoint a = at(mm, 0.08);
        const PixelPoint b = at(mm, length);
        paintStroke(canvas, view, a.x, a.y, b.x, b.y, 0.14, 30);
        const PixelPoint edge = at(mm, 0);
        scan.rulerTicks.push_back({edge.x * view.px - 0.5, edge.y * view.py - 0.5});
        if (mm % 10 != 0 || font == nullptr) continue;
        double pen = -0.4;
        for (const char digit : std::to_string(mm / 10)) {
            const hershey_glyph* g = hershey_font_glyph(font, static_cast<unsigned short>(digit));
            if (g == nullptr) continue;
            const double size = 2.0 / 21;
            for (const hershey_path* path = g->paths; path != nullptr; path = path->next)
                for (unsigned i = 0; i + 1 < path->nverts; ++i) {
                    const PixelPoint p = at(mm + pen + path->verts[i].x * size, 6.4 - path->verts[i].y * size);
                    const PixelPoint q = at(mm + pen + path->verts[i + 1].x * size, 6.4 - path->verts[i + 1].y * size);
                    paintStroke(canvas, view, p.x, p.y, q.x, q.y, 0.16, 30);
                }
            pen += g->width * size;
        }
    }
    if (font != nullptr) hershey_font_free(font);
}

}  // namespace

std::vector<Thing> rowOfPins(int count, double pitch, double diameter, double y) {
    std::vector<Thing> pins(static_cast<std::size_t>(count));
    for (int i = 0; i < count; ++i)
        pins[static_cast<std::size_t>(i)] = {Look::Pin, (i - (count - 1) / 2.0) * pitch, y, diameter, diameter};
    return pins;
}

std::vector<Thing> arcOfPins(int count, double circle, double from, double to, double diameter) {
    std::vector<Thing> pins(static_cast<std::size_t>(count));
    for (int i = 0; i < count; ++i) {
        const double a = (from + (to - from) * i / std::max(count - 1, 1)) * kRadians;
        pins[static_cast<std::size_t>(i)] = {Look::Pin, circle / 2 * std::cos(a), circle / 2 * std::sin(a), diameter,
                                             diameter};
    }
    return pins;
}

Scan makeScan(const Scene& s) {
    Scan scan;
    const View view{s, s.dpi / 25.4 * s.stretchX, s.dpi / 25.4 * s.stretchY};
    scan.pixelsPerMmX = view.px;
    scan.pixelsPerMmY = view.py;
    std::mt19937 random(s.seed);
    const int width = static_cast<int>(std::lround(s.pictureWidth * s.dpi / 25.4));
    const int height = static_cast<int>(std::lround(s.pictureHeight * s.dpi / 25.4));
    Canvas canvas(width, height, s.background);
    if (s.ruler) paintRuler(canvas, view, scan);
    const PixelPoint middle = view.at(0, 0);
    const double reach = 0.6 * std::hypot(s.housingWidth, s.housingHeight) * std::max(view.px, view.py);
    const auto onPart = [&](auto inside) {
        return [&, inside](double x, double y) {
            double u = 0, v = 0;
            view.back(x, y, u, v);
            return inside(u, v);
        };
    };
    canvas.paint(middle.x - reach, middle.y - reach, middle.x + reach, middle.y + reach,
                 onPart([&](double u, double v) { return inRounded(u, v, s.housingWidth, s.housingHeight, 1.2); }),
                 [&](double, double) { return s.housing; });
    if (s.boss > 0)
        canvas.paint(middle.x - reach, middle.y - reach, middle.x + reach, middle.y + reach,
                     onPart([&](double u, double v) { return std::hypot(u, v) <= s.boss / 2; }),
                     [&](double, double) { return s.housing * 1.14; });
    for (const Thing& t : s.things) {
        paintThing(canvas, view, t, random);
        scan.places.push_back(view.at(t.x, t.y));
    }
    std::uniform_real_distribution<double> unit(0, 1);
    const int flecks = static_cast<int>(s.dust * s.pictureWidth * s.pictureHeight / 1000);
    for (int i = 0; i < flecks; ++i) {
        const double x = unit(random) * width;
        const double y = unit(random) * height;
        const double r = (0.02 + 0.10 * unit(random) * unit(random)) * view.px;
        const double stretch = 0.5 + unit(random);
        const double level = unit(random) < 0.5 ? 90 + 80 * unit(random) : 150 + 80 * unit(random);
        canvas.paint(
            x - 3 * r, y - 3 * r, x + 3 * r, y + 3 * r,
            [&](double px, double py) { return std::hypot((px - x) / stretch, (py - y) * stretch) <= r; },
            [&](double, double) { return level; });
    }
    canvas.blur(s.blur);
    std::normal_distribution<float> noise(0, static_cast<float>(255 * s.noise));
    Picture& p = scan.picture;
    p.width = width;
    p.height = height;
    p.channels = s.colour ? 3 : 1;
    p.format = "PNG";
    p.dpi = Dpi{s.dpi, s.dpi};
    p.tone = 1;  // levels are painted and blurred as they are
    p.data.resize(canvas.levels.size() * p.channels);
    const std::array<float, 3> tint = {1.0f, 0.99f, 0.955f};
    std::uint8_t* to = p.data.data();
    for (const float level : canvas.levels)
        for (int c = 0; c < p.channels; ++c)
            *to++ = static_cast<std::uint8_t>(std::clamp(
                std::lround(level * (s.colour ? tint[static_cast<std::size_t>(c)] : 1.0f) + noise(random)), 0L, 255L));
    return scan;
}

std::string pngBytes(const Picture& picture, double dpi) {
    std::string out;
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
    png_infop info = png_create_info_struct(png);
    png_set_write_fn(
        png, &out,
        [](png_structp p, png_bytep data, png_size_t size) {
            static_cast<std::string*>(png_get_io_ptr(p))->append(reinterpret_cast<const char*>(data), size);
        },
        [](png_structp) {});
    png_set_IHDR(png, info, static_cast<png_uint_32>(picture.width), static_cast<png_uint_32>(picture.height), 8,
                 picture.channels == 3 ? PNG_COLOR_TYPE_RGB : PNG_COLOR_TYPE_GRAY, PNG_INTERLACE_NONE,
                 PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
    if (dpi > 0) {
        const auto perMetre = static_cast<png_uint_32>(std::lround(dpi / 0.0254));
        png_set_pHYs(png, info, perMetre, perMetre, PNG_RESOLUTION_METER);
    }
    if (picture.tone) png_set_gAMA(png, info, 1 / *picture.tone);
    png_set_compression_level(png, 3);
    png_write_info(png, info);
    for (int y = 0; y < picture.height; ++y) png_write_row(png, picture.row(y));
    png_write_end(png, info);
    png_destroy_write_struct(&png, &info);
    return out;
}

}  // namespace punch::maker
