#pragma once
#include "review/review_record.h"

namespace jl
{

/// How something stands against the last review.
enum class Change {
    Better,
    Worse,
    Same,         ///< within measuring error
    NotComparable ///< seen from another view, in another school, or not seen
};
std::string_view changeName(Change c);

/// One measure in one phase, then and now.
struct ValueChange {
    std::size_t posture = 0;
    std::string phase, measure;
    double before = 0, now = 0;
    double u = 0;                 ///< standard uncertainty of the difference
    Change change = Change::Same; ///< towards its band or away from it
};

/// One fault, then and now.
struct FaultChange {
    std::string fault;
    Change change = Change::Same;
    bool gone = false, isNew = false;                 ///< no longer, or not before, claimed anywhere
    int before = 0, beforeOf = 0, now = 0, nowOf = 0; ///< phases
    std::string words; ///< "better: 3 of 4, was 4 of 4", or why nothing can be said
};

struct ProgressSince {
    std::vector<FaultChange> faults; ///< those claimed then or now
    std::vector<ValueChange> values; ///< those with a band that were seen both times
    std::string incomparable;        ///< why nothing can be compared; empty otherwise
};

/// What has changed since an earlier review of the same student. A change is real when it exceeds twice the
/// standard uncertainty of the difference; errors of several phases of a clip go together, so that they are
/// not averaged away. Values from different views are not compared: each view errs in its own way.
ProgressSince progressSince(const ReviewRecord& before, const ReviewRecord& now, const FaultRules& rules);

} // namespace jl
