#pragma once
#include "measure/body_points.h"
#include <vector>

namespace jl
{

/// A body that moves in space, from motion capture: room frame (z up, floor z = 0), m. Points that were never
/// marked are NaN.
struct BodyMotion {
    double framesPerSecond = 0;
    std::vector<double> time; ///< s, rising, as many as frames
    std::vector<BodyPoints> frames;
};

} // namespace jl
