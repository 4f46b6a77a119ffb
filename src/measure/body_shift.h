#pragma once
#include "measure/body_points.h"

namespace jl
{

/// How far a body goes out of the plane in which it is seen when its weight goes over otherwise than
/// expected, m along the plane's horizontal normal (room frame).
///
/// One picture gives a shift of the weight only along the plane; its way across stays where it is expected.
/// But a shift leads along the line between the feet, which in a wide stance lies across the plane too: the
/// share of the weight would be drawn towards the expected one by the square of that line's sine. So the
/// centre of mass is taken to lie as far beside the line as is expected, and as far along it as is seen.
///
/// Less where feet are close together or seen one behind the other, then 0; never more than 0.15 m.
double bodyShift(const BodyPoints& seen, const BodyPoints& expected, Side lead,
                 const Eigen::Vector3d& normal);

/// The body moved over feet that stay; knees go half the way.
BodyPoints bodyMoved(BodyPoints points, const Eigen::Vector3d& by);

} // namespace jl
