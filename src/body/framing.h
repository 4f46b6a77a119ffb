#pragma once
#include "base/units.h"
#include "body/track.h"

namespace jl
{

/// How much of the body a clip shows.
struct Framing {
    Share feetCut = 0; ///< share of the frames with a body in which no foot is in the picture, 0 to 1
    Share headCut = 0; ///< the same of the head
};

/// By where the networks put ankles, heels and toes, or nose and ears: they guess what lies outside of the
/// picture there. A margin of 1 % of the picture counts as outside, since guesses are drawn to the edge. For
/// tracks as extracted.
Framing framingOf(const Track& track);

/// What is wrong with a clip that shows half a body, in words; empty where head and feet are seen in most of
/// it.
std::string framingTrouble(const Framing& framing);

} // namespace jl
