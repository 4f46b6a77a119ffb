#pragma once
#include "measure/phase_courses.h"
#include "reading/pair_reading.h"

namespace jl
{

/// The clip's body as it moves in the room, as far as its camera shows it: what lies along the line of sight
/// is the model's. NaN where the body is not seen.
BodyMotion motionOf(const ClipReading& clip);

/// Where the model of the form steps, give or take a third of a second, at each frame of the clip.
ExpectedSteps expectedSteps(const ClipReading& clip);

/// Reads when feet meet the floor, and what is true of each found phase as a whole, and puts both into the
/// reading.
void readWholePhases(ClipReading& clip, const AccuracyTable& accuracy);

/// The same from two clips filmed at once, by their lines of sight alone.
void readWholePhases(PairReading& pair, const ClipReading& first, const ClipReading& second,
                     const AccuracyTable& accuracy);

/// What is true of each phase of a model as a whole, in the order of its phases.
std::vector<PhaseCourses::Values> wholePhases(const ModelPerformance& model);

} // namespace jl
