#pragma once
#include "body/track.h"
#include "camera/camera.h"

namespace jl
{

/// A clip and the camera that filmed it.
struct FilmedTrack {
    const Track& track; ///< smoothed
    Camera camera;
};

/// Signed distance at which two cameras' lines of sight to a point pass each other, m; 0 where they are
/// parallel.
double rayDistance(const Camera& first, const Eigen::Vector2d& pixelOfFirst, const Camera& second,
                   const Eigen::Vector2d& pixelOfSecond);

/// By how much the second clip is later than `offset` says, s, 0.08 at most: the lag with which the points
/// that move leave the smallest gaps. Networks misread a pose in much the same way for as long as it lasts,
/// so the changes of the ray distance from moment to moment determine it, less the more the body moves in
/// between (generalised least squares; the errors of a point fall off exponentially with the body's way), and
/// each point counts by how quiet its gaps are. 0 where too little is seen of both.
double lagFromRays(const FilmedTrack& first, const FilmedTrack& second, double offset);

} // namespace jl
