#pragma once
#include "measure/phase_courses.h"
#include "reading/pair_measurement.h"

namespace jl
{

/// The clip's body as it moves in the room, as far as its camera shows it: what lies along the line of sight
/// is the model's. NaN where the body is not seen.
BodyMotion motionOf(const PlacedClip& clip);

/// Where the model of the form steps, give or take a third of a second, at each frame of the clip.
ExpectedSteps expectedSteps(const PlacedClip& clip);

/// What is true of phases as a whole.
struct WholePhases {
    std::vector<FootEvent> footEvents; ///< in order of time
    std::vector<Leap> leaps;           ///< in order of time
    std::vector<std::vector<PhaseValue>>
        values; ///< one for each phase of the form; empty where not shown whole
};

/// As one clip shows them.
WholePhases measureWholePhases(const PlacedClip& clip, const AccuracyTable& accuracy);

/// As the lines of sight of two clips filmed at once show them; for the phases as both clips time them.
std::vector<std::vector<PhaseValue>> measureWholePhases(const TwoViewMeasurer& measurer,
                                                        std::span<const MeasuredPhase> phases,
                                                        const ClipReading& first, const ClipReading& second,
                                                        const AccuracyTable& accuracy);

/// What is true of each phase of a model as a whole, in the order of its phases.
std::vector<PhaseCourses::Values> wholePhases(const ModelPerformance& model);

} // namespace jl
