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

namespace {

/// How much of each pixel along an axis a cell covers: the first pixel, and shares in 256ths that sum up to 256.
struct Cover {
    int first = 0;
    std::vector<std::uint32_t> shares;
};

std::vector<Cover> covers(int pixels, int cells, double factor) {
    std::vector<Cover> all(static_cast<std::size_t>(cells));
    for (int i = 0; i < cells; ++i) {
        Cover& c = all[static_cast<std::size_t>(i)];
        const double from = i * factor, to = std::min((i + 1) * factor, 1.0 * pixels);
        c.first = static_cast<int>(from);
        std::uint32_t left = 256;
        for (int at = c.first; at < to; ++at) {
            const double share = (std::min(to, at + 1.0) - std::max(from, 1.0 * at)) / factor;
            c.shares.push_back(std::min(left, static_cast<std::uint32_t>(std::lround(256 * share))));
            left -= c.shares.back();
        }
        c.shares[c.shares.size() / 2] += left;
    }
    return all;
}

}  // namespace

Grey reducedBy(const Grey& grey, double factor) {
    if (factor <= 1) return grey;
    Grey out{static_cast<int>(grey.width / factor), static_cast<int>(grey.height / factor), {}, grey.tone};
    out.data.resize(static_cast<std::size_t>(out.width) * out.height);
    const std::vector<Cover> across = covers(grey.width, out.width, factor);
    const std::vector<Cover> down = covers(grey.height, out.height, factor);
    std::vector<std::uint32_t> row(static_cast<std::size_t>(grey.width));
    for (int y = 0; y < out.height; ++y) {
        const Cover& rows = down[static_cast<std::size_t>(y)];
        std::fill(row.begin(), row.end(), 0u);
        for (std::size_t k = 0; k < rows.shares.size(); ++k) {
            const std::uint8_t* in =
                grey.data.data() + (static_cast<std::size_t>(rows.first) + k) * static_cast<std::size_t>(grey.width);
            const std::uint32_t share = rows.shares[k];
            for (int x = 0; x < grey.width; ++x) row[static_cast<std::size_t>(x)] += share * in[x];
        }
        std::uint8_t* to = out.data.data() + static_cast<std::size_t>(y) * out.width;
        for (int x = 0; x < out.width; ++x) {
            const Cover& columns = across[static_cast<std::size_t>(x)];
            std::uint32_t sum = 0;
            for (std::size_t k = 0; k < columns.shares.size(); ++k)
                sum += columns.shares[k] * row[static_cast<std::size_t>(columns.first) + k];
            to[x] = static_cast<std::uint8_t>((sum + (1u << 15)) >> 16);
        }
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
