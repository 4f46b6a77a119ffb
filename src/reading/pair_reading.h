#pragma once
#include "moment/two_view_reader.h"
#include "reading/clip_reading.h"

namespace jl
{

/// Two clips of one performance, filmed at once, measured together at the key moments of the first: by where
/// the lines of sight of both meet, and by what each clip says alone.
struct PairReading {
    double likeness = 0; ///< of the movements in both clips, see Synchrony
    bool heard = false;  ///< their place in time was found by sound
    std::shared_ptr<const TwoViewReader> reader;
    std::vector<PhaseReading> phases;
    std::vector<PhaseReading> triangulated; ///< what the lines of sight alone give
};

/// Whether the form's order was left is one question to clips filmed at once: where one of them shows it and
/// the other does not, the other is read again, expecting it.
void agreeOnOrder(ClipReading& first, ClipReading& second, std::span<const ModelPerformance> models,
                  const MeasuringTables& tables);

/// Finds how the clips lie in time, places both cameras by the body, and reads every measure. Fails, saying
/// why, when they were not filmed at once or see the body from nearly the same side.
Result<PairReading> readTogether(const ClipReading& first, const ClipReading& second,
                                 const MeasuringTables& tables);

} // namespace jl
