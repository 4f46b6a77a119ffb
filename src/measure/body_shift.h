#pragma once
#include "body/body_points.h"

namespace jl
{

/// How far a body goes along the line of sight when its weight goes over otherwise than expected, m along
/// `sight` (room frame, horizontal, of length 1, to the camera or away from it).
///
/// One picture gives a shift of the weight only across the line of sight; its way along it stays where it is
/// expected. But a shift leads along the line between the feet, which lies along the line of sight too: the
/// share of the weight would be drawn towards the expected one by the square of that line's cosine. So the
/// centre of mass is taken to lie as far beside the line as is expected, and as far along it as is seen.
///
/// Less where feet are close together or seen one behind the other, then 0; never more than 0.3 m.
double bodyShift(const BodyPoints& seen, const BodyPoints& expected, Side lead, const Eigen::Vector3d& sight);

/// The body moved over feet that stay; knees go half the way.
BodyPoints bodyMoved(BodyPoints points, const Eigen::Vector3d& by);

} // namespace jl
