#pragma once
#include "media/frame.h"
#include "vision/region.h"

namespace jl
{

/// Fills an n x n RGB picture (float, NHWC) from a region of a frame, straight from its YUV planes, bilinear,
/// black outside. Values are scale * (0..255) + offset. Each output pixel is the mean of oversample^2
/// samples, which avoids aliasing when a large picture is shrunk much.
void sampleRegion(const Frame& frame, const Region& region, int n, int oversample, float scale, float offset,
                  float* out);

} // namespace jl
