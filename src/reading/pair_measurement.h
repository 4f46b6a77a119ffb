#pragma once
#include "base/units.h"
#include "moment/two_view_measurer.h"
#include "reading/clip_reading.h"

namespace jl
{

/// Two clips of one performance, filmed at once, measured together at the key moments of the first: by where
/// the lines of sight of both meet, and by what each clip says alone.
struct PairMeasurement {
    Ratio likeness = 0; ///< of the movements in both clips, see Synchrony
    bool heard = false; ///< their place in time was found by sound
    std::shared_ptr<const TwoViewMeasurer> measurer;
    std::vector<MeasuredPhase> phases;
    std::vector<MeasuredPhase> triangulated; ///< what the lines of sight alone give
};

/// Two clips filmed at once, read in the same order of postures: where one of them shows a departure from the
/// form and the other does not, the other is read again, expecting it. Other clips come back as they are.
std::pair<ClipReading, ClipReading> agreedOnOrder(ClipReading first, ClipReading second,
                                                  std::span<const ModelPerformance> models,
                                                  const MeasuringTables& tables);

/// Finds how the clips lie in time, places both cameras by the body, and measures everything. Fails, saying
/// why, when they were not filmed at once or see the body from nearly the same side.
Result<PairMeasurement> measureTogether(const ClipReading& first, const ClipReading& second,
                                        const MeasuringTables& tables);

} // namespace jl
