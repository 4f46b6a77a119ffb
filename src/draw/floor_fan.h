#pragma once
#include "body/body_points.h"
#include "camera/camera.h"
#include <QLineF>
#include <vector>

namespace jl
{

/// Eighths of a turn on the floor under a body, in a camera's pictures (pixels, moved by `shift`), from a
/// heading (deg) on.
std::vector<QLineF> floorFan(const BodyPoints& body, const Camera& camera, const Eigen::Vector2d& shift,
                             double heading);

} // namespace jl
