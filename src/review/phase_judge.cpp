#include "review/phase_judge.h"
#include "measure/measure_value.h"
#include "reading/whole_phases.h"
#include <algorithm>

namespace jl
{
namespace
{

bool isSafetyMeasure(const FaultRules& rules, Measure m, StanceKind stance)
{
    return std::any_of(rules.all().begin(), rules.all().end(), [&](const FaultRule& r) {
        return r.measure == m && r.safety && !r.ofLimits && r.holdsIn(stance);
    });
}

bool isLength(Measure m)
{
    return m == Measure::StanceLength || m == Measure::StanceWidth;
}

/// Lengths of another body count in proportion to the foot.
double footRatio(const PersonProfile& student, const PersonProfile& reference)
{
    return student.footLengthOrUsual() / reference.footLengthOrUsual();
}

/// The student's values in one phase, each from the view that gives it best. What both clips filmed at once
/// say of a moment holds all that each says; what no single view gives is what both say, be it only that they
/// cannot tell.
template <class V>
std::vector<V> merged(const ReviewInput& r, std::size_t phase, std::vector<V> MeasuredPhase::*of)
{
    constexpr bool holdsAll = std::is_same_v<V, Value>;
    std::vector<V> values = r.student->phases[phase].*of;
    const auto merge = [&](const std::vector<MeasuredPhase>& phases, bool lastWord) {
        if (phase >= phases.size()) return;
        const std::vector<V>& more = phases[phase].*of;
        if (values.empty()) values = more;
        for (std::size_t m = 0; m < std::min(values.size(), more.size()); ++m)
            if (more[m].seen() ? !values[m].seen() || (lastWord && holdsAll) || more[m].u < values[m].u
                               : lastWord && !values[m].seen())
                values[m] = more[m];
    };
    if (r.second) merge(r.second->phases, false);
    if (r.together) merge(r.together->phases, true);
    return values;
}

ReferencePhase referencePhase(const ReviewInput& r, std::size_t phase,
                              const std::vector<PhaseCourses::Values>& modelWhole)
{
    ReferencePhase out;
    out.values.resize(kMeasureCount);
    out.u.resize(kMeasureCount, 0);
    if (r.reference) {
        const MeasuredPhase& p = r.reference->phases[phase];
        if (!p.phase.matched) return out;
        out.time = p.phase.time;
        const double ratio = footRatio(r.student->profile, r.reference->profile);
        for (const Value& v : p.values) {
            const auto m = static_cast<std::size_t>(v.measure);
            if (!v.seen()) continue;
            out.values[m] = isLength(v.measure) ? v.value * ratio : v.value;
            out.u[m] = v.u;
        }
        for (const PhaseValue& v : p.whole) {
            if (!v.seen()) continue;
            out.whole.value[static_cast<std::size_t>(v.measure)] = v.value;
            out.wholeU[static_cast<std::size_t>(v.measure)] = v.u;
        }
        return out;
    }
    out.whole = modelWhole[phase];
    const ModelPerformance& model = r.student->model;
    const auto& p = model.phases[phase];
    out.time = p.time;
    const double height = r.student->profile.heightOrUsual();
    const BodyPoints points = model.scaledTo(height, p.time);
    const BodyLengths lengths = BodyLengths::usual(height);
    for (std::size_t m = 0; m < kMeasureCount; ++m)
        out.values[m] = measureValue(static_cast<Measure>(m), points, lengths, p.lead, p.heading);
    return out;
}

/// The band with what a variant accepts besides.
std::optional<Band> widened(std::optional<Band> band, Measure m, const AcceptedVariant* variant)
{
    if (!band || !variant) return band;
    const auto further = variant->further.find(m);
    if (further == variant->further.end()) return band;
    return Band{band->low + further->second.low, band->high + further->second.high, band->tolerance};
}

/// How many values lie outside their bands.
std::ptrdiff_t outside(const std::vector<JudgedValue>& values)
{
    return std::count_if(values.begin(), values.end(), [](const JudgedValue& v) {
        return v.value.seen() && v.band && v.band->excess(v.value.value) != 0;
    });
}

/// By how much slower than the reference the student does everything: what tempo is not a fault.
double overallTempo(const std::vector<std::vector<PhaseValue>>& student,
                    const std::vector<ReferencePhase>& reference)
{
    constexpr auto duration = static_cast<std::size_t>(PhaseMeasure::Duration);
    std::vector<double> ratios;
    for (std::size_t n = 0; n < student.size(); ++n)
        if (!student[n].empty() && student[n][duration].isGiven() &&
            reference[n].whole[duration].value_or(0) > 0)
            ratios.push_back(student[n][duration].value / *reference[n].whole[duration]);
    if (ratios.empty()) return 1;
    const auto middle = ratios.begin() + static_cast<std::ptrdiff_t>(ratios.size() / 2);
    std::nth_element(ratios.begin(), middle, ratios.end());
    return *middle;
}

} // namespace

Yardstick yardstickOf(const ReviewInput& input)
{
    return input.reference ? input.yardstick : Yardstick::Standard;
}

PhaseJudge::PhaseJudge(const Standards& standards, const SchoolStandard& school, const FaultRules& rules,
                       const ReviewInput& input)
    : m_standards(standards), m_school(school), m_rules(rules), m_input(input)
{
    const auto modelWhole =
        input.reference ? std::vector<PhaseCourses::Values>{} : wholePhases(input.student->model);
    for (std::size_t n = 0; n < input.student->phases.size(); ++n) {
        m_references.push_back(referencePhase(input, n, modelWhole));
        m_whole.push_back(merged(input, n, &MeasuredPhase::whole));
    }
    m_tempo = overallTempo(m_whole, m_references);
}

ReviewedPhase PhaseJudge::reviewed(std::size_t n) const
{
    const FoundPhase& found = m_input.student->phases[n].phase;
    const PhaseStandard& inForm = m_standards.phase(found.posture, found.phase);
    const PhaseAsked within = askedWithin(m_input.limits, inForm);
    // A gentler variant is done in another way: the reference's values are no yardstick for it.
    const ReferencePhase none{m_references[n].time,
                              std::vector<std::optional<double>>(kMeasureCount),
                              std::vector<double>(kMeasureCount),
                              {},
                              {}};
    const double foot = m_input.student->profile.footLengthOrUsual();
    const Asked asked{within.gentler ? none : m_references[n],
                      m_standards.bandsFor(within.phase, m_school, foot),
                      within.phase.stance,
                      {inForm.stance, within.gentler, found.lead},
                      nullptr};
    ReviewedPhase phase{
        found, m_references[n].time, within.phase.name, within.phase.breath, within.gentler, {}, {}, {}};
    phase.student.stance = asked.stance;
    phase.values = valuesIn(n, asked);
    for (const AcceptedVariant* variant : m_school.variantsOf(found.posture, found.phase)) {
        Asked otherwise = asked;
        otherwise.variant = variant;
        if (auto values = valuesIn(n, otherwise); outside(values) < outside(phase.values)) {
            phase.values = std::move(values);
            phase.variant = variant->name;
        }
    }
    phase.whole = judgedWhole(n, asked);
    return phase;
}

std::vector<JudgedValue> PhaseJudge::valuesIn(std::size_t n, const Asked& asked) const
{
    std::vector<JudgedValue> values;
    for (const Value& v : merged(m_input, n, &MeasuredPhase::values))
        values.push_back(judged(v, asked));
    return values;
}

JudgedValue PhaseJudge::judged(const Value& v, const Asked& asked) const
{
    JudgedValue judged{v, Status::Unseen, {}, asked.reference.values[static_cast<std::size_t>(v.measure)]};
    const auto bandBy = [&](bool byReference) {
        const auto band = widened(bandFor(v.measure, asked, byReference), v.measure, asked.variant);
        return bandWithin(m_input.limits, asked.limited, v.measure, band, judged.capped);
    };
    const Yardstick yardstick = yardstickOf(m_input);
    judged.band = bandBy(yardstick != Yardstick::Standard);
    if (yardstick == Yardstick::Both) judged.standard = bandBy(false);
    judged.status = statusOf(v, judged.band);
    return judged;
}

/// The band that holds: the school's, or, with a recorded reference, the school's width around the
/// reference's value; safety bands never move. Where no school says anything, what the rules allow around the
/// reference.
std::optional<Band> PhaseJudge::bandFor(Measure m, const Asked& asked, bool byReference) const
{
    const auto standard = asked.bands.find(m);
    const auto& value = asked.reference.values[static_cast<std::size_t>(m)];
    const double u = asked.reference.u[static_cast<std::size_t>(m)];
    if (standard == asked.bands.end()) {
        auto band = value ? m_rules.band(m, asked.stance, m_school.line, *value) : std::nullopt;
        if (band && u > band->halfWidth()) return {};
        return band ? std::optional(Band{band->low - u, band->high + u, band->tolerance}) : band;
    }
    Band band = standard->second;
    if (!byReference || isSafetyMeasure(m_rules, m, asked.stance) || !value) return band;
    if (u > band.halfWidth()) return band; // too uncertain to be a yardstick
    const double half = band.halfWidth() + u;
    return Band{*value - half, *value + half, 0};
}

std::vector<JudgedWhole> PhaseJudge::judgedWhole(std::size_t n, const Asked& asked) const
{
    std::vector<JudgedWhole> out;
    for (const PhaseValue& v : m_whole[n]) {
        const auto m = static_cast<std::size_t>(v.measure);
        JudgedWhole judged{v, Status::Unseen, {}, asked.reference.whole[m]};
        if (judged.reference && v.measure == PhaseMeasure::Duration) *judged.reference *= m_tempo;
        if (judged.reference)
            judged.band = m_rules.band(v.measure, asked.stance, m_school.line, *judged.reference);
        if (judged.band) {
            judged.band->low -= asked.reference.wholeU[m];
            judged.band->high += asked.reference.wholeU[m];
        }
        judged.status = statusOf(v, judged.band);
        out.push_back(judged);
    }
    return out;
}

} // namespace jl
