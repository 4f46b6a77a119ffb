#pragma once
#include "measure/phase_measure.h"
#include "performer/events.h"
#include "performer/performance.h"
#include <array>
#include <vector>

namespace jl
{

/// The true values of the measures of a whole phase, in the order of PhaseMeasure; none where nothing of the
/// kind happens.
using WholeTruth = std::array<std::optional<double>, kPhaseMeasureCount>;

/// `events`: floorEvents() of the performance.
WholeTruth wholeTruth(const Performance& performance, const PerformedPhase& phase,
                      const std::vector<FloorEvent>& events);

} // namespace jl
