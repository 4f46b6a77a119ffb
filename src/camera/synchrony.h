#pragma once
#include "base/units.h"
#include "body/track.h"
#include <optional>

namespace jl
{

/// How two clips of the same movement lie in time.
struct Synchrony {
    Seconds offset = 0; ///< s: the second clip shows at t + offset what the first shows at t
    Ratio likeness = 0; ///< -1 to 1, correlation of the movements up and down at that offset
    Seconds spread = 0; ///< s, standard uncertainty of the offset
    bool heard = false; ///< found by the sound of both clips, otherwise by the movements alone
};

/// Finds when two cameras filmed at once: how fast each point of the body moves up and down looks alike from
/// every side. Correlates those speeds over all offsets at which the clips overlap by a half of the shorter
/// one, to a fraction of a frame (parabola through the best three). Where both clips have sound that agrees
/// clearly (matchSounds()) at an offset at which the movements are alike too, that offset is taken: it is
/// surer, and movements may repeat. The same music at two practices does not deceive it, as the movements
/// then differ. None when a clip is too short or empty. For smoothed tracks.
std::optional<Synchrony> synchronise(const Track& first, const Track& second);

/// The body at any time, between frames mixed evenly; unseen where a neighbour is.
BodyFrame frameAt(const Track& track, double time);

} // namespace jl
