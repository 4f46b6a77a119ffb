#pragma once
#include "body/track.h"

namespace jl
{

/// Height of the standing body from ears to ankles in the picture, pixels: the unit in which pictures of
/// bodies are compared. The tallest decile of the clip counts as standing.
double standingSize(const Track& track);

/// The extent that one in ten exceeds: what counts as standing among the extents of a body over time. 1 when
/// there is none.
double tallestDecile(std::vector<double> extents);

/// How much the body moves around a time: the square speeds of ten points, each the median over a fifth of a
/// second (so that a leg which the network throws about for a frame is no motion), summed, in (standing
/// sizes/s)^2; very large where the body is not seen. The fastest few points may be left out.
double motionAt(const Track& track, double standingSize, double time, int leftOut = 0);

/// The motion that this share of the clip's moments does not exceed, of those in which the body is seen; 0
/// where it never is. A tenth of a form is hardly anything but the noise of the points, since every posture
/// is held for a moment; a half is what is usual.
double motionQuantile(const Track& track, double standingSize, double share, int leftOut = 0);

/// Times at which the body is stiller than around them, s, in order and at least 0.4 s apart: where postures
/// arrive and are held. For a smoothed track.
std::vector<double> stillMoments(const Track& track);

} // namespace jl
