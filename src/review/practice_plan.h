#pragma once
#include "review/review.h"
#include <chrono>
#include <string>
#include <vector>

namespace jl
{

/// A drill that an accepted correction brings.
struct PracticeDrill {
    std::string fault, title, drill;
    double minutes = 3;
    bool bothSides = true;       ///< weak side first, then the other
    std::chrono::sys_days begun; ///< when it was given, or given again because the fault came back
    bool inBand = false;         ///< the last review found the fault gone
};

struct PlanRequest {
    std::chrono::sys_days first;
    int days = 7;
    double minutesPerDay = 15; ///< the student's; never exceeded
    double runMinutes = 3;     ///< of the slow run of the section, at most
    Side weakSide = Side::Right;
    std::string section;               ///< name of the form or section
    std::vector<PracticeDrill> drills; ///< the most important first
};

struct PlannedItem {
    enum class Kind { Loosening, Drill, SlowRun } kind = Kind::Drill;
    std::string fault, title, words;
    double minutes = 0;
};

struct PlannedDay {
    std::chrono::sys_days date;
    std::vector<PlannedItem> items;

    double minutes() const;
};

/// What a correction brings when it is accepted on a day.
PracticeDrill drillOf(const Correction& correction, const FaultRules& rules, std::chrono::sys_days day);

/// Whether a drill's turn comes on a day: daily for three days, then every second day, then, once the fault
/// is in band, weekly.
bool isDue(const PracticeDrill& drill, std::chrono::sys_days day);

/// A drill after another review: weekly from the day its fault is gone, and restarted on the day it is back.
PracticeDrill afterReview(PracticeDrill drill, bool found, std::chrono::sys_days day);

/// The practice of some days. Each begins with two minutes of loosening and ends with a slow run of the
/// section; between them the drills whose turn it is, in their order, as far as the minutes reach. What does
/// not fit comes first on the next day. Fewer than five minutes a day are refused.
Result<std::vector<PlannedDay>> planPractice(const PlanRequest& request);

} // namespace jl
