#pragma once
#include "measure/phase_measure.h"
#include "standards/standards.h"
#include <string>
#include <vector>

namespace jl
{

/// What is said about a fault. "{lead}" and "{rear}" stand for the side that leads the posture and the
/// other.
struct FaultWords {
    std::string name;  ///< what is seen, for lists and chains
    std::string title; ///< heading of the correction
    std::string cue;
    std::string reason;
    std::string drill;
};

/// With "{lead}" and "{rear}" in all words replaced.
FaultWords withSides(FaultWords words, const std::string& lead, const std::string& rear);

/// Where and how a fault shows: what its words depend on.
struct FaultContext {
    std::string posture;
    StanceKind stance = StanceKind::Parallel;
    SchoolLine school;
    std::string level;
    bool above = true; ///< beyond the upper of the rule's edges (FaultRule::isAbove)
};

/// Words for some circumstances, which take the place of the rule's own. Conditions that are not given hold
/// everywhere; words that are not given stay as they are.
struct FaultText {
    std::optional<bool> above;
    std::vector<std::string> postures, schools, levels;
    StanceSet stances;
    FaultWords words;

    bool holds(const FaultContext& context) const;
    /// The more conditions, the more specific: a posture counts more than a stance, that more than a school,
    /// a level and an edge.
    int specificity() const;
};

/// The rule's own words with those of the texts that hold, the most specific last.
FaultWords wordsFor(const FaultWords& own, const std::vector<FaultText>& texts, const FaultContext& context);

} // namespace jl
