#pragma once
#include "performer/performance.h"
#include <optional>

namespace jl
{

/// How movements that should follow each other overlap in a phase, s: for how long the first still goes on
/// after the second has begun; negative: how long it had come to rest before. None where one of the two does
/// not occur. The first may have begun in the phase before.
struct MoveOrder {
    /// Weight moves onto the standing leg; the other foot leaves the floor. Counts until less than an eighth
    /// of the weight is left there; never negative.
    std::optional<double> shiftStep;
    std::optional<double> turnStep;  ///< the pelvis turns; a foot leaves the floor
    std::optional<double> shiftTurn; ///< the weight moves; the pelvis turns
    std::optional<double> shiftSink; ///< the weight moves; the shoulders sink, as for a low punch
};

MoveOrder moveOrder(const Performance& performance, const PerformedPhase& phase);

} // namespace jl
