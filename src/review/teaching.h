#pragma once
#include "review/review.h"

namespace jl
{

/// Files every finding under the fault that explains it best: a listed cause that is itself found in the same
/// posture, no later than the consequence, or in the posture before. Of several the one is taken whose
/// strength out of its band (up to 1.5, and a half for being there) x share of the consequence's findings
/// that it precedes x prior is largest. Where causes go in circles the weakest link is cut. The instructor's
/// own choices in the memory hold as they are, and earlier ones move the priors.
void traceCauses(Review& review, const FaultRules& rules, const TeachingMemory& memory = {});

/// At most three corrections for the level: score = 4 for safety + strength (up to 2) + repetition in the
/// clip
/// + repetition over earlier lessons (a half each, up to 2) + number of consequences explained; from the
/// ground up where scores are equal; never two from one chain. Watches are not taught, nor, but for safety,
/// what is parked and not due.
/// Beyond the section of the form that the level knows only safety is taught.
struct ChosenCorrections {
    std::vector<Correction> teach;
    std::vector<Correction> further; ///< what comes after the third, four at most
};
ChosenCorrections chooseCorrections(const Review& review, const FaultRules& rules, const LevelStandard& level,
                                    const TeachingMemory& memory = {});

/// What the instructor saw herself becomes a correction beside those, and counts as found in this lesson.
void addOwnFindings(Review& review, const std::vector<OwnFinding>& own, const TeachingMemory& memory);

/// What is seen of a fault in this clip, in the words of its clearest finding.
std::string faultName(const FaultRule& rule, const Review& review);

/// "short step (3 of 4) -> front knee past the toe (3 of 4)", or "posture left out: Roll back"
std::string chainSentence(const std::vector<std::string>& chain, const Review& review,
                          const FaultRules& rules);

/// The phases in which each fault shows, and those in which its measure could be judged by it; without faults
/// that could not be judged anywhere.
std::vector<FaultCount> countFaults(const Review& review, const FaultRules& rules);

} // namespace jl
