#pragma once
#include "body/landmark.h"
#include "measure/measure_id.h"
#include <Eigen/Core>
#include <array>

namespace jl
{

/// The 33 body points in the room frame (z up, floor z = 0), m.
using BodyPoints = std::array<Eigen::Vector3d, kLandmarkCount>;

/// Unit vectors of a heading (deg, clockwise from above, 0 = +y): forward, and to its right.
Eigen::Vector3d forwardOf(double headingDeg);
Eigen::Vector3d rightOf(double headingDeg);

/// The value of a measure on body points, by the definitions of measureInfo(): degrees, metres or percent.
/// The weight is that of a body at rest (centre of mass between the foot centres); a value may lie outside 0
/// to 100 %. NaN for measures that are defined but not read from clips.
double measureValue(Measure m, const BodyPoints& points, Side lead, double headingDeg);

} // namespace jl
