#pragma once
#include "form/pair_reading.h"
#include "form/standards.h"
#include "review/fault_rules.h"

namespace jl
{

/// One measure of the student at one key moment, judged.
struct JudgedValue {
    Value value;
    Status status = Status::Unseen;
    std::optional<Band> band;        ///< none: nothing is asked of this measure here
    std::optional<double> reference; ///< the reference's value, where it is known
};

struct ReviewedPhase {
    FoundPhase student;
    std::optional<double> referenceTime; ///< s in the reference
    std::string name, breath;
    std::vector<JudgedValue> values; ///< in the order of Measure; empty when not found
    std::vector<PhaseValue> whole;   ///< in the order of PhaseMeasure; empty when not found
};

struct ReviewedPosture {
    std::string id, name;
    std::string status; ///< matched or left-out
    std::vector<ReviewedPhase> phases;
};

/// A measure outside its band by more than its uncertainty, in a named phase.
struct Finding {
    std::string fault;
    Severity severity = Severity::Watch;
    std::size_t posture = 0, phase = 0; ///< indices in the review
    double time = 0;                    ///< s in the student's clip
    Value value;
    Band band;
    std::optional<std::string> becauseOf; ///< the fault that explains this one; none: a root
};

/// A correction proposed to the instructor.
struct Correction {
    std::string fault;
    std::vector<std::string> chain; ///< fault ids from the root to its consequences
    int count = 0, outOf = 0;       ///< phases in which it shows, of those in which it could
    Severity severity = Severity::Watch;
    double score = 0;
    double time = 0; ///< s: its clearest moment in the student's clip
    std::string title, chainText, cue, reason, drill;
};

struct Review {
    std::string form, school, level, mode;
    Side side = Side::Right;
    bool builtInReference = true;
    std::vector<ReviewedPosture> postures;
    std::vector<Finding> findings;
    std::vector<Correction> teach;      ///< at most three
    std::vector<FloorMeeting> meetings; ///< of the student's feet with the floor
    std::vector<std::string> notes;     ///< limits of this review, told to the instructor
};

/// What a review compares the student with.
struct ReviewRequest {
    std::string form = "sparrow-tail", school = "upright-broad", level = "forming";
    const ClipReading* student = nullptr;
    const ClipReading* second = nullptr;    ///< another view of the same student, merged measure by measure
    const ClipReading* reference = nullptr; ///< none: the built-in performer
    const PairReading* together = nullptr;  ///< student and second, where they were filmed at once
};

/// Judges a student's clip. Errors only for unknown form, school or level.
Result<Review> makeReview(const Standards& standards, const FaultRules& rules, const ReviewRequest& request);

/// How a value counts against the band it is asked to lie in.
Status statusOf(const Value& value, const std::optional<Band>& band);

/// The findings of one judged value under the rules; at most one.
std::optional<std::pair<std::string, Severity>> judge(const FaultRules& rules, const std::string& stance,
                                                      const JudgedValue& value);

} // namespace jl
