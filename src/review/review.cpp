#include "review/review.h"
#include "review/teaching.h"
#include <algorithm>
#include <cmath>

namespace jl
{

Status statusOf(const Value& value, const std::optional<Band>& band)
{
    if (!value.seen) return Status::Unseen;
    if (!band) return Status::Ok;
    if (value.u > band->halfWidth()) return Status::Unseen;
    return value.u > band->halfWidth() / 3 ? Status::Weak : Status::Ok;
}

std::optional<std::pair<std::string, Severity>> judge(const FaultRules& rules, const std::string& stance,
                                                      const JudgedValue& v)
{
    if (v.status == Status::Unseen || !v.band) return {};
    const double excess = v.band->excess(v.value.value);
    const double size = std::abs(excess);
    if (size <= v.value.u) return {}; // inside, or outside by no more than the uncertainty
    for (const FaultRule& rule : rules.all()) {
        if (rule.measure != v.value.measure || rule.above != (excess > 0)) continue;
        if (std::find(rule.stances.begin(), rule.stances.end(), stance) == rule.stances.end()) continue;
        // A fault must stand out of the band by two standard uncertainties: then it is real in 19 of 20
        // cases.
        const bool sure = size > 2 * v.value.u && size > rule.margin;
        return std::pair(rule.id, !sure ? Severity::Watch : rule.safety ? Severity::Safety : Severity::Fault);
    }
    return {};
}

namespace
{

bool isSafetyMeasure(const FaultRules& rules, Measure m)
{
    return std::any_of(rules.all().begin(), rules.all().end(),
                       [m](const FaultRule& r) { return r.measure == m && r.safety; });
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

bool isSeen(const Value& v)
{
    return v.seen;
}
double spreadOf(const Value& v)
{
    return v.u;
}
bool isSeen(const PhaseValue& v)
{
    return v.seen();
}
double spreadOf(const PhaseValue& v)
{
    return *v.u;
}

/// The student's values in one phase, each from the view that gives it best.
template <class V>
std::vector<V> merged(const ReviewRequest& r, std::size_t phase, std::vector<V> PhaseReading::*of)
{
    std::vector<V> values = r.student->phases[phase].*of;
    const auto merge = [&](const std::vector<PhaseReading>& phases) {
        if (phase >= phases.size()) return;
        const std::vector<V>& more = phases[phase].*of;
        if (values.empty()) values = more;
        for (std::size_t m = 0; m < std::min(values.size(), more.size()); ++m)
            if (isSeen(more[m]) && (!isSeen(values[m]) || spreadOf(more[m]) < spreadOf(values[m])))
                values[m] = more[m];
    };
    if (r.second) merge(r.second->phases);
    if (r.together) merge(r.together->phases);
    return values;
}

/// What the reference shows for a phase: a recorded one as it was measured, the built-in one as it is.
struct ReferencePhase {
    std::optional<double> time;
    std::vector<std::optional<double>> values;
    std::vector<double> u;
};

ReferencePhase referencePhase(const ReviewRequest& r, std::size_t phase)
{
    ReferencePhase out;
    out.values.resize(kMeasureCount);
    out.u.resize(kMeasureCount, 0);
    if (r.reference) {
        const PhaseReading& p = r.reference->phases[phase];
        if (!p.phase.matched) return out;
        out.time = p.phase.time;
        const double ratio = footRatio(r.student->profile, r.reference->profile);
        for (const Value& v : p.values) {
            const auto m = static_cast<std::size_t>(v.measure);
            if (!v.seen) continue;
            out.values[m] = isLength(v.measure) ? v.value * ratio : v.value;
            out.u[m] = v.u;
        }
        return out;
    }
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

/// The band that holds: the school's, or, with a recorded reference, the school's width around the
/// reference's value; safety bands never move.
std::optional<Band> bandFor(Measure m, const Bands& bands, const ReferencePhase& reference, bool recorded,
                            bool safety)
{
    const auto standard = bands.find(m);
    if (standard == bands.end()) return {};
    Band band = standard->second;
    const auto& value = reference.values[static_cast<std::size_t>(m)];
    if (!recorded || safety || !value) return band;
    const double u = reference.u[static_cast<std::size_t>(m)];
    if (u > band.halfWidth()) return band; // too uncertain to be a yardstick
    const double half = band.halfWidth() + u;
    return Band{*value - half, *value + half, 0};
}

void findFaults(Review& review, const FaultRules& rules)
{
    for (std::size_t i = 0; i < review.postures.size(); ++i) {
        for (std::size_t k = 0; k < review.postures[i].phases.size(); ++k) {
            const ReviewedPhase& phase = review.postures[i].phases[k];
            for (const JudgedValue& v : phase.values) {
                const auto found = judge(rules, phase.student.stance, v);
                if (found)
                    review.findings.push_back(
                        {found->first, found->second, i, k, phase.student.time, v.value, *v.band, {}});
            }
        }
    }
}

/// Says what a moving camera means for the values.
void noteCamera(Review& review, const Track& track)
{
    double most = 0;
    std::size_t lost = 0;
    for (const BodyFrame& f : track.frames) {
        most = std::max(most, f.cameraShift.norm());
        lost += f.cameraLost;
    }
    if (static_cast<double>(lost) > 0.1 * static_cast<double>(track.frames.size()))
        review.notes.emplace_back(
            "The camera could not be held against the background all the time; where it "
            "turned or moved along, values are less certain than stated.");
    else if (most > 0.004 * track.width)
        review.notes.emplace_back("The camera moved a little; the background was used to hold it still.");
}

} // namespace

Result<Review> makeReview(const Standards& standards, const FaultRules& rules, const ReviewRequest& request)
{
    const SchoolStandard* school = standards.school(request.school);
    if (!school) return unknownId("school", request.school, idsOf(standards.schools));
    const LevelStandard* level = standards.level(request.level);
    if (!level) return unknownId("level", request.level, idsOf(standards.levels));

    Review review;
    review.form = request.form;
    review.school = request.school;
    review.level = request.level;
    review.mode = request.reference ? "by reference" : "by standard";
    review.side = request.student->lead();
    review.builtInReference = request.reference == nullptr;
    const double foot = request.student->profile.footLengthOrUsual();

    for (std::size_t n = 0; n < request.student->phases.size(); ++n) {
        const FoundPhase& found = request.student->phases[n].phase;
        const PostureStandard* posture = standards.posture(found.posture);
        const PhaseStandard* standard = &standards.phase(found.posture, found.phase);
        const bool next = standard == &posture->phases.front();
        if (next) review.postures.push_back({posture->id, posture->name, "left-out", {}});
        const ReferencePhase reference = referencePhase(request, n);
        ReviewedPhase phase{found,
                            reference.time,
                            standard->name,
                            standard->breath,
                            {},
                            merged(request, n, &PhaseReading::whole)};
        const Bands bands = standards.bandsFor(*standard, *school, foot);
        for (const Value& v : merged(request, n, &PhaseReading::values)) {
            JudgedValue judged{v, Status::Unseen, {}, reference.values[static_cast<std::size_t>(v.measure)]};
            judged.band = bandFor(v.measure, bands, reference, request.reference != nullptr,
                                  isSafetyMeasure(rules, v.measure));
            judged.status = statusOf(v, judged.band);
            phase.values.push_back(judged);
        }
        if (found.matched) review.postures.back().status = "matched";
        review.postures.back().phases.push_back(std::move(phase));
    }
    review.meetings = request.student->meetings;
    findFaults(review, rules);
    traceCauses(review, rules);
    review.teach = chooseCorrections(review, rules, *level);
    if (!request.student->profile.height)
        review.notes.emplace_back(
            "The student's height is not known; lengths assume 1.68 m and are less certain.");
    if (request.together)
        review.notes.emplace_back("Both clips were filmed at once; their measures are read in space.");
    noteCamera(review, request.student->track);
    if (request.student->track.model == "lite")
        review.notes.emplace_back("The small network was used; values are less certain.");
    return review;
}

} // namespace jl
