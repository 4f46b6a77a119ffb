#pragma once
#include <map>
#include <string>
#include <utility>

namespace jl
{

struct FaultRule;

/// What earlier lessons say about one fault of a student.
struct FaultMemory {
    int lessons = 0;       ///< earlier reviews in a row, up to the last, in which it was found
    bool parked = false;   ///< put off by the instructor, and not due yet
    bool returned = false; ///< was put off, and is due now
};

/// What is remembered from earlier lessons when a review is made.
struct TeachingMemory {
    std::map<std::string, FaultMemory> faults;
    /// In this review the instructor filed the first fault under the second; under nothing where that is
    /// empty.
    std::map<std::string, std::string> hung;
    /// How often instructors filed a fault (first) under a cause (second), over all reviews; an empty cause
    /// makes it a root.
    std::map<std::pair<std::string, std::string>, int> filed;

    const FaultMemory& of(const std::string& fault) const;

    /// The prior of a link from `rule` to `cause` with what the instructor's choices add to it: (4 p + k) /
    /// (4 + n), of n choices about this fault k for this cause. The shipped prior p counts as much as four
    /// choices.
    double prior(const FaultRule& rule, const std::string& cause) const;
};

} // namespace jl
