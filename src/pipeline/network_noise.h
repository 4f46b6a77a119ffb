#pragma once
#include "body/track.h"
#include <cstdint>

namespace jl
{

/// How the networks err, as the tracking report of rendered cases has it (docs/accuracy): every point is off
/// by a part that stays over the clip, a part that wanders within seconds, and a little from frame to frame;
/// and now and then one leg is taken for the other. Shares of the body's height, standard deviations each
/// way.
struct NetworkNoise {
    double steady = 0.0035, wandering = 0.003, jitter = 0.001;
    double wanderTime = 1.2;       ///< s
    double exchangesPerMinute = 2; ///< of the legs
    double exchangeTime = 0.5;     ///< s, on average
};

/// A perfect track with such errors; bodyPixels is the height of the body in the picture.
Track withNoise(Track track, double bodyPixels, std::uint32_t seed, const NetworkNoise& noise = {});

} // namespace jl
