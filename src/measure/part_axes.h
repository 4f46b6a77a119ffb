#pragma once
#include "measure/body_points.h"

namespace jl
{

/// The axes in which a landmark's offset is given: columns out (to the landmark's own side), forward, up.
Eigen::Matrix3d partAxes(const BodyPoints& points, Landmark l);

} // namespace jl
