#include "core/body/drawn_scene.h"

#include <png.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "core/artwork/palette.h"

namespace punch {
namespace {

constexpr int kFine = 2;            // pixels each way for one of the picture
constexpr double kLineWide = 1.1;   // of the picture's pixels
constexpr double kLineNear = 0.02;  // mm that a line stands before its face
constexpr float kFar = -1e9F;

struct Corner {
    double x = 0, y = 0, z = 0;
};

/// Light from over the left shoulder, on both sides of a face; as the bench draws it.
double lightOf(Vec3 n) {
    if (n.z < 0) n = -n;
    static const Vec3 from = unit({-0.4, 0.55, 0.75});
    return 0.62 + 0.30 * std::max(dot(n, from), 0.0) + 0.12 * n.z;
}

class Canvas {
public:
    Canvas(int width, int height)
        : w_(width * kFine),
          h_(height * kFine),
          depth_(static_cast<std::size_t>(w_) * static_cast<std::size_t>(h_), kFar) {
        const auto p = palette::kPaper;
        colour_.assign(depth_.size(),
                       {static_cast<float>(p >> 16), static_cast<float>(p >> 8 & 255), static_cast<float>(p & 255)});
    }

    /// `keeps`: nothing in front of the cut is drawn. What is seen through hides nothing.
    template <class Keeps>
    void triangle(const Corner& a, const Corner& b, const Corner& c, const float rgb[3], float share, bool solid,
                  const Keeps& keeps) {
        const double area = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
        if (std::abs(area) < 1e-9) return;
        const int x0 = std::max(0, static_cast<int>(std::floor(std::min({a.x, b.x, c.x})))),
                  x1 = std::min(w_ - 1, static_cast<int>(std::ceil(std::max({a.x, b.x, c.x})))),
                  y0 = std::max(0, static_cast<int>(std::floor(std::min({a.y, b.y, c.y})))),
                  y1 = std::min(h_ - 1, static_cast<int>(std::ceil(std::max({a.y, b.y, c.y}))));
        for (int y = y0; y <= y1; ++y)
            for (int x = x0; x <= x1; ++x) {
                const double px = x + 0.5, py = y + 0.5;
                const double u = ((b.x - px) * (c.y - py) - (b.y - py) * (c.x - px)) / area,
                             v = ((c.x - px) * (a.y - py) - (c.y - py) * (a.x - px)) / area, k = 1 - u - v;
                if (u < 0 || v < 0 || k < 0) continue;
                put(x, y, u * a.z + v * b.z + k * c.z, rgb, share, solid, u, v, keeps);
            }
    }

    template <class Keeps>
    void line(const Corner& a, const Corner& b, const float rgb[3], float share, const Keeps& keeps) {
        const double length = std::hypot(b.x - a.x, b.y - a.y), half = kLineWide * kFine / 2;
        const int x0 = std::max(0, static_cast<int>(std::floor(std::min(a.x, b.x) - half))),
                  x1 = std::min(w_ - 1, static_cast<int>(std::ceil(std::max(a.x, b.x) + half))),
                  y0 = std::max(0, static_cast<int>(std::floor(std::min(a.y, b.y) - half))),
                  y1 = std::min(h_ - 1, static_cast<int>(std::ceil(std::max(a.y, b.y) + half)));
        const bool steep = std::abs(b.y - a.y) > std::abs(b.x - a.x);
        // Row by row along its longer side, so that a long line does not look at all of its box.
        for (int i = steep ? y0 : x0; i <= (steep ? y1 : x1); ++i) {
            const double along = steep ? b.y - a.y : b.x - a.x;
            const double t = std::abs(along) < 1e-9 ? 0 : (i + 0.5 - (steep ? a.y : a.x)) / along;
            const double middle = steep ? a.x + t * (b.x - a.x) : a.y + t * (b.y - a.y);
            for (int k = static_cast<int>(std::floor(middle - 2 * half)); k <= static_cast<int>(middle + 2 * half);
                 ++k) {
                const int x = steep ? k : i, y = steep ? i : k;
                if (x < 0 || y < 0 || x >= w_ || y >= h_) continue;
                const double px = x + 0.5 - a.x, py = y + 0.5 - a.y;
                const double s =
                    length < 1e-9 ? 0 : std::clamp((px * (b.x - a.x) + py * (b.y - a.y)) / (length * length), 0.0, 1.0);
                if (std::hypot(px - s * (b.x - a.x), py - s * (b.y - a.y)) > half) continue;
                put(x, y, a.z + s * (b.z - a.z) + kLineNear, rgb, share, false, 1 - s, s, keeps);
            }
        }
    }

    Drawn picture() const {
        Drawn out{w_ / kFine, h_ / kFine, {}};
        out.pixels.reserve(static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height) * 3);
        for (int y = 0; y < out.height; ++y)
            for (int x = 0; x < out.width; ++x)
                for (std::size_t c = 0; c < 3; ++c) {
                    float sum = 0;
                    for (int j = 0; j < kFine; ++j)
                        for (int i = 0; i < kFine; ++i) sum += colour_[index(x * kFine + i, y * kFine + j)][c];
                    out.pixels.push_back(static_cast<unsigned char>(std::lround(sum / (kFine * kFine))));
                }
        return out;
    }

private:
    std::size_t index(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(w_) + static_cast<std::size_t>(x);
    }
    template <class Keeps>
    void put(int x, int y, double z, const float rgb[3], float share, bool solid, double u, double v,
             const Keeps& keeps) {
        const std::size_t i = index(x, y);
        if (static_cast<float>(z) <= depth_[i] || !keeps(u, v)) return;
        if (solid) depth_[i] = static_cast<float>(z);
        for (std::size_t c = 0; c < 3; ++c) colour_[i][c] += share * (rgb[c] - colour_[i][c]);
    }
    int w_, h_;
    std::vector<float> depth_;
    std::vector<std::array<float, 3>> colour_;
};

/// Layers put onto the canvas as they are seen.
class Painter {
public:
    Painter(const SpaceCamera& camera, const SpaceLook& look, Canvas& canvas)
        : camera_(camera), look_(look), canvas_(canvas), turn_(camera.turn()) {}

