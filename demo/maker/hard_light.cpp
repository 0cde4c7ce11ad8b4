// Painting in linear light.

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

#include "demo/maker/gaussian.h"
#include "demo/maker/hard_picture.h"

namespace punch::maker {

namespace {
constexpr int kLightSub = 8;
}  // namespace

PixelPoint Camera::at(double x, double y) const {
    const double c = std::cos(turn * kRadians), s = std::sin(turn * kRadians);
    const double u = c * x - s * y, v = s * x + c * y;
    const double w = 1 - slantX * u - slantY * v;
    return {middleX + perMmX * u / w, middleY + perMmY * v / w};
}

void Camera::back(double px, double py, double& x, double& y) const {
    const double a = (px - middleX) / perMmX, b = (py - middleY) / perMmY;
    const double w = 1 / (1 + slantX * a + slantY * b);
    const double u = a * w, v = b * w;
    const double c = std::cos(turn * kRadians), s = std::sin(turn * kRadians);
    x = c * u + s * v;
    y = -s * u + c * v;
}

std::pair<double, double> Camera::scaleAt(double x, double y) const {
    const PixelPoint p = at(x, y);
    double x0 = 0, y0 = 0, x1 = 0, y1 = 0;
    back(p.x - 0.5, p.y, x0, y0);
    back(p.x + 0.5, p.y, x1, y1);
    const double sx = std::hypot(x1 - x0, y1 - y0);
    back(p.x, p.y - 0.5, x0, y0);
    back(p.x, p.y + 0.5, x1, y1);
    return {sx, std::hypot(x1 - x0, y1 - y0)};
}

Light::Light(int w, int h, int channelCount, const Ink& ground)
    : width(w), height(h), channels(channelCount), levels(static_cast<std::size_t>(w) * h * channelCount) {
    for (std::size_t i = 0; i < levels.size(); ++i) levels[i] = ground[i % static_cast<std::size_t>(channels)];
}

void Light::paint(const Camera& camera, double x, double y, double reach,
                  const std::function<double(double, double)>& distance,
                  const std::function<Ink(double, double)>& ink) {
    double left = 1e9, right = -1e9, top = 1e9, bottom = -1e9;
    for (const double dx : {-reach, reach})
        for (const double dy : {-reach, reach}) {
            const PixelPoint p = camera.at(x + dx, y + dy);
            left = std::min(left, p.x);
            right = std::max(right, p.x);
            top = std::min(top, p.y);
            bottom = std::max(bottom, p.y);
        }
    const int x0 = std::max(0, static_cast<int>(std::floor(std::max(left, -1e6))) - 1);
    const int y0 = std::max(0, static_cast<int>(std::floor(std::max(top, -1e6))) - 1);
    const int x1 = std::min(width - 1, static_cast<int>(std::ceil(std::min(right, 1e6))) + 1);
    const int y1 = std::min(height - 1, static_cast<int>(std::ceil(std::min(bottom, 1e6))) + 1);
    const double safe = 0.8 / std::min(camera.perMmX, camera.perMmY);  // mm: half a pixel's diagonal and some
    for (int py = y0; py <= y1; ++py)
        for (int px = x0; px <= x1; ++px) {
            double u = 0, v = 0;
            camera.back(px, py, u, v);
            const double d = distance(u, v);
            if (d > safe) continue;
            float share = 1;
            if (d > -safe) {
                int hits = 0;
                for (int j = 0; j < kLightSub; ++j)
                    for (int i = 0; i < kLightSub; ++i) {
                        double su = 0, sv = 0;
                        camera.back(px + (i + 0.5) / kLightSub - 0.5, py + (j + 0.5) / kLightSub - 0.5, su, sv);
                        hits += distance(su, sv) <= 0 ? 1 : 0;
                    }
                if (hits == 0) continue;
                share = static_cast<float>(hits) / (kLightSub * kLightSub);
            }
            const Ink with = ink(u, v);
            float* to = levels.data() + (static_cast<std::size_t>(py) * width + px) * channels;
            for (int c = 0; c < channels; ++c) to[c] += share * (with[static_cast<std::size_t>(c)] - to[c]);
        }
}

void Light::blur(double sigma) { blurGaussian(levels, width, height, channels, sigma); }

void Light::defocus(double diameter) {
    if (diameter <= 1) return;
    // Sums along each row of the disc from running sums.
    const int reach = static_cast<int>(std::ceil(diameter / 2));
    std::vector<float> out(levels.size(), 0.0f);
    double area = 0;
    std::vector<double> sums(static_cast<std::size_t>(width + 1));
    std::vector<double> half(static_cast<std::size_t>(2 * reach + 1));
    for (int dy = -reach; dy <= reach; ++dy) {
        const double r2 = diameter * diameter / 4 - dy * dy;
        half[dy + reach] = r2 > 0 ? std::sqrt(r2) : -1;
        if (r2 > 0) area += 2 * std::sqrt(r2);
    }
    for (int c = 0; c < channels; ++c)
        for (int y = 0; y < height; ++y) {
            sums[0] = 0;
            for (int x = 0; x < width; ++x)
                sums[x + 1] = sums[x] + levels[(static_cast<std::size_t>(y) * width + x) * channels + c];
            const auto until = [&](double x) {  // integral up to x, pixel i covering i - 0.5 to i + 0.5
                const double at = std::clamp(x + 0.5, 0.0, static_cast<double>(width));
                const int whole = std::min(static_cast<int>(at), width - 1);
                double v = sums[whole] + (at - whole) * (sums[whole + 1] - sums[whole]);
                if (x + 0.5 < 0) v += (x + 0.5) * sums[1];
                if (x + 0.5 > width) v += (x + 0.5 - width) * (sums[width] - sums[width - 1]);
                return v;
            };
            for (int dy = -reach; dy <= reach; ++dy) {
                const double h = half[dy + reach];
                if (h <= 0) continue;
                for (int to = y - dy; to == y - dy; ++to) {
                    if (to < 0 || to >= height) continue;
                    for (int x = 0; x < width; ++x)
                        out[(static_cast<std::size_t>(to) * width + x) * channels + c] +=
                            static_cast<float>((until(x + h) - until(x - h)) / area);
                }
                // Beyond the edge the border goes on.
                if (y == 0 || y == height - 1)
                    for (int to = 0; to < height; ++to)
                        if ((y == 0 && to + dy < 0) || (y == height - 1 && to + dy > height - 1))
                            for (int x = 0; x < width; ++x)
                                out[(static_cast<std::size_t>(to) * width + x) * channels + c] +=
                                    static_cast<float>((until(x + h) - until(x - h)) / area);
            }
        }
    levels = std::move(out);
}

double toDisc(double x, double y, double radius) { return std::hypot(x, y) - radius; }

double toBox(double x, double y, double w, double h, double r) {
    const double dx = std::abs(x) - (w / 2 - r), dy = std::abs(y) - (h / 2 - r);
    return std::hypot(std::max(dx, 0.0), std::max(dy, 0.0)) + std::min(std::max(dx, dy), 0.0) - r;
}

}  // namespace punch::maker
