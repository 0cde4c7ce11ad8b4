// The second generator: soft-edged shapes by their distance functions instead of painted subsamples, light from one
// side over the whole picture, a soft shadow around everything that stands up, gloss as a streak, dust as fibres.

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <random>

#include "core/base/angle.h"

#include "tests/support/scenes.h"

namespace punch::test {

namespace {

/// Share of a Gaussian-blurred half plane at signed distance d (inside negative), blur s.
double soft(double d, double s) { return 0.5 * std::erfc(d / (s * std::numbers::sqrt2)); }

struct Shape {
    double cx, cy, ax, ay, bx, by;  // pixels: centre, unit axes of the part in pixels per mm
    double w, h;                    // mm
    bool round;
    maker::Look look;
    double streak, level;
};

}  // namespace

maker::Scan otherScan(const TrueScene& t) {
    const maker::Scene& s = t.scene;
    maker::Scan scan;
    const double px = s.dpi / 25.4 * s.stretchX;
    const double py = s.dpi / 25.4 * s.stretchY;
    scan.pixelsPerMmX = px;
    scan.pixelsPerMmY = py;
    const int width = static_cast<int>(s.pictureWidth * s.dpi / 25.4);
    const int height = static_cast<int>(s.pictureHeight * s.dpi / 25.4);
    std::mt19937 random(s.seed * 31u + 5u);
    std::uniform_real_distribution<double> unit(-1, 1);
    std::normal_distribution<double> normal(0, 255 * s.noise);
    const double tilt = s.tilt * kRadians;
    const double side = s.fromBelow ? -1 : 1;
    // Pixel of a place of the part, worked out the long way: mirror, turn, stretch.
    const auto place = [&](double x, double y) {
        const double mx = side * x;
        return PixelPoint{(s.middleX + mx * std::cos(tilt) - y * std::sin(tilt)) * px - 0.5,
                          (s.middleY - mx * std::sin(tilt) - y * std::cos(tilt)) * py - 0.5};
    };
    std::vector<Shape> shapes;
    for (const maker::Thing& thing : s.things) {
        const PixelPoint c = place(thing.x, thing.y);
        const double a = tilt + side * thing.turn * kRadians;
        shapes.push_back({c.x, c.y, std::cos(a), -std::sin(a), -std::sin(a), -std::cos(a), thing.width, thing.height,
                          thing.round, thing.look, 180 * unit(random),
                          static_cast<double>(thing.look == maker::Look::Peg ? s.plastic : s.metal)});
        scan.places.push_back(c);
    }
    const double blurMm = s.blur / ((px + py) / 2);
    const double lightX = 0.10 * unit(random);
    const double lightY = 0.10 * unit(random);
    struct Fibre {
        double x, y, dx, dy, length, bend, level;
    };
    std::vector<Fibre> fibres;
    for (int i = 0; i < static_cast<int>(s.dust * s.pictureWidth * s.pictureHeight / 1000); ++i) {
        const double a = std::numbers::pi * unit(random);
        fibres.push_back({(0.5 + 0.5 * unit(random)) * width, (0.5 + 0.5 * unit(random)) * height, std::cos(a),
                          std::sin(a), (0.1 + 0.4 * std::abs(unit(random))) * px, 0.4 * unit(random),
                          unit(random) < 0 ? -45.0 : 60.0});
    }
    std::vector<float> level(static_cast<std::size_t>(width) * height);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const double mmx = (x + 0.5) / px - s.middleX;
            const double mmy = s.middleY - (y + 0.5) / py;
            const double u = mmx * std::cos(tilt) + mmy * std::sin(tilt);
            const double v = -mmx * std::sin(tilt) + mmy * std::cos(tilt);
            const double housing = std::max(std::abs(u) - s.housingWidth / 2, std::abs(v) - s.housingHeight / 2);
            const double on = soft(housing, blurMm);
            // The housing throws a soft shadow on the lid.
            const double lid = s.background - 35 * std::exp(-std::max(housing, 0.0) / 1.2);
            double value = lid * (1 - on) + s.housing * on;
            for (const Shape& shape : shapes) {
                const double dx = (x - shape.cx) / px;
                const double dy = (y - shape.cy) / py;
                if (std::abs(dx) > shape.w + 1.5 || std::abs(dy) > shape.w + 1.5) continue;
                const double a = dx * shape.ax + dy * shape.ay;
                const double b = dx * shape.bx + dy * shape.by;
                double inside = 0, distance = 0;
                if (shape.round) {
                    distance = std::hypot(a, b) - shape.w / 2;
                    inside = soft(distance, blurMm);
                } else {
                    inside = (soft(std::abs(a) - shape.w / 2, blurMm) - soft(std::abs(a) + shape.w / 2, blurMm)) *
                             (soft(std::abs(b) - shape.h / 2, blurMm) - soft(std::abs(b) + shape.h / 2, blurMm));
                    distance = std::max(std::abs(a) - shape.w / 2, std::abs(b) - shape.h / 2);
                }
                const double shadow = 1 - 0.45 * std::exp(-std::max(distance, 0.0) / 0.22);
                double metal = shape.level * (1 + 0.8 * (lightX * a + lightY * b));
                if (shape.look != maker::Look::Peg) {
                    // A bright streak across the end, off its middle.
                    const double c = std::cos(shape.streak * kRadians) * a + std::sin(shape.streak * kRadians) * b;
                    metal +=
                        (245 - metal) * 0.8 * s.gloss * std::exp(-std::pow((c - 0.12 * shape.w) / (0.13 * shape.w), 2));
                }
                value = value * shadow * (1 - inside) + metal * inside;
            }
            for (const Fibre& f : fibres) {
                const double dx = x - f.x;
                const double dy = y - f.y;
                if (std::abs(dx) > f.length + 3 || std::abs(dy) > f.length + 3) continue;
                const double along = dx * f.dx + dy * f.dy;
                if (std::abs(along) > f.length) continue;
                const double across = -dx * f.dy + dy * f.dx - f.bend * along * along / f.length;
                value += f.level * std::exp(-across * across / (2 * (0.5 + s.blur * s.blur)));
            }
            value *= 1 + lightX * mmx / 40 + lightY * mmy / 40;
            level[static_cast<std::size_t>(y) * width + x] = static_cast<float>(value);
        }
    scan.picture.width = width;
    scan.picture.height = height;
    scan.picture.format = "PNG";
    scan.picture.dpi = Dpi{s.dpi, s.dpi};
    for (const float v : level)
        scan.picture.data.push_back(static_cast<std::uint8_t>(std::clamp(std::lround(v + normal(random)), 0L, 255L)));
    return scan;
}

}  // namespace punch::test
