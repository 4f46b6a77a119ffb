#include "review/review.h"
#include "measure/measure_value.h"
#include "reading/whole_phases.h"
#include "review/evidence.h"
#include "review/teaching.h"
#include <algorithm>
#include <cmath>

namespace jl
{

namespace
{

/// By how many standard uncertainties something must stand out of its band to be a fault, and to be one of
/// safety, where a mistaken alarm costs trust.
struct Sureness {
    double fault, safety;
};
/// Of hundreds of values some stand out by chance: one that truly is within does in 1 of 28 cases, or 1 of
/// 100.
constexpr Sureness kOneValue{1.8, 2.33};
/// What a whole clip says of a fault, be it by one phase, is asked only once, so that 1 in 7 will do, or 1 in
/// 44 where several phases say so.
constexpr Sureness kWholeClip{1.05, 2};

bool isSure(const FaultRule& rule, double beyond, double u, const Sureness& surely)
{
    return beyond > rule.doubt * (rule.safety ? surely.safety : surely.fault) * u && beyond > rule.margin;
}

Severity severityWhenSure(const FaultRule& rule)
{
    return rule.safety ? Severity::Safety : Severity::Fault;
}

} // namespace

std::string_view yardstickName(Yardstick y)
{
    constexpr std::string_view names[] = {"reference", "standard", "both"};
    return names[static_cast<int>(y)];
}

std::string_view postureStatusName(PostureStatus status)
{
    constexpr std::string_view names[] = {"matched", "left-out", "repeated", "out-of-order", "not-filmed"};
    return names[static_cast<int>(status)];
}

std::optional<Yardstick> yardstickFromName(std::string_view name)
{
    for (Yardstick y : {Yardstick::Reference, Yardstick::Standard, Yardstick::Both})
        if (yardstickName(y) == name) return y;
    return {};
}

Status statusOf(const Estimate& e, const std::optional<Band>& band)
{
    if (!e.seen() || (band && e.u > band->halfWidth())) return Status::Unseen;
    const bool fine = !band || e.u <= band->halfWidth() / 3;
    return e.isCertain() && fine ? Status::Ok : Status::Weak;
}

double Finding::strength() const
{
    return band ? std::abs(band->excess(value)) / std::max(1e-9, band->halfWidth()) : 1;
}

double Finding::clarity() const
{
    return band ? std::abs(band->excess(value)) / std::max(1e-9, u) : 1;
}

namespace
{

template <class M>
std::optional<std::pair<std::string, Severity>>
judged(const FaultRules& rules, std::optional<M> FaultRule::*of, M measure, StanceKind stance, double excess,
       double u, bool capped)
{
    const double size = std::abs(excess);
    if (size <= u) return {}; // inside, or outside by no more than the uncertainty
    for (const FaultRule& rule : rules.all()) {
        if (rule.*of != measure || !(excess > 0 ? rule.above : rule.below) || !rule.holdsIn(stance)) continue;
        if (rule.ofLimits && !capped) continue;
        return std::pair(rule.id,
                         isSure(rule, size, u, kOneValue) ? severityWhenSure(rule) : Severity::Watch);
    }
    return {};
}

} // namespace

std::optional<std::pair<std::string, Severity>> judge(const FaultRules& rules, StanceKind stance,
                                                      const JudgedValue& v)
{
    if (v.status == Status::Unseen || !v.band) return {};
    return judged(rules, &FaultRule::measure, v.value.measure, stance, v.band->excess(v.value.value),
                  v.value.u, v.capped);
}

std::optional<std::pair<std::string, Severity>> judge(const FaultRules& rules, StanceKind stance,
                                                      const JudgedWhole& v)
{
    if (v.status == Status::Unseen || !v.band) return {};
    return judged(rules, &FaultRule::whole, v.value.measure, stance, v.band->excess(v.value.value), v.value.u,
                  false);
}

namespace
{

bool isSafetyMeasure(const FaultRules& rules, Measure m)
{
    return std::any_of(rules.all().begin(), rules.all().end(),
                       [m](const FaultRule& r) { return r.measure == m && r.safety && !r.ofLimits; });
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

/// What the reference shows for a phase: a recorded one as it was measured, the built-in one as it is.
struct ReferencePhase {
    std::optional<double> time;
    std::vector<std::optional<double>> values;
    std::vector<double> u;
    PhaseCourses::Values whole{};
    std::array<double, kPhaseMeasureCount> wholeU{};
};

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

/// The band that holds: the school's, or, with a recorded reference, the school's width around the
/// reference's value; safety bands never move. Where no school says anything, what the rules allow around the
/// reference.
std::optional<Band> bandFor(Measure m, const Bands& bands, const ReferencePhase& reference,
                            const FaultRules& rules, StanceKind stance, const ReviewInput& r,
                            bool byReference)
{
    const auto standard = bands.find(m);
    const auto& value = reference.values[static_cast<std::size_t>(m)];
    const double u = reference.u[static_cast<std::size_t>(m)];
    if (standard == bands.end()) {
        auto band = value ? rules.band(m, stance, r.school, *value) : std::nullopt;
        if (band && u > band->halfWidth()) return {};
        return band ? std::optional(Band{band->low - u, band->high + u, band->tolerance}) : band;
    }
    Band band = standard->second;
    if (!byReference || isSafetyMeasure(rules, m) || !value) return band;
    if (u > band.halfWidth()) return band; // too uncertain to be a yardstick
    const double half = band.halfWidth() + u;
    return Band{*value - half, *value + half, 0};
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

std::vector<JudgedWhole> judgedWhole(const std::vector<PhaseValue>& values, const ReferencePhase& reference,
                                     const FaultRules& rules, StanceKind stance, const std::string& school,
                                     double tempo)
{
    std::vector<JudgedWhole> out;
    for (const PhaseValue& v : values) {
        const auto m = static_cast<std::size_t>(v.measure);
        JudgedWhole judged{v, Status::Unseen, {}, reference.whole[m]};
        if (judged.reference && v.measure == PhaseMeasure::Duration) *judged.reference *= tempo;
        if (judged.reference) judged.band = rules.band(v.measure, stance, school, *judged.reference);
        if (judged.band) {
            judged.band->low -= reference.wholeU[m];
            judged.band->high += reference.wholeU[m];
        }
        judged.status = statusOf(v, judged.band);
        out.push_back(judged);
    }
    return out;
}

JudgedValue byTheStandard(JudgedValue v)
{
    v.band = v.standard;
    v.status = statusOf(v.value, v.band);
    return v;
}

/// What stands out of its band in single phases.
void findFaults(Review& review, const FaultRules& rules)
{
    const bool onlyStandard = review.mode == yardstickName(Yardstick::Standard);
    for (std::size_t i = 0; i < review.postures.size(); ++i) {
        for (std::size_t k = 0; k < review.postures[i].phases.size(); ++k) {
            const ReviewedPhase& phase = review.postures[i].phases[k];
            const FoundPhase& at = phase.student;
            const auto claim = [&](const auto& judged, std::optional<Measure> measure,
                                   std::optional<PhaseMeasure> whole, double value, double u,
                                   bool byStandard) {
                const auto f = judge(rules, at.stance, judged);
                if (f)
                    review.findings.push_back({f->first,
                                               f->second,
                                               i,
                                               k,
                                               at.time,
                                               measure,
                                               whole,
                                               value,
                                               u,
                                               judged.band,
                                               byStandard,
                                               {}});
                return f.has_value();
            };
            for (const JudgedValue& v : phase.values)
                if (!claim(v, v.value.measure, {}, v.value.value, v.value.u, onlyStandard) && v.standard)
                    claim(byTheStandard(v), v.value.measure, {}, v.value.value, v.value.u, true);
            for (const JudgedWhole& v : phase.whole)
                claim(v, {}, v.value.measure, v.value.value, v.value.u, onlyStandard);
        }
    }
}

/// What no phase shows surely among many, but all phases of the clip together do.
void weighTogether(Review& review, const FaultRules& rules)
{
    const bool onlyStandard = review.mode == yardstickName(Yardstick::Standard);
    for (Finding& f : review.findings) {
        if (f.severity != Severity::Watch || f.byStandard != onlyStandard) continue;
        const FaultRule& rule = *rules.find(f.fault);
        const PooledEvidence all = pooled(comparableEvidence(review, rule, f), f.value > f.band->high);
        if (rule.safety && all.phases < 2) continue; // was judged by kOneValue
        if (!isSure(rule, all.beyond, all.u, kWholeClip)) continue;
        f.severity = severityWhenSure(rule);
        f.together = all.phases > 1;
    }
}

/// Some faults are a matter of safety for students who must not fall.
void spareTheUnsteady(Review& review, const FaultRules& rules)
{
    for (Finding& f : review.findings)
        if (f.severity == Severity::Fault && rules.find(f.fault)->safetyIfUnsteady)
            f.severity = Severity::Safety;
}

/// What the line-up says of the order of postures: their status, and a finding for each that was not done as
/// the form has it.
void findSequenceFaults(Review& review, const LineUp& lineUp, const FaultRules& rules)
{
    const auto claim = [&](const char* fault, std::size_t place, double time) {
        if (rules.find(fault))
            review.findings.push_back({fault, Severity::Fault, place, 0, time, {}, {}, 0, 0, {}, false, {}});
    };
    using Order = PostureRun::Order;
    for (std::size_t place = 0; place < review.postures.size(); ++place) {
        ReviewedPosture& posture = review.postures[place];
        const PostureRun* run = lineUp.runOf(place);
        posture.status = run                   ? PostureStatus::Matched
                         : lineUp.shows(place) ? PostureStatus::LeftOut
                                               : PostureStatus::NotFilmed;
        if (posture.status == PostureStatus::LeftOut)
            claim("left-out", place, posture.phases.front().student.begin);
        if (!run) continue;
        if (run->otherSide) claim("wrong-side", place, run->begin);
        if (run->turned != 0) claim("wrong-heading", place, run->begin);
        for (const PostureRun& r : lineUp.runs) {
            if (r.place != place || (r.order != Order::Repeated && r.order != Order::OutOfOrder)) continue;
            posture.status = r.order == Order::Repeated ? PostureStatus::Repeated : PostureStatus::OutOfOrder;
            claim(r.order == Order::Repeated ? "repeated" : "out-of-order", place, r.begin);
        }
    }
}

/// Says which part of the form a clip shows that begins or ends in the middle of it.
void noteCut(Review& review)
{
    const auto filmed = [](const ReviewedPosture& p) { return p.status != PostureStatus::NotFilmed; };
    const auto first = std::find_if(review.postures.begin(), review.postures.end(), filmed);
    const auto last = std::find_if(review.postures.rbegin(), review.postures.rend(), filmed);
    if (first == review.postures.end() ||
        (first == review.postures.begin() && last == review.postures.rbegin()))
        return;
    review.notes.emplace_back("The clip shows the form from \"" + first->name + "\" to \"" + last->name +
                              "\"; the rest of it is not judged.");
    const auto shown = std::count_if(review.postures.begin(), review.postures.end(), filmed);
    if (2 * shown < std::ssize(review.postures))
        review.notes.emplace_back(
            "That is less than half of it. If something else was performed, choose that form.");
}

/// Says what a moving camera, or one that cuts off feet or head, means for the values.
void noteCamera(Review& review, const Track& track, const Framing& framing)
{
    const std::string trouble = framingTrouble(framing);
    if (!trouble.empty())
        review.notes.push_back("In this clip " + trouble + "; what needs them can hardly be told there.");
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

Result<Review> judgeClip(const Standards& standards, const FaultRules& rules, const ReviewInput& request)
{
    const SchoolStandard* school = standards.school(request.school);
    if (!school) return unknownId("school", request.school, idsOf(standards.schools));
    const LevelStandard* level = standards.level(request.level);
    if (!level) return unknownId("level", request.level, idsOf(standards.levels));

    Review review;
    review.form = request.form;
    review.school = request.school;
    review.level = request.level;
    const Yardstick yardstick = request.reference ? request.yardstick : Yardstick::Standard;
    review.mode = yardstickName(yardstick);
    review.side = request.student->lead();
    review.builtInReference = request.reference == nullptr;
    review.own = OwnLengths::of(request.student->profile, request.student->lengths);
    const double foot = request.student->profile.footLengthOrUsual();

    const std::vector<MeasuredPhase>& read = request.student->phases;
    const auto modelWhole =
        request.reference ? std::vector<PhaseCourses::Values>{} : wholePhases(request.student->model);
    std::vector<ReferencePhase> references;
    std::vector<std::vector<PhaseValue>> whole;
    for (std::size_t n = 0; n < read.size(); ++n) {
        references.push_back(referencePhase(request, n, modelWhole));
        whole.push_back(merged(request, n, &MeasuredPhase::whole));
    }
    const double tempo = overallTempo(whole, references);
    const auto places = request.student->model.places();
    for (std::size_t place = 0; place < places.size(); ++place) {
        const PostureStandard* posture = standards.posture(read[places[place].firstPhase].phase.posture);
        review.postures.push_back({posture->id, posture->name, PostureStatus::Matched, {}});
        for (std::size_t n = places[place].firstPhase; n <= places[place].lastPhase; ++n) {
            const FoundPhase& found = read[n].phase;
            const PhaseAsked within =
                askedWithin(request.limits, standards.phase(found.posture, found.phase));
            const PhaseStandard& standard = within.phase;
            const bool gentler = within.gentler;
            if (gentler)
                references[n] = {references[n].time,
                                 std::vector<std::optional<double>>(kMeasureCount),
                                 std::vector<double>(kMeasureCount),
                                 {},
                                 {}};
            ReviewedPhase phase{found, references[n].time, standard.name, standard.breath, gentler, {}, {}};
            phase.student.stance = standard.stance;
            const Bands bands = standards.bandsFor(standard, *school, foot);
            for (const Value& v : merged(request, n, &MeasuredPhase::values)) {
                JudgedValue judged{
                    v, Status::Unseen, {}, references[n].values[static_cast<std::size_t>(v.measure)]};
                const auto asked = [&](bool byReference) {
                    return bandWithin(request.limits, v.measure,
                                      bandFor(v.measure, bands, references[n], rules, standard.stance,
                                              request, byReference),
                                      judged.capped);
                };
                judged.band = asked(yardstick != Yardstick::Standard);
                if (yardstick == Yardstick::Both) judged.standard = asked(false);
                judged.status = statusOf(v, judged.band);
                phase.values.push_back(judged);
            }
            phase.whole = judgedWhole(whole[n], references[n], rules, standard.stance, request.school, tempo);
            review.postures.back().phases.push_back(std::move(phase));
        }
    }
    review.footEvents = request.student->footEvents;
    findFaults(review, rules);
    weighTogether(review, rules);
    if (!request.limits.steady) spareTheUnsteady(review, rules);
    findSequenceFaults(review, request.student->lineUp, rules);
    review.counts = countFaults(review, rules);
    traceCauses(review, rules, request.memory);
    review.teach = chooseCorrections(review, rules, *level, request.memory);
    if (!request.student->profile.height)
        review.notes.emplace_back(
            "The student's height is not known; lengths assume 1.68 m and are less certain.");
    for (const std::string& words : limitWords(request.limits))
        review.notes.emplace_back("Within the student's limits: " + words + ".");
    if (request.together)
        review.notes.push_back(std::string("Both clips were filmed at once, as ") +
                               (request.together->heard ? "their sound" : "the movements") +
                               " in them shows; their measures are read in space.");
    noteCut(review);
    const std::string hints = hintsLeftOut(request.student->camera);
    if (!hints.empty()) review.notes.push_back(hints);
    noteCamera(review, request.student->track, request.student->framing);
    if (request.student->track.model == "lite")
        review.notes.emplace_back("The small network was used; values are less certain.");
    return review;
}

} // namespace jl
