#include "demo/maker/gaussian.h"

#include <algorithm>
#include <cmath>

namespace punch::maker {

void blurGaussian(std::vector<float>& levels, int width, int height, int channels, double sigma) {
    if (sigma <= 0) return;
    const int reach = static_cast<int>(std::ceil(4 * sigma));
    std::vector<float> kernel(static_cast<std::size_t>(2 * reach + 1));
    float sum = 0;
    for (int k = -reach; k <= reach; ++k)
        sum += kernel[k + reach] = static_cast<float>(std::exp(-k * k / (2 * sigma * sigma)));
    for (float& k : kernel) k /= sum;
    std::vector<float> line(levels.size());
    const std::size_t row = static_cast<std::size_t>(width) * channels;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (int c = 0; c < channels; ++c) {
                float v = 0;
                for (int k = -reach; k <= reach; ++k)
                    v += kernel[k + reach] * levels[y * row + std::clamp(x + k, 0, width - 1) * channels + c];
                line[y * row + x * channels + c] = v;
            }
    for (int y = 0; y < height; ++y) {
        float* to = levels.data() + y * row;
        std::fill(to, to + row, 0.0f);
        for (int k = -reach; k <= reach; ++k) {
            const float* from = line.data() + std::clamp(y + k, 0, height - 1) * row;
            for (std::size_t i = 0; i < row; ++i) to[i] += kernel[k + reach] * from[i];
        }
    }
}

}  // namespace punch::maker
