#pragma once
#include "body/body_points.h"
#include <vector>

namespace jl
{

/// The convex hull of what stands of both soles, counter-clockwise on the floor, m; empty when no foot
/// stands. A heel or toe stands that lies within 3 cm of where it is when the foot is flat; the sole goes
/// beyond its points by 7 % of the foot behind the heel and 1 % before the toe.
std::vector<Eigen::Vector2d> supportPolygon(const BodyPoints& points, const BodyLengths& lengths);

/// The point of the floor under the centre of mass: of a body at rest, its centre of pressure.
Eigen::Vector2d underCentreOfMass(const BodyPoints& points);

} // namespace jl
