#pragma once
// Picture: the pixels of a scan or photograph, and what its file says about its size.
//
// Frame of a picture: pixel centres at whole numbers, x to the right, y down, the middle of the top left pixel at 0,0.

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "core/base/pixel.h"

namespace punch {

struct Picture {
    int width = 0, height = 0;
    int channels = 1;                ///< 1: grey; 3: red, green, blue
    std::vector<std::uint8_t> data;  ///< row by row from the top, channels interleaved
    std::optional<Dpi> dpi;          ///< none when the file states none that a scanner could have
    std::optional<double> tone;      ///< exponent of the tone curve that the file names: light = level ^ tone
    std::string format;              ///< "PNG", "JPEG"
    std::vector<std::string> notes;  ///< what was done to it on the way in, for people

    const std::uint8_t* row(int y) const {
        return data.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(width) * channels;
    }
    std::uint8_t* row(int y) {
        return data.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(width) * channels;
    }
};

/// What is visible by colour alone: luminance, and how much redder than green, and bluer than both, about 128.
enum class Channel { Luminance, RedGreen, BlueYellow };

/// One level for each pixel, which is what edges are looked for in.
struct Grey {
    int width = 0, height = 0;
    std::vector<std::uint8_t> data;
    double tone = 0;  ///< exponent of the tone curve; 0: not known

    std::uint8_t at(int x, int y) const { return data[static_cast<std::size_t>(y) * width + x]; }
    /// Between pixel centres, bilinear; outside the border value goes on.
    double sample(double x, double y) const;
};

/// Luminance by Rec. 709 weights, of the whole picture or a part of it.
Grey greyOf(const Picture& picture);
Grey greyOf(const Picture& picture, const PixelRegion& region, Channel channel = Channel::Luminance);

/// Averages of `factor` x `factor` pixels; a rest at the right and bottom is left out. Pixel (i, j) of the result has
/// its middle at ((i + 0.5) factor - 0.5, ...) of the original.
Grey reduced(const Grey& grey, int factor);
/// The same for any `factor` of 1 or more: pixels count by the share of them that a cell covers.
Grey reducedBy(const Grey& grey, double factor);
/// Half the size, averages of 2 x 2 pixels (of what is there at the edges).
Picture halved(const Picture& picture);

}  // namespace punch
