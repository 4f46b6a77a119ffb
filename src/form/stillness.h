#pragma once
#include "body/track.h"
#include <vector>

namespace jl
{

/// A stretch of a clip in which the body is as still as where it holds, s.
struct Stillness {
    double begin = 0, end = 0;
    double middle() const { return 0.5 * (begin + end); }
};

/// The stillness nearest to where a key moment is expected. Up to two seconds either way belong to it: a long
/// hold is one.
Stillness stillnessNear(const Track& track, double standingSize, double guess);

/// That one and all others within reach of the guess, in order: whoever hesitates on the way, or stops again
/// soon after, is still more than once.
std::vector<Stillness> stillnessesAround(const Track& track, double standingSize, double guess);

} // namespace jl
