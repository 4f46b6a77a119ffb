#pragma once
#include "review/fault_rules.h"
#include "review/review.h"

namespace jl
{

/// A value that a fault can be judged by, oriented so that the rule's upper edge lies above.
struct PhaseEvidence {
    double value = 0, u = 0;
    double common = 0; ///< of u, what all phases share whatever their number (Estimate::common)
    Band band;
    /// In a pose that is arrived in, on the way in a step, or in standing. What is wrong in one need not be
    /// so in the others.
    enum class Where { Pose, Step, Standing } where = Where::Pose;

    /// How far the value lies beyond the band's edge; negative within.
    double beyond(bool above) const { return above ? value - band.high : band.low - value; }
};

/// One for each phase in which the fault could be judged, in the clip's order.
std::vector<PhaseEvidence> phaseEvidence(const Review& review, const FaultRule& rule);

/// Those that can be weighed together with a finding: what is wrong with a pose that is arrived in need not
/// be so on the way to it.
std::vector<PhaseEvidence> comparableEvidence(const Review& review, const FaultRule& rule, const Finding& f);

/// What all phases of a clip say together about one fault: the mean of how far the values lie beyond the
/// band's edge, the surest counting most, and its standard uncertainty.
///
/// Errors of a measure are correlated over a clip: the same shoe, the same lens. With weights 1/u^2 and
/// a share r of the variance that all phases have in common,
///     u^2 = ((1 - r) sum 1/u_i^2 + r (sum 1/u_i)^2) / (sum 1/u_i^2)^2 + c^2,
/// where u_i is without the part c that belongs to the student's body. With r = 1 more phases add nothing.
struct PooledEvidence {
    double beyond = 0, u = 0;
    double common = 0; ///< c, of u
    std::size_t phases = 0;
};
PooledEvidence pooled(const std::vector<PhaseEvidence>& phaseEvidence, bool above);

} // namespace jl
