#pragma once
#include "base/units.h"
#include "body/track.h"
#include <span>
#include <string>

namespace jl
{

/// A point that somebody put where it belongs, in one frame. Kept apart from what was extracted.
struct JointRepair {
    Landmark landmark = Landmark::LeftKnee;
    Seconds time = 0;            ///< s
    Eigen::Vector2d point{0, 0}; ///< pixels, in the picture as filmed
};

/// A copy of an extracted track in which repairs hold. Each is a soft constraint: the point's whole course is
/// moved by the smoothest displacement that comes within a point's precision of all repairs (a sum of bells
/// around them, by least squares with a small penalty), so that it reaches a quarter second to either side
/// and fades. Repaired points count as seen, and tell their own uncertainty: what a hand can place, and more
/// where the displacement fades. Repairs of times at which the clip shows no body are passed over.
Track withRepairs(Track track, std::span<const JointRepair> repairs);

/// Says which repairs were passed over, and why, a line each; empty where all hold.
std::string repairsPassedOver(const Track& track, std::span<const JointRepair> repairs);

} // namespace jl
