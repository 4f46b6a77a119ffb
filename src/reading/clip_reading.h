#pragma once
#include "lineup/posture_cut.h"
#include "measure/floor_contact.h"
#include "measure/phase_measure.h"
#include "reading/placed_clip.h"

namespace jl
{

/// What is measured of one phase.
struct MeasuredPhase {
    FoundPhase phase;
    std::vector<Value> values;     ///< at the key moment, in the order of Measure; empty when not found
    std::vector<PhaseValue> whole; ///< of the phase as a whole, in the order of PhaseMeasure; empty likewise
};

/// A placed clip measured at its key moments and over its phases.
struct ClipReading : PlacedClip {
    std::vector<MeasuredPhase> phases; ///< in the form's order
    std::vector<FootEvent> footEvents; ///< in order of time
    std::vector<Leap> leaps;           ///< in order of time
};

/// The last stage: measures a placed clip.
ClipReading measureClip(PlacedClip clip, const AccuracyTable& accuracy);

/// All stages: lines up, places the camera, measures. The models are the sides in which the form may be done.
Result<ClipReading> readClip(Track extracted, std::span<const ModelPerformance> models,
                             const PersonProfile& profile, const MeasuringTables& tables,
                             std::optional<double> azimuthHint = {}, const CalibrationHints& hints = {});

/// Another reading of a clip that shows no departure from the form, where one filmed at once does: half the
/// evidence is enough. None where there is no departure even so.
std::optional<ClipReading> readExpectingDepartures(const ClipReading& clip,
                                                   std::span<const ModelPerformance> models,
                                                   const MeasuringTables& tables);

/// Another reading with postures and key moments where they are said to be. Refuses what lineUpAsCut()
/// refuses.
Result<ClipReading> readAsCut(const ClipReading& clip, std::span<const PostureCut> cuts,
                              const MeasuringTables& tables);

} // namespace jl
