#pragma once
#include "measure/derived_value.h"
#include "reading/pair_measurement.h"
#include "review/fault_rules.h"
#include "review/teaching_memory.h"
#include "standards/standards.h"
#include "standards/student_limits.h"

namespace jl
{

/// What a student is measured against: a recorded reference's own values with the school's widths around
/// them, the school's standard, or both, where a finding needs only one. Bands that spare knees are the
/// school's in any case. With the built-in performer as the reference there is only the standard.
enum class Yardstick { Reference, Standard, Both };
std::string_view yardstickName(Yardstick y); ///< reference, standard, both
std::optional<Yardstick> yardstickFromName(std::string_view name);

/// One measure of the student at one key moment, judged.
struct JudgedValue {
    Value value;
    Status status = Status::Unseen;
    std::optional<Band> band;          ///< none: nothing is asked of this measure here
    std::optional<double> reference;   ///< the reference's value, where it is known
    std::optional<Band> standard = {}; ///< the school's band, where it counts beside the reference's
    bool capped = false; ///< the band is narrower or wider than the school's, for the student's limits
};

/// One measure of a whole phase, judged.
struct JudgedWhole {
    PhaseValue value;
    Status status = Status::Unseen;
    std::optional<Band> band;
    std::optional<double> reference;
};

struct ReviewedPhase {
    FoundPhase student;
    std::optional<double> referenceTime; ///< s in the reference
    std::string name, breath;
    bool gentler = false;            ///< judged as the gentler variant that the student's limits ask for
    std::string variant;             ///< the accepted variant it was done in; empty: the school's first way
    std::vector<JudgedValue> values; ///< in the order of Measure; empty when not found
    std::vector<JudgedWhole> whole;  ///< in the order of PhaseMeasure; empty when not found
};

/// How a posture of the form was done. Not filmed: cut off by the clip.
enum class PostureStatus { Matched, LeftOut, Repeated, OutOfOrder, NotFilmed };
std::string_view postureStatusName(PostureStatus status); ///< as in files, e.g. "left-out"

struct ReviewedPosture {
    std::string id, name;
    PosturePurpose purpose;
    PostureStatus status = PostureStatus::Matched;
    std::vector<ReviewedPhase> phases;
};

/// A measure outside its band by more than its uncertainty, in a named phase; or, without a measure, a
/// posture that was not done as the form has it.
struct Finding {
    std::string fault;
    Severity severity = Severity::Watch;
    std::size_t posture = 0, phase = 0; ///< indices in the review
    double time = 0;                    ///< s in the student's clip
    std::optional<Measure> measure;
    std::optional<PhaseMeasure> whole;
    double value = 0, u = 0; ///< of the measure
    std::optional<Band> band;
    bool byStandard = false;              ///< claimed by the school's standard, not by the reference
    std::optional<std::string> becauseOf; ///< the fault that explains this one; none: a root
    bool together = false;                ///< sure only by what all phases of the clip say together

    /// How far out of the band, in half-widths of it; 1 where there is no band.
    double strength() const;
    /// How sure it is, in standard uncertainties.
    double clarity() const;
};

/// In how many phases a fault shows, of those in which it could be judged.
struct FaultCount {
    std::string fault;
    Severity severity = Severity::Watch; ///< the gravest
    int shows = 0, could = 0;
};

/// One thing that is looked at in standing, before the form begins.
struct StandingPoint {
    enum class State { Good, Watch, Off, Unseen };
    std::string what; ///< "feet apart"
    State state = State::Unseen;
    std::string words;           ///< what to do about it; empty where it is good or unseen
    std::optional<double> value; ///< of the measure that decides it, in its unit
    double u = 0;
    Measure measure = Measure::FeetParallelWidth;
};
std::string_view stateName(StandingPoint::State state); ///< good, watch, off, unseen

/// How somebody stands before the form, from the ground up.
struct Standing {
    Seconds time = 0; ///< s, in the student's clip
    std::vector<StandingPoint> points;

    bool seesAnything() const;
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
    std::string whyNow; ///< why it is among those to teach, in words
};

/// What the instructor saw herself at a moment.
struct OwnFinding {
    Seconds time = 0; ///< s in the student's clip
    std::string title, cue, drill;
    std::optional<Measure> measure; ///< that it is about, where there is one

    /// What lessons count it by: the same title is the same finding, whatever case and spaces it has.
    std::string fault() const;
};
/// Whether a fault's id is that of an own finding.
bool isOwnFinding(const std::string& fault);

struct Review {
    std::string form, school, level, mode;
    SchoolLine schoolLine; ///< the school and those it extends
    Side side = Side::Right;
    bool builtInReference = true;
    OwnLengths own; ///< of the student
    std::vector<ReviewedPosture> postures;
    std::vector<Finding> findings;
    std::vector<FaultCount> counts;    ///< of every fault that could be judged
    std::vector<Correction> teach;     ///< at most three, and the instructor's own findings
    std::vector<Correction> further;   ///< that come after those three, for an instructor who wants one more
    std::optional<Standing> standing;  ///< how the student stands before the form
    std::vector<FootEvent> footEvents; ///< of the student's feet with the floor
    std::vector<std::string> notes;    ///< limits of this review, for the instructor
    std::vector<std::string> cautions; ///< for the student
    std::string doubt; ///< that the clip shows this form at all; filled in by who compares it with others
};

/// What a review compares the student with.
struct ReviewInput {
    std::string form = "sparrow-tail", school = "upright-broad", level = "forming";
    const ClipReading* student = nullptr;
    const ClipReading* second = nullptr;    ///< another view of the same student, merged measure by measure
    const ClipReading* reference = nullptr; ///< none: the built-in performer
    const PairMeasurement* together = nullptr; ///< student and second, where they were filmed at once
    Yardstick yardstick = Yardstick::Reference;
    StudentLimits limits = {};  ///< of the student
    TeachingMemory memory = {}; ///< of the student's earlier lessons
    std::vector<OwnFinding> own = {};
};

/// Judges a student's clip. Errors only for unknown form, school or level.
Result<Review> judgeClip(const Standards& standards, const FaultRules& rules, const ReviewInput& request);

/// How a value counts against the band it is asked to lie in.
Status statusOf(const Estimate& estimate, const std::optional<Band>& band);

/// Where a value is judged.
struct JudgedAt {
    StanceKind stance = StanceKind::Parallel;
    Side lead = Side::Right;
    SchoolLine school;
};

/// The finding of one judged value under the rules: at most one, fault and severity.
std::optional<std::pair<std::string, Severity>> judge(const FaultRules& rules, const JudgedAt& at,
                                                      const JudgedValue& value);
std::optional<std::pair<std::string, Severity>> judge(const FaultRules& rules, const JudgedAt& at,
                                                      const JudgedWhole& value);

/// The rule's words where a finding of it shows.
FaultWords wordsOf(const FaultRule& rule, const Review& review, const Finding& finding);

} // namespace jl
