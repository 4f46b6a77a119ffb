#pragma once
#include "review/review.h"

namespace jl
{

/// How long a posture took, from where its first phase begins to its last arrival.
struct PostureTime {
    double duration = 0; ///< s
    double u = 0;        ///< standard uncertainty: of a phase's, for both go from one arrival to another
    /// Of its phases' times to the reference's, after what is slower or faster throughout is taken out; none
    /// where the reference does not show all of its phases.
    std::optional<double> ratio;
};

/// None where a phase of it was not found or not shown whole.
std::optional<PostureTime> postureTime(const ReviewedPosture& posture);

} // namespace jl
