#pragma once
#include "review/review.h"

namespace jl
{

/// Files every finding under the fault that explains it best: a listed cause that is itself found in the same
/// posture, no later than the consequence, or in the posture before. Of several the one is taken whose
/// strength out of its band (up to 1.5, and a half for being there) x share of the consequence's findings that it precedes x prior is
/// largest. Where causes go in circles the weakest link is cut.
void traceCauses(Review& review, const FaultRules& rules);

/// At most three corrections for the level: score = 4 for safety + strength (up to 2) + repetition in the
/// clip
/// + number of consequences explained; from the ground up where scores are equal; never two from one chain.
/// Watches are not taught.
std::vector<Correction> chooseCorrections(const Review& review, const FaultRules& rules,
                                          const LevelStandard& level);

/// "short step (3 of 4) -> front knee past the toe (3 of 4)", or "posture left out: Roll back"
std::string chainSentence(const std::vector<std::string>& chain, const Review& review,
                          const FaultRules& rules);

} // namespace jl