    void layer(const SceneLayer& layer, const Pose& place, bool solid) {
        const auto keepsAll = [](double, double) { return true; };
        const std::size_t n = layer.triangles.size() / 3;
        std::vector<std::size_t> order;
        for (std::size_t i = 0; i < n; ++i) order.push_back(i);
        if (!solid) {
            // What is seen through: the farthest first.
            std::vector<double> far(n);
            for (std::size_t i = 0; i < n; ++i)
                for (std::size_t k = 0; k < 3; ++k)
                    far[i] += turn_.turned(at(layer.corners[layer.triangles[3 * i + k]], place)).z;
            std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return far[a] < far[b]; });
        }
        for (const std::size_t i : order) {
            const SceneVertex& v = layer.corners[layer.triangles[3 * i]];
            const Vec3 p[] = {at(v, place), at(layer.corners[layer.triangles[3 * i + 1]], place),
                              at(layer.corners[layer.triangles[3 * i + 2]], place)};
            const float share = static_cast<float>(v.a) / 255;
            const double light = lightOf(unit(turn_.turned(place.turned({v.nx, v.ny, v.nz}))));
            const float rgb[] = {static_cast<float>(std::min(v.r * light, 255.0)),
                                 static_cast<float>(std::min(v.g * light, 255.0)),
                                 static_cast<float>(std::min(v.b * light, 255.0))};
            const Corner c[] = {corner(p[0]), corner(p[1]), corner(p[2])};
            if (!look_.cut)
                canvas_.triangle(c[0], c[1], c[2], rgb, share, solid, keepsAll);
            else
                canvas_.triangle(c[0], c[1], c[2], rgb, share, solid, [&](double u, double w) {
                    return look_.cut->keeps(u * p[0] + w * p[1] + (1 - u - w) * p[2]);
                });
        }
    }

    void lines(const SceneLayer& layer, const Pose& place) {
        for (std::size_t i = 0; i + 1 < layer.lines.size(); i += 2) {
            const SceneVertex* v = &layer.lines[i];
            const Vec3 a = at(v[0], place), b = at(v[1], place);
            const float rgb[] = {static_cast<float>(v->r), static_cast<float>(v->g), static_cast<float>(v->b)};
            canvas_.line(corner(a), corner(b), rgb, static_cast<float>(v->a) / 255,
                         [&](double u, double w) { return !look_.cut || look_.cut->keeps(u * a + w * b); });
        }
    }

private:
    static Vec3 at(const SceneVertex& v, const Pose& place) { return place({v.x, v.y, v.z}); }
    Corner corner(Vec3 p) const {
        const Vec3 s = camera_.seen(p);
        return {s.x * kFine, s.y * kFine, s.z};
    }
    const SpaceCamera& camera_;
    const SpaceLook& look_;
    Canvas& canvas_;
    Pose turn_;
};

}  // namespace

Result<Drawn> drawn(const SolidScene& scene, const SpaceCamera& camera, const SpaceLook& look) {
    if (camera.width < 16 || camera.height < 16 || camera.width > 10000 || camera.height > 10000)
        return problem("a picture has 16 to 10000 pixels each way", {}, "Choose another size");
    Canvas canvas(camera.width, camera.height);
    Painter paint(camera, look, canvas);
    const Pose still, lifted{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0, 0, look.lift}};
    paint.layer(scene.leads, lifted, true);
    paint.layer(scene.copper, still, true);
    paint.lines(scene.leads, lifted);
    paint.lines(scene.copper, still);
    const auto board = [&] {
        paint.layer(scene.board, still, false);
        paint.lines(scene.board, still);
    };
    const auto body = [&] {
        paint.layer(scene.body, lifted, false);
        paint.lines(scene.body, lifted);
        for (std::size_t i = 0; i < scene.movers.size(); ++i) {
            const SceneMover& m = scene.movers[i];
            const Pose at = after(lifted, m.motion.pose(i < look.moved.size() ? look.moved[i] : 0));
            paint.layer(m.layer, at, false);
            paint.lines(m.layer, at);
        }
    };
    // From the far side to the near one.
    if (camera.pitch < 0) {
        body();
        board();
    } else {
        board();
        body();
    }
    return canvas.picture();
}

Result<std::string> pngOf(const Drawn& picture) {
    png_image image{};
    image.version = PNG_IMAGE_VERSION;
    image.width = static_cast<png_uint_32>(picture.width);
    image.height = static_cast<png_uint_32>(picture.height);
    image.format = PNG_FORMAT_RGB;
    png_alloc_size_t size = 0;
    if (png_image_write_to_memory(&image, nullptr, &size, 0, picture.pixels.data(), 0, nullptr) == 0)
        return problem(std::string("the picture could not be packed: ") + image.message);
    std::string bytes(size, '\0');
    if (png_image_write_to_memory(&image, bytes.data(), &size, 0, picture.pixels.data(), 0, nullptr) == 0)
        return problem(std::string("the picture could not be packed: ") + image.message);
    bytes.resize(size);
    return bytes;
}

}  // namespace punch
