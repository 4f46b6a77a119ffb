#pragma once
#include "review/practice_plan.h"
#include "review/progress.h"
#include <string_view>

namespace jl
{

/// One correction as the student reads it.
struct SlipItem {
    std::string fault, title, cue, reason, drill;
    std::string often;   ///< "in 3 of 5 places, where the right leads"; empty for an own finding
    std::string place;   ///< where its picture is from: "Push, arriving"; empty outside of postures
    std::string purpose; ///< what that posture is for; empty where it does not say
    Seconds time = 0;    ///< of its picture, s in the student's clip
    std::optional<Measure> measure;           ///< that its construction shows
    Side lead = Side::Right;                  ///< at that moment
    std::string postureId = {}, phaseId = {}; ///< of the same place
};

/// What the student gets: what is better, at most a few corrections, the practice of the week, and cautions.
struct Slip {
    std::string student, form; ///< names as people read them
    std::chrono::sys_days day;
    std::vector<std::string> better; ///< since the last review, a line each
    std::vector<SlipItem> items;
    std::vector<std::string> practice; ///< a line for each day of the plan
    std::vector<std::string> cautions;
};

/// What stands on every slip, whether page, web page or message.
struct SlipWords {
    std::string_view better = "Better since last time", practice = "This week", cautions = "Take care",
                     nothing = "Nothing to change this time: go on as you do.", student = "you",
                     aim = "this is the aim", notThis = "not like this", likeThis = "like this";
};
inline constexpr SlipWords kSlipWords;

/// Lines of an item; empty where it has nothing to say there.
std::string drillLine(const SlipItem& item);
std::string oftenLine(const SlipItem& item);
std::string purposeLine(const SlipItem& item);

/// A correction that the instructor put on the slip.
struct ChosenCorrection {
    Correction correction;
    std::string cue; ///< in her own words; empty: as proposed
};

struct SlipRequest {
    std::string student, form; ///< names as people read them
    std::chrono::sys_days day;
    std::vector<ChosenCorrection> corrections; ///< in the order in which they are read
    std::vector<PlannedDay> practice;          ///< none: no plan yet
};

/// All that a review proposes, as proposed.
std::vector<ChosenCorrection> asProposed(const Review& review);

Slip slipOf(const Review& review, const FaultRules& rules, const ProgressSince* progress,
            const SlipRequest& request);

/// A day as people read it, "14 March 2026".
std::string dayWords(std::chrono::sys_days day);

/// A name for its files: day, student and form, without an ending. Characters that file systems refuse are
/// left out.
std::string slipFileName(const Slip& slip);

/// The slip as plain text, for a message.
std::string slipText(const Slip& slip);

/// What the student should hear at each moment of the clip, as WebVTT: the name of each posture while it is
/// done, and each correction's cue at its moment. `duration` in s.
std::string captionsOf(const Review& review, const Slip& slip, Seconds duration);

} // namespace jl
