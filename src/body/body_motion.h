#pragma once
#include "base/units.h"
#include "body/body_points.h"
#include <vector>

namespace jl
{

/// A body that moves in space, from motion capture or as a clip was read: room frame (z up, floor z = 0), m.
/// Points that were never marked, or not seen, are NaN.
struct BodyMotion {
    double framesPerSecond = 0;
    std::vector<Seconds> time; ///< s, rising, as many as frames
    std::vector<BodyPoints> frames;
    /// Of one picture: how far the body goes along the line of sight with its weight (bodyShift()), which
    /// `frames` leave out, m. Empty where nothing is.
    std::vector<Eigen::Vector3d> unseenShift;
};

} // namespace jl
