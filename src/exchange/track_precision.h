#pragma once
#include "body/track.h"

namespace jl
{

/// A frame as every kept form of a track has it, so that a clip gives the same review from a file and from
/// the library: points to 0.001 pixels, metric points to 0.01 mm, scores to 0.0001, times to a microsecond,
/// the camera's shift to 0.01 pixels; a shift within 0.05 pixels is none.
BodyFrame inKeptPrecision(BodyFrame frame);

} // namespace jl
