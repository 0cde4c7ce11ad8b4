#include "core/picture/rectify.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/linear/decompositions.h"

namespace punch {

namespace {

double cross(PixelPoint a, PixelPoint b, PixelPoint c) { return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x); }


}  // namespace

PixelPoint Homography::map(double x, double y) const {
    const double w = depth(x, y);
    return {(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w};
}

Result<Homography> homographyOf(double width, double height, const std::array<PixelPoint, 4>& p) {
    if (!(width > 0 && height > 0 && width < 1e5 && height < 1e5))
        return problem("both sides of the rectangle must be above zero", "rectangle", "Type them as in 85.6 x 54");
    // All turns the same way: a quadrangle that is convex and not crossed over.
    int left = 0;
    for (std::size_t i = 0; i < 4; ++i) {
        const double c = cross(p[i], p[(i + 1) % 4], p[(i + 2) % 4]);
        if (std::abs(c) < 0.01 * apart(p[i], p[(i + 1) % 4]) * apart(p[(i + 1) % 4], p[(i + 2) % 4]) || c == 0)
            return problem("three of the corners lie on one line", "rectangle", "Choose the four corners anew");
        left += c > 0 ? 1 : 0;
    }
    if (left != 0 && left != 4)
        return problem("the corners are crossed over", "rectangle", "Choose them one after the other around it");
    Eigen::Matrix<double, 8, 8> a = Eigen::Matrix<double, 8, 8>::Zero();
    Eigen::Matrix<double, 8, 1> b;
    const double xs[] = {0, width, width, 0}, ys[] = {0, 0, height, height};
    for (int i = 0; i < 4; ++i) {
        const double x = xs[i], y = ys[i];
        const PixelPoint q = p[static_cast<std::size_t>(i)];
        a.row(2 * i) << x, y, 1, 0, 0, 0, -q.x * x, -q.x * y;
        a.row(2 * i + 1) << 0, 0, 0, x, y, 1, -q.y * x, -q.y * y;
        b[2 * i] = q.x;
        b[2 * i + 1] = q.y;
    }
    const Eigen::Matrix<double, 8, 1> h = linear::leastNorm(a, b).x;
    if (!h.allFinite()) return problem("no rectangle looks like this", "rectangle", "Choose the four corners anew");
    Homography out;
    for (int i = 0; i < 8; ++i) out.h[static_cast<std::size_t>(i)] = h[i];
    return out;
}

Result<Squared> madeSquare(const Picture& picture, const std::array<PixelPoint, 4>& clicked, double width,
                           double height) {
    // Clicked the other way round, as in a view of the underside, the corners would turn the picture over: left and
    // right of both long sides are exchanged, which leaves every side its length.
    const bool over = cross(clicked[0], clicked[1], clicked[2]) < 0;
    const std::array<std::size_t, 4> order =
        over ? std::array<std::size_t, 4>{1, 0, 3, 2} : std::array<std::size_t, 4>{0, 1, 2, 3};
    std::array<PixelPoint, 4> corners;
    for (std::size_t i = 0; i < 4; ++i) corners[i] = clicked[order[i]];
    const auto plane = homographyOf(width, height, corners);
    if (!plane) return tl::make_unexpected(plane.error());
    // As fine as its finest side was taken.
    double fineness = 0;
    for (std::size_t i = 0; i < 4; ++i)
        fineness = std::max(fineness, apart(corners[i], corners[(i + 1) % 4]) / (i % 2 == 0 ? width : height));
    fineness = std::min(fineness, 20000 / 25.4);
    // How far around the rectangle the picture still shows its plane.
    const auto shown = [&](double x, double y) {
        if (plane->depth(x, y) < 0.05) return false;
        const PixelPoint q = plane->map(x, y);
        return q.x >= -0.5 && q.y >= -0.5 && q.x < picture.width - 0.5 && q.y < picture.height - 0.5;
    };
    double left = 0, right = width, top = 0, bottom = height;
    constexpr int kSteps = 80;
    for (int i = 0; i <= kSteps; ++i)
        for (int j = 0; j <= kSteps; ++j) {
            const double x = width * (-2 + 5.0 * i / kSteps), y = height * (-2 + 5.0 * j / kSteps);
            if (!shown(x, y)) continue;
            left = std::min(left, x);
            right = std::max(right, x);
            top = std::min(top, y);
            bottom = std::max(bottom, y);
        }
    const double w = (right - left) * fineness, h = (bottom - top) * fineness;
    if (w * h > 150e6)
        return problem(fmt::format("made square it would have {:.0f} x {:.0f} pixels", w, h), "rectangle",
                       "Cut the photograph down to the part and the rectangle first");
    Squared out;
    Picture& to = out.picture;
    to.width = std::max(1, static_cast<int>(std::lround(w)));
    to.height = std::max(1, static_cast<int>(std::lround(h)));
    to.channels = picture.channels;
    to.tone = picture.tone;
    to.format = picture.format;
    to.dpi = Dpi{fineness * 25.4, fineness * 25.4};
    to.data.assign(static_cast<std::size_t>(to.width) * to.height * to.channels, 255);
    for (int y = 0; y < to.height; ++y) {
        std::uint8_t* row = to.row(y);
        for (int x = 0; x < to.width; ++x) {
            const double mx = left + x / fineness, my = top + y / fineness;
            if (!shown(mx, my)) continue;
            const PixelPoint q = plane->map(mx, my);
            const int x0 = std::clamp(static_cast<int>(std::floor(q.x)), 0, picture.width - 1);
            const int y0 = std::clamp(static_cast<int>(std::floor(q.y)), 0, picture.height - 1);
            const int x1 = std::min(x0 + 1, picture.width - 1), y1 = std::min(y0 + 1, picture.height - 1);
            const double fx = std::clamp(q.x - x0, 0.0, 1.0), fy = std::clamp(q.y - y0, 0.0, 1.0);
            for (int c = 0; c < picture.channels; ++c) {
                const auto at = [&](int px, int py) {
                    return static_cast<double>(picture.row(py)[px * picture.channels + c]);
                };
                const double v = (1 - fy) * ((1 - fx) * at(x0, y0) + fx * at(x1, y0)) +
                                 fy * ((1 - fx) * at(x0, y1) + fx * at(x1, y1));
                row[x * to.channels + c] = static_cast<std::uint8_t>(std::lround(v));
            }
        }
    }
    const double xs[] = {0, width, width, 0}, ys[] = {0, 0, height, height};
    for (std::size_t i = 0; i < 4; ++i) out.corners[order[i]] = {(xs[i] - left) * fineness, (ys[i] - top) * fineness};
    to.notes.push_back(
        fmt::format("made square by a rectangle of {:g} x {:g} mm: what stands above its plane is shifted "
                    "away from the camera",
                    width, height));
    return out;
}

}  // namespace punch
