#pragma once
#include "body/body_points.h"

namespace jl
{

/// The axes in which a landmark's offset is given: columns out (to the landmark's own side), forward, up.
Eigen::Matrix3d partAxes(const BodyPoints& points, Landmark l);

/// The direction of the limb below a joint (upper arm, forearm) in the axes of the joint's
/// part; zero for points that are no such joint.
Eigen::Vector3d limbDirection(const BodyPoints& points, Landmark joint);

} // namespace jl
