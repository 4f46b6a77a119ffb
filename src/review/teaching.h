#pragma once
#include "review/review.h"

namespace jl
{

/// Files every finding under the fault that explains it: a listed cause that is itself found (as a fault) in
/// the same phase, else in an earlier one. Cycles cannot arise, as a cause found later than its consequence
/// does not count.
void traceCauses(Review& review, const FaultRules& rules);

/// At most three corrections for the level: score = 4 for safety + severity + repetition in the clip + number
/// of consequences explained; from the ground up where scores are equal; never two from one chain. Watches
/// are not taught.
std::vector<Correction> chooseCorrections(const Review& review, const FaultRules& rules,
                                          const LevelStandard& level);

/// "short step (3 of 4) -> front knee past the toe (3 of 4)"
std::string chainSentence(const std::vector<std::string>& chain, const Review& review,
                          const FaultRules& rules);

} // namespace jl
