#pragma once
#include "form/clip_reading.h"
#include "measure/two_view_reader.h"

namespace jl
{

/// Two clips of one performance, filmed at once, measured together at the key moments of the first.
struct PairReading {
    double likeness = 0; ///< of the movements in both clips, see Synchrony
    bool heard = false;  ///< their place in time was found by sound
    std::shared_ptr<const TwoViewReader> reader;
    std::vector<PhaseReading> phases;
};

/// Finds how the clips lie in time, places both cameras by the body, and reads every measure. Fails, saying
/// why, when they were not filmed at once or see the body from nearly the same side.
Result<PairReading> readTogether(const ClipReading& first, const ClipReading& second,
                                 const MeasuringTables& tables);

} // namespace jl
