#pragma once
#include "base/units.h"
#include "camera/calibration.h"
#include "camera/synchrony.h"
#include <span>

namespace jl
{

/// One clip's part in placing two cameras together: its frames of the opening stance, and the standing body
/// they show (anatomical, room frame).
struct StandingView {
    const Track* track = nullptr; ///< smoothed
    std::vector<BodyFrame> standing;
    BodyPoints body;
    Degrees azimuthGuess = 0; ///< deg
    LensPrior lens;
};

/// Two cameras that filmed the same movement at once, placed against each other by the body itself.
struct TwoCameras {
    Camera first, second;
    Seconds offset = 0;     ///< s: the second clip shows at t + offset what the first shows at t
    Degrees apart = 0;      ///< deg between the cameras as seen from the body
    Metres rayDistance = 0; ///< rms distance at which the two lines of sight of a point pass each other, m
    /// By how much the clips are off each other in time from one stretch of 1.5 s to the next, s rms: what
    /// two cameras film at once neither lags nor hurries. 0 where too little moves to tell.
    Seconds lag = 0;
    /// Of both cameras together against the room.
    Degrees azimuthSpread = 1.5;
    Ratio scaleSpread = 0.015;
};

/// Places both cameras and the offset so that the lines of sight of every point meet over the whole clip,
/// and the standing bodies look as they do (both lenses free within what is known of them). The offset starts
/// from synchronise() and stays near it as far as that is sure; lagFromRays() then refines it, together with
/// what was heard. Fails when the views are too near each other or the lines do not meet: then it was not the
/// same movement.
Result<TwoCameras> placeTogether(const StandingView& first, const StandingView& second,
                                 const Synchrony& synchrony, const PersonProfile& profile,
                                 const LandmarkOffsets& offsets);

/// Where two rays pass nearest to each other: the point between, weighted by how far each camera is off, and
/// their distance there.
struct RayIntersection {
    Eigen::Vector3d point;
    Metres distance; ///< m
};
RayIntersection intersectRays(const Camera& first, const Eigen::Vector2d& pixelOfFirst, const Camera& second,
                              const Eigen::Vector2d& pixelOfSecond);

} // namespace jl
