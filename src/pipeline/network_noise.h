#pragma once
#include "body/track.h"
#include <cstdint>

namespace jl
{

/// How one point of the networks errs, in shares of the body's height, standard deviations each way: by a
/// part that stays over the clip, and by one that goes with the pose. As found in 160 rendered cases about
/// their key moments (seed 20260), in those seen from the front above all, where nearly all points are in
/// sight; what goes with the pose is a little less for legs, arms and ears, so that measures err by as many
/// of their uncertainties as in rendered cases, where what is out of sight is not measured by.
struct PointNoise {
    double steady = 0, wandering = 0;
    /// Of the variance: what the point has in common with its neighbours. Two points of one head, hand or
    /// foot correlate by the root of the product of theirs.
    double inCommon = 0;
};
PointNoise pointNoise(Landmark l);

/// How the networks err: the points each in its way, a little from frame to frame; and now and then one leg
/// is taken for the other.
struct NetworkNoise {
    double jitter = 0.001;
    /// Heights that the points move on average until the errors of a pose are down to a third. Who stands
    /// still is seen wrongly in the same way all the time (correlation after 1.2 s: 0.8 where the points have
    /// moved by less than 0.005, 0.4 at 0.03, 0.2 at 0.06, 0.1 at 0.12).
    double poseReach = 0.045;
    double exchangesPerMinute = 2; ///< of the legs
    double exchangeTime = 0.5;     ///< s, on average
};

/// A perfect track with such errors; bodyPixels is the height of the body in the picture.
Track withNoise(Track track, double bodyPixels, std::uint32_t seed, const NetworkNoise& noise = {});

} // namespace jl
