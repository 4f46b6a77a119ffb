#pragma once
#include "review/review.h"

namespace jl
{

/// A difference between the two sides of one clip that the reference does not have.
struct SideDifference {
    Measure measure = Measure::KneeLeadFlexion;
    std::string posture, phase; ///< ids, where it is clearest
    double difference = 0;      ///< led by the left less led by the right, in the measure's unit
    double u = 0;
    std::string words; ///< one sentence
};

/// Where the form does a posture on both sides, what differs between them by more than twice its uncertainty
/// and by more than half of what is allowed: once for each measure, the clearest first, three at most.
///
/// What belongs to the body is the same on both sides, so u^2 = sum (u_i^2 - c_i^2). Repeats of one side
/// count as their mean.
std::vector<SideDifference> sideDifferences(const Review& review);

} // namespace jl
