#pragma once
#include "body/track.h"
#include "media/frame.h"
#include <vector>

namespace jl
{

/// The brightness (0 to 255) of an upright picture, scaled down by a whole number: every pixel is the mean of
/// a square.
struct CoarsePicture {
    int width = 0, height = 0;
    double scale = 1; ///< pixels of the upright picture to one of this
    std::vector<float> light;

    CoarsePicture() = default;
    /// With a longer side of `longer` pixels or somewhat more.
    CoarsePicture(const Frame& frame, int longer);

    float at(int x, int y) const { return light[static_cast<std::size_t>(y) * width + x]; }
    /// The mean over squares that reach so many pixels to each side.
    CoarsePicture softened(int reach) const;
};

/// Where a body is in a coarse picture, with a margin for hair, clothes and fingers; empty when nobody is
/// there.
struct BodyBox {
    double left = 0, right = 0, top = 0, bottom = 0;

    BodyBox() = default;
    /// `scale` is that of the coarse picture.
    BodyBox(const BodyFrame& body, double scale);
    bool holds(double x, double y) const { return x > left && x < right && y > top && y < bottom; }
};

} // namespace jl
