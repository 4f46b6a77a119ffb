#pragma once
#include "reading/placed_clip.h"

namespace jl
{

// What feet that stand on the floor along the way show against where the model steps. The floor is seen at a
// flat angle, so that a standing foot is placed to about 6 cm; steps differ from the model's by about 8
// percent of the way (1 sd), which adds up.

/// The camera tilted about the body where it stands best, within what its placing left open, so that the way
/// over the floor is most likely. A single standing body hardly shows how high the camera is; somebody who
/// walks towards it or away from it would then seem to leave the floor. The clip's camera is placed, its
/// measurer is not needed.
CalibratedCamera levelledByFeet(const PlacedClip& clip, const LandmarkOffsets& offsets);

/// How far the student has come off the model's place, as far as the way that was walked makes it more likely
/// than the floor's own error. The clip has no drift yet.
Drift driftOf(const PlacedClip& clip, const LandmarkOffsets& offsets);

} // namespace jl
