#pragma once
#include "reading/clip_reading.h"

namespace jl
{

// What the feet tell that stand on the floor all along the way, against where the model steps. The floor is
// seen at a flat angle, so that a standing foot is placed to about 6 cm; steps differ from the model's by
// about 8 percent of the way (1 sd), which adds up.

/// Tilts the camera about the body where it stands best, within what its placing left open, so that the way
/// over the floor becomes the likeliest. A single standing body tells badly how high the camera is; whoever
/// walks towards it or away from it would then seem to leave the floor.
void levelByFeet(ClipReading& clip, const LandmarkOffsets& offsets);

/// How far the student has come off the model's place, as far as the way that was walked makes it likelier
/// than the floor's own error.
void followDrift(ClipReading& clip, const LandmarkOffsets& offsets);

} // namespace jl
