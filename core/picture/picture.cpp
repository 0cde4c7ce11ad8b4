#include "core/picture/picture.h"

#include <algorithm>
#include <cmath>

namespace punch {

double Grey::sample(double x, double y) const {
    x = std::clamp(x, 0.0, width - 1.0);
    y = std::clamp(y, 0.0, height - 1.0);
    const int x0 = std::min(static_cast<int>(x), std::max(width - 2, 0));
    const int y0 = std::min(static_cast<int>(y), std::max(height - 2, 0));
    const int x1 = std::min(x0 + 1, width - 1);
    const int y1 = std::min(y0 + 1, height - 1);
    const double fx = x - x0;
    const double fy = y - y0;
    const double top = at(x0, y0) * (1 - fx) + at(x1, y0) * fx;
    const double bottom = at(x0, y1) * (1 - fx) + at(x1, y1) * fx;
    return top * (1 - fy) + bottom * fy;
}

Grey greyOf(const Picture& picture, const PixelRegion& region, Channel channel) {
    Grey grey{region.width, region.height, {}, channel == Channel::Luminance ? picture.tone.value_or(0) : 1};
    grey.data.resize(static_cast<std::size_t>(region.width) * region.height);
    for (int y = 0; y < region.height; ++y) {
        const std::uint8_t* in = picture.row(y + region.y) + static_cast<std::size_t>(region.x) * picture.channels;
        std::uint8_t* out = grey.data.data() + static_cast<std::size_t>(y) * region.width;
        if (picture.channels == 1) {
            std::copy(in, in + region.width, out);
            continue;
        }
        if (channel != Channel::Luminance) {
            for (int x = 0; x < region.width; ++x, in += 3) {
                const int differ = channel == Channel::RedGreen ? in[0] - in[1] : in[2] - (in[0] + in[1]) / 2;
                out[x] = static_cast<std::uint8_t>(128 + differ / 2);
            }
            continue;
        }
        // 0.2126, 0.7152, 0.0722 in 1/65536.
        for (int x = 0; x < region.width; ++x, in += 3)
            out[x] = static_cast<std::uint8_t>((13933u * in[0] + 46871u * in[1] + 4732u * in[2] + 32768u) >> 16);
    }
    return grey;
}

Grey greyOf(const Picture& picture) { return greyOf(picture, {0, 0, picture.width, picture.height}); }

Grey reduced(const Grey& grey, int factor) {
    if (factor <= 1) return grey;
    Grey out{grey.width / factor, grey.height / factor, {}, grey.tone};
    out.data.resize(static_cast<std::size_t>(out.width) * out.height);
    std::vector<std::uint32_t> sums(static_cast<std::size_t>(out.width));
    const auto cells = static_cast<std::uint32_t>(factor * factor);
    for (int y = 0; y < out.height; ++y) {
        std::fill(sums.begin(), sums.end(), 0u);
        for (int dy = 0; dy < factor; ++dy) {
            const std::uint8_t* in = grey.data.data() + static_cast<std::size_t>(y * factor + dy) * grey.width;
            for (std::uint32_t& sum : sums)
                for (int dx = 0; dx < factor; ++dx) sum += *in++;
        }
        std::uint8_t* to = out.data.data() + static_cast<std::size_t>(y) * out.width;
        for (int x = 0; x < out.width; ++x) to[x] = static_cast<std::uint8_t>((sums[x] + cells / 2) / cells);
    }
    return out;
}

Picture halved(const Picture& picture) {
    Picture out;
    out.width = std::max(1, (picture.width + 1) / 2);
    out.height = std::max(1, (picture.height + 1) / 2);
    out.channels = picture.channels;
    out.data.resize(static_cast<std::size_t>(out.width) * out.height * out.channels);
    const int channels = picture.channels;
    for (int y = 0; y < out.height; ++y) {
        const std::uint8_t* a = picture.row(2 * y);
        const std::uint8_t* b = picture.row(std::min(2 * y + 1, picture.height - 1));
        std::uint8_t* to = out.row(y);
        const int pairs = picture.width / 2;
        for (int x = 0; x < pairs; ++x, a += 2 * channels, b += 2 * channels)
            for (int c = 0; c < channels; ++c)
                *to++ = static_cast<std::uint8_t>((a[c] + a[c + channels] + b[c] + b[c + channels] + 2) / 4);
        if (picture.width % 2 != 0)
            for (int c = 0; c < channels; ++c) *to++ = static_cast<std::uint8_t>((a[c] + b[c] + 1) / 2);
    }
    return out;
}

}  // namespace punch
