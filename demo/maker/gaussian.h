#pragma once
// A Gaussian blur of floating levels, for both makers of pictures.

#include <vector>

namespace punch::maker {

/// In place; channels interleaved, row by row. `sigma` in pixels; beyond the edge the border goes on.
void blurGaussian(std::vector<float>& levels, int width, int height, int channels, double sigma);

}  // namespace punch::maker
