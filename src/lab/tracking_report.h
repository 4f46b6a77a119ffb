#pragma once
#include "base/units.h"
#include "lab/validation.h"

namespace jl
{

/// How well the detector and the networks follow a body through one posture, over all cases in which it
/// occurs: points of trunk, arms and legs in the picture against the exact body, as a share of its height.
struct FollowedPosture {
    std::string posture;
    int frames = 0, seen = 0;
    Share median = 0, p90 = 0;
};

Result<std::vector<FollowedPosture>> followedPostures(const ShippedData& data,
                                                      const std::vector<CaseOutcome>& outcomes);

std::string followedText(const std::vector<FollowedPosture>& rows);
std::string followedJson(const std::vector<FollowedPosture>& rows);

} // namespace jl
