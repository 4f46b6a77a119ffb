#pragma once
#include "measure/phase_courses.h"
#include "review/review.h"

namespace jl
{

/// What the reference shows for a phase: a recorded one as it was measured, the built-in one as it is.
struct ReferencePhase {
    std::optional<double> time;
    std::vector<std::optional<double>> values;
    std::vector<double> u;
    PhaseCourses::Values whole{};
    std::array<double, kPhaseMeasureCount> wholeU{};
};

/// Compares the phases of one clip with their bands: what each view gives best of every measure, against the
/// school's band, the reference's own value with the school's width, or what the rules allow around it,
/// within the student's limits. Keeps references to what it is given.
class PhaseJudge
{
public:
    PhaseJudge(const Standards& standards, const SchoolStandard& school, const FaultRules& rules,
               const ReviewInput& input);

    /// The phase of that index of the student's reading.
    ReviewedPhase reviewed(std::size_t phase) const;

private:
    /// Bands and reference of one phase.
    struct Asked {
        const ReferencePhase& reference;
        Bands bands;
        StanceKind stance;
        LimitedAt limited;
        const AcceptedVariant* variant; ///< none: the school's first way
    };
    std::vector<JudgedValue> valuesIn(std::size_t phase, const Asked& asked) const;
    JudgedValue judged(const Value& value, const Asked& asked) const;
    std::vector<JudgedWhole> judgedWhole(std::size_t phase, const Asked& asked) const;
    std::optional<Band> bandFor(Measure measure, const Asked& asked, bool byReference) const;

    const Standards& m_standards;
    const SchoolStandard& m_school;
    const FaultRules& m_rules;
    const ReviewInput& m_input;
    std::vector<ReferencePhase> m_references;
    std::vector<std::vector<PhaseValue>> m_whole;
    double m_tempo = 1; ///< of the student's durations against the reference's
};

/// What the values of an input are compared with; the built-in performer gives the standard only.
Yardstick yardstickOf(const ReviewInput& input);

} // namespace jl
