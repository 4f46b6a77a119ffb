#pragma once
#include "performer/performance.h"
#include <optional>

namespace jl
{

/// How movements that should follow each other overlap in a phase, s: for how long the first still goes on
/// after the second has begun; negative: how long it had come to rest before. None where one of the two does
/// not occur. The first may have begun in the phase before. What begins within 0.3 s after the
/// second begins together with it and still goes on.
struct MoveOrder {
    /// Weight moves onto the standing leg; the other foot leaves the floor. Counts until less than an eighth
    /// of the weight is left there; never negative.
    std::optional<double> shiftStep;
    std::optional<double> turnStep;  ///< the pelvis turns; a foot leaves the floor
    std::optional<double> shiftTurn; ///< the centre of mass goes over the floor; the pelvis turns
    /// It goes over the floor; the shoulders sink, as for a low punch. None where a foot steps: stepping out
    /// sinks and carries the leg's mass along.
    std::optional<double> shiftSink;
};

MoveOrder moveOrder(const Performance& performance, const PerformedPhase& phase);

} // namespace jl
