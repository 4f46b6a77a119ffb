#pragma once
#include "base/units.h"
#include "body/track.h"
#include "lab/network_errors.h"
#include <cstdint>

namespace jl
{

/// How the networks' errors (NetworkErrors) go on from frame to frame, and what comes on top: a little
/// trembling, and now and then one leg is taken for the other.
struct NetworkNoise {
    Share jitter = 0.0015; ///< of each frame by itself, in heights
    /// Heights that the points move on average until the errors of a pose are down to a third. Who stands
    /// still is seen wrongly in the same way all the time (in rendered clips the errors of shoulders fall off
    /// over 0.055, those of hips over 0.085).
    Share poseReach = 0.07;
    /// Of the legs, for each height that the points move on average, and how long they last on average, s. In
    /// 54 minutes of rendered clips it was 1.9 a minute in all, but in 3 of 1616 key moments only.
    double exchangesPerHeight = 0.49;
    Seconds exchangeTime = 0.3;
};

/// A track of points as a network without errors has them, with such errors; bodyPixels is the height of the
/// body in the picture. The frames' points in space give the direction from which the body is seen.
Track withNoise(Track track, double bodyPixels, std::uint32_t seed, const NetworkErrors& errors,
                const NetworkNoise& noise = {});

} // namespace jl
