#include "demo/maker/hard_painter.h"

extern "C" {
#include <hersheyfont.h>
}

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace punch::maker {

namespace {

/// A place turned about another, into the frame of something that is turned clockwise by `turn`.
std::pair<double, double> local(double x, double y, double atX, double atY, double turn) {
    const double c = std::cos(turn * kRadians), s = std::sin(turn * kRadians);
    return {c * (x - atX) + s * (y - atY), -s * (x - atX) + c * (y - atY)};
}
std::pair<double, double> scene(double u, double v, double atX, double atY, double turn) {
    const double c = std::cos(turn * kRadians), s = std::sin(turn * kRadians);
    return {atX + c * u - s * v, atY + s * u + c * v};
}
}  // namespace

HardPainter::HardPainter(int number, double dpi, double w, double h, bool colour)
    : light(static_cast<int>(std::lround(w * dpi / 25.4)), static_cast<int>(std::lround(h * dpi / 25.4)),
            colour ? 3 : 1, greyInk(0.72)),
      widthMm(w),
      heightMm(h),
      random_(static_cast<std::uint32_t>(number) * 7919u + 13u),
      dpi_(dpi) {
    camera.perMmX = camera.perMmY = dpi / 25.4;
    // A scanner's axes differ a little.
    camera.perMmX *= 1 + between(-0.002, 0.002);
    camera.perMmY *= 1 + between(-0.002, 0.002);
    camera.turn = between(-2.5, 2.5);
    camera.middleX = light.width / 2.0 + between(-0.5, 0.5);
    camera.middleY = light.height / 2.0 + between(-0.5, 0.5);
}

double HardPainter::between(double low, double high) {
    return low + (high - low) * std::uniform_real_distribution<double>(0, 1)(random_);
}
int HardPainter::among(int count) { return std::min(static_cast<int>(between(0, count)), count - 1); }

void HardPainter::ground(const Ink& ink) {
    groundInk = ink;
    for (std::size_t i = 0; i < light.levels.size(); ++i)
        light.levels[i] = ink[i % static_cast<std::size_t>(light.channels)];
}

void HardPainter::plate(double pitch, double hole) {
    const double d = between(-3, 3) * kRadians;
    const double c = std::cos(d), s = std::sin(d);
    light.paint(
        camera, 0, 0, widthMm,
        [=](double x, double y) {
            const double u = c * x + s * y, v = -s * x + c * y;
            return std::hypot(u - pitch * std::round(u / pitch), v - pitch * std::round(v / pitch)) - hole / 2;
        },
        [](double, double) { return greyInk(0.05); });
}

void HardPainter::mesh(double pitch, double wire) {
    light.paint(
        camera, 0, 0, widthMm,
        [=](double x, double y) {
            const double u = std::abs(x - pitch * std::round(x / pitch)),
                         v = std::abs(y - pitch * std::round(y / pitch));
            return std::min(u, v) - wire / 2;
        },
        [](double, double) { return greyInk(0.45); });
}

void HardPainter::cloth(double side) {
    light.paint(
        camera, 0, 0, widthMm,
        [=](double x, double y) {
            const double u = x / side - std::floor(x / side), v = y / side - std::floor(y / side);
            const bool odd =
                (static_cast<long>(std::floor(x / side)) + static_cast<long>(std::floor(y / side))) % 2 != 0;
            const double edge = side * std::min({u, 1 - u, v, 1 - v});
            return odd ? -edge : edge;
        },
        [](double, double) { return greyInk(0.3); });
}

void HardPainter::body(double x, double y, double w, double h, double turn, const Ink& ink) {
    light.paint(
        camera, x, y, std::hypot(w, h),
        [=](double px, double py) {
            const auto [u, v] = local(px, py, x, y, turn);
            return toBox(u, v, w, h, 0.6);
        },
        [=](double, double) { return ink; });
}

void HardPainter::pin(int part, double x, double y, double w, double h, double turn, bool round, const Ink& ink,
                      double gloss, double gap) {
    const auto outline = [=](double grow) {
        return [=](double px, double py) {
            const auto [u, v] = local(px, py, x, y, turn);
            return round ? toDisc(u, v, w / 2 + grow) : toBox(u, v, w + 2 * grow, h + 2 * grow);
        };
    };
    const double reach = std::max(w, h) + 0.4;
    if (gap > 0)
        light.paint(camera, x, y, reach, outline(gap), [=](double px, double py) {
            (void)px, (void)py;
            return Ink{0.35f * ink[0] * 0.1f, 0.35f * ink[1] * 0.1f, 0.35f * ink[2] * 0.1f};
        });
    const double leanX = between(-0.15, 0.15), leanY = between(-0.15, 0.15);
    light.paint(camera, x, y, reach, outline(0), [=](double px, double py) {
        const auto k = static_cast<float>(1 + leanX * (px - x) / w + leanY * (py - y) / h);
        return Ink{ink[0] * k, ink[1] * k, ink[2] * k};
    });
    if (gloss > 0) {
        const double r = between(0.12, 0.3) * std::min(w, h), gx = x + between(-0.2, 0.2) * w,
                     gy = y + between(-0.2, 0.2) * h;
        light.paint(
            camera, gx, gy, r + 0.1, [=](double px, double py) { return toDisc(px - gx, py - gy, r); },
            [=](double, double) {
                const auto g = static_cast<float>(gloss);
                return Ink{ink[0] + (1 - ink[0]) * g, ink[1] + (1 - ink[1]) * g, ink[2] + (1 - ink[2]) * g};
            });
    }
    out.pins.push_back({camera.at(x, y), w, h, part});
}

void HardPainter::beside(double x, double y, double d, const Ink& ink) {
    light.paint(
        camera, x, y, d, [=](double px, double py) { return toDisc(px - x, py - y, d / 2); },
        [=](double, double) { return ink; });
    out.beside.push_back(camera.at(x, y));
}

void HardPainter::stroke(double x0, double y0, double x1, double y1, double width, const Ink& ink) {
    const double l2 = (x1 - x0) * (x1 - x0) + (y1 - y0) * (y1 - y0);
    light.paint(
        camera, (x0 + x1) / 2, (y0 + y1) / 2, std::sqrt(l2) / 2 + width,
        [=](double px, double py) {
            const double t = l2 > 0 ? std::clamp(((px - x0) * (x1 - x0) + (py - y0) * (y1 - y0)) / l2, 0.0, 1.0) : 0.0;
            return std::hypot(px - x0 - t * (x1 - x0), py - y0 - t * (y1 - y0)) - width / 2;
        },
        [=](double, double) { return ink; });
}

void HardPainter::letters(const std::string& text, double x, double y, double size, double turn, const Ink& ink) {
    hershey_font* font = hershey_font_load("futural");
    if (font == nullptr) return;
    const double unit = size / 21;
    double pen = 0;
    for (const char letter : text) {
        const hershey_glyph* g = hershey_font_glyph(font, static_cast<unsigned short>(letter));
        if (g == nullptr) continue;
        for (const hershey_path* path = g->paths; path != nullptr; path = path->next)
            for (unsigned i = 0; i + 1 < path->nverts; ++i) {
                const auto [ax, ay] = scene(pen + path->verts[i].x * unit, -path->verts[i].y * unit, x, y, turn);
                const auto [bx, by] =
                    scene(pen + path->verts[i + 1].x * unit, -path->verts[i + 1].y * unit, x, y, turn);
                stroke(ax, ay, bx, by, 0.09 * size, ink);
            }
        pen += g->width * unit;
    }
    hershey_font_free(font);
}

void HardPainter::ruler(const HardRuler& r) {
    const bool light0 = r.kind == RulerKind::LightOnDark;
    const Ink surface = light0 ? greyInk(0.04) : greyInk(0.62), mark = light0 ? greyInk(0.8) : greyInk(0.02);
    const double step = r.kind == RulerKind::HalfMillimetres  ? 0.5
                        : r.kind == RulerKind::InchSixteenths ? 25.4 / 16
                                                              : 1;
    const double margin = 4;
    const auto at = [&](double along, double down) { return scene(along, down, r.x, r.y, r.turn); };
    if (r.kind != RulerKind::Clear) {
        const auto [cx, cy] = at(r.length / 2, r.bodyWidth / 2);
        light.paint(
            camera, cx, cy, r.length,
            [&, x = cx, y = cy](double px, double py) {
                const auto [u, v] = local(px, py, x, y, r.turn);
                return toBox(u, v, r.length + 2 * margin, r.bodyWidth, 0.4);
            },
            [&](double, double) { return surface; });
    }
    const int count = static_cast<int>(r.length / step + 1e-6);
    for (int k = 0; k <= count; ++k) {
        double reach = 2.2, per = 10;
        if (r.kind == RulerKind::InchSixteenths) {
            reach = k % 16 == 0 ? 6 : k % 8 == 0 ? 4.8 : k % 4 == 0 ? 3.8 : k % 2 == 0 ? 2.9 : 2.0;
            per = 16;
        } else if (r.kind == RulerKind::HalfMillimetres) {
            reach = k % 20 == 0 ? 5 : k % 10 == 0 ? 4 : k % 2 == 0 ? 3 : 1.8;
            per = 20;
        } else {
            reach = k % 10 == 0 ? 4.2 : k % 5 == 0 ? 3.2 : 2.2;
        }
        const auto [ax, ay] = at(k * step, 0.05);
        const auto [bx, by] = at(k * step, reach);
        stroke(ax, ay, bx, by, r.kind == RulerKind::HalfMillimetres ? 0.1 : 0.14, mark);
        if (k % static_cast<int>(per) != 0) continue;
        const auto [tx, ty] = at(k * step - 0.6, reach + 2.6);
        letters(std::to_string(k / static_cast<int>(per)), tx, ty, 1.9, r.turn, mark);
    }
    if (r.kind != RulerKind::Clear && sometimes(0.5)) {
        const auto [hx, hy] = at(-margin + 2.2, r.bodyWidth - 3.5);  // to hang it up
        light.paint(
            camera, hx, hy, 2, [x = hx, y = hy](double px, double py) { return toDisc(px - x, py - y, 1.1); },
            [&](double, double) { return groundInk; });
    }
    out.options.lookForRuler = true;
}

HardPicture HardPainter::develop(Development how) {
    constexpr std::array<double, 6> kTones = {1.0, 1.8, 2.2, 2.2, 2.2, 2.4};
    if (how.blur <= 0) how.blur = between(0.6, 1.5);
    if (how.tone <= 0) how.tone = kTones[static_cast<std::size_t>(among(6))];
    if (how.noise <= 0) how.noise = between(0.004, 0.025);
    if (how.defocus > 0) light.defocus(how.defocus);
    light.blur(how.blur);
    Picture& p = out.picture;
    p.width = light.width;
    p.height = light.height;
    p.channels = light.channels;
    p.format = "PNG";
    p.data.resize(light.levels.size());
    if (how.dpiTag) p.dpi = Dpi{*how.dpiTag, *how.dpiTag};
    if (how.toneNamed) p.tone = how.tone;
    std::normal_distribution<double> noise(0, 255 * how.noise);
    for (std::size_t i = 0; i < light.levels.size(); ++i) {
        const double level = std::pow(std::clamp<double>(light.levels[i], 0, 1), 1 / how.tone);
        p.data[i] = static_cast<std::uint8_t>(std::clamp(std::lround(255 * level + noise(random_)), 0L, 255L));
    }
    double x = 0, y = 0, n = 0;
    for (const TruePin& t : out.pins)
        if (t.part == 0) {
            x += t.at.x;
            y += t.at.y;
            n += 1;
        }
    double mx = 0, my = 0;
    camera.back(x / n, y / n, mx, my);
    std::tie(out.mmPerPixelX, out.mmPerPixelY) = camera.scaleAt(mx, my);
    out.square = camera.slantX == 0 && camera.slantY == 0;
    return std::move(out);
}

}  // namespace punch::maker
