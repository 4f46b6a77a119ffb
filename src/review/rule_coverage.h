#pragma once
#include "review/fault_rules.h"

namespace jl
{

/// Why nothing is said of measures on some side of their band in some stances: a row of data/unjudged.json.
struct Unjudged {
    std::vector<std::string> measures; ///< keys
    bool above = true, below = true;
    StanceSet stances; ///< none: all
    std::string reason;

    bool covers(std::string_view measure, StanceKind stance, bool isAbove) const;
};
Result<std::vector<Unjudged>> loadUnjudged(const std::filesystem::path& folder);

/// The family of what a rule is about: a rung, timing for a phase as a whole, or order.
std::string_view familyOf(const FaultRule& rule);

/// The rule that turns a value above or below its band into a finding; none: nothing is said. Rules that hold
/// only within a student's limits do not count.
const FaultRule* ruleFor(const FaultRules& rules, std::string_view measure, StanceKind stance,
                         const SchoolLine& school, bool above);

/// What is judged where: for every kind of stance and family of measures the number of rules, and for every
/// measure its rules and the reasons where there are none. Markdown.
std::string coverageTable(const Standards& standards, const FaultRules& rules,
                          const std::vector<Unjudged>& unjudged);

} // namespace jl
