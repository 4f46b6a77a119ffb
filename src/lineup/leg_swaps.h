#pragma once
#include "lineup/line_up.h"

namespace jl
{

/// Which frames of a track show one leg under the other's name, as the networks sometimes do when a leg
/// passes in front of the other or stands behind it. Decided over the whole clip: the model performer says
/// which leg should be where, and a leg does not jump between two frames (Viterbi search over the two
/// hypotheses "as named" and "exchanged"). For a raw track.
std::vector<bool> swappedLegs(const Track& track, const LineUp& lineUp, const ModelPerformance& model);

/// Those of them that do not last longer than so many seconds.
std::vector<bool> spellsWithin(double longest, std::vector<bool> exchanged, const Track& track);

/// A copy in which those frames have their legs exchanged back.
Track withLegsUnswapped(Track track, const std::vector<bool>& exchanged);

} // namespace jl
