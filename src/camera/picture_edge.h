#pragma once
#include "base/units.h"
#include "body/track.h"
#include "camera/camera.h"

namespace jl
{

/// m, of a point that lies outside of the picture: the network guesses it.
inline constexpr Metres kGuessedSpread = 0.15;

/// Whether a point of a steadied frame lies in the picture as it was filmed. The principal point is its
/// middle.
inline bool inPicture(const BodyFrame& frame, std::size_t point, const Camera& camera)
{
    const Eigen::Vector2d p = frame.point[point] + frame.cameraShift;
    return p.x() >= 0 && p.y() >= 0 && p.x() <= 2 * camera.centre.x() && p.y() <= 2 * camera.centre.y();
}

} // namespace jl
