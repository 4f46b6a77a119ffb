#include "reading/whole_phases.h"
#include "base/parallel.h"
#include "base/units.h"
#include "camera/synchrony.h"
#include "measure/phase_courses.h"
#include "moment/view_support.h"
#include <algorithm>
#include <cmath>
#include <limits>

namespace jl
{
namespace
{

/// Options of reading phases as a whole.
/// Chosen on: the quick set (validate --quick).
struct WholePhaseOptions {
    /// Ray distance of a knee or ankle beyond which the moment does not count, at 1.70 m.
    /// x0.5: n -2 %; x2: none.
    Metres legsApart = 0.08;
    /// Distance from the edge of a cut run. x0.5 and x2: none.
    Seconds cutEdge = 0.05;
    /// Of the model's time for a phase. x0.5 and x2: none.
    Share leastTime = 0.2;
    /// To either side of a step of the form, in which a step is expected. x0.5 and x2: none.
    Seconds stepLeeway = 0.35;
    /// Between two looks at the model. Sampling only. x0.5 and x2: none.
    Seconds stepSampling = 0.05;
    /// Height of the model's foot from which it is in the air. x0.5 and x2: none.
    Metres offFloor = 0.004;
};
constexpr WholePhaseOptions kOptions;

/// However well a set of clips went: a time is not known to better than half a frame, nor a count for
/// certain.
double leastSpread(std::string_view unit)
{
    return unit == "s" ? 0.02 : unit.empty() ? 0.2 : 0;
}

/// `row`: what the table of accuracy calls the view.
std::vector<PhaseValue> rated(const PhaseCourses::Values& values, std::string_view view, std::string_view row,
                              bool weightShows, const AccuracyTable& accuracy)
{
    std::vector<PhaseValue> out;
    for (const PhaseMeasureInfo& info : allPhaseMeasures()) {
        const auto m = static_cast<std::size_t>(info.measure);
        PhaseValue v{{}, info.measure, view};
        if (values[m] && (!info.fromWeight || weightShows)) {
            v.value = *values[m];
            v.status = Status::Unrated;
        }
        if (const auto known = accuracy.entry(row, info.key); known && v.isGiven()) {
            v.value -= known->bias;
            if (!info.isSigned) v.value = std::max(0.0, v.value); // the bias is an average
            v.u = std::hypot(known->uncertainty(values.spread[m] * values.spread[m]), leastSpread(info.unit));
            v.status = known->keepsPromise(v.u) ? Status::Ok : Status::Weak;
        }
        out.push_back(v);
    }
    return out;
}

BodyPoints nowhere()
{
    BodyPoints p;
    p.fill(Eigen::Vector3d::Constant(std::numeric_limits<double>::quiet_NaN()));
    return p;
}

/// Whether the clip shows a phase from its beginning to its end: not standing, which has no move, not one
/// that is cut off, and not one squeezed into next to no time, whose beginning was not found.
bool isShownWhole(const PlacedClip& clip, const FoundPhase& p)
{
    const auto& phases = clip.model.phases;
    if (!p.matched || p.modelTime <= phases.front().time) return false;
    const ModelPerformance::Phase& model = clip.model.phaseAt(p.modelTime);
    if (p.time - p.begin < kOptions.leastTime * (model.time - model.begin)) return false;
    return std::none_of(clip.lineUp.runs.begin(), clip.lineUp.runs.end(), [&](const PostureRun& run) {
        return !run.begun && std::abs(p.begin - run.begin) < kOptions.cutEdge;
    });
}

/// The phase under way at a time of the clip; between phases the nearest one.
const FoundPhase& phaseUnderWay(const LineUp& lineUp, double time)
{
    const auto at = std::find_if(lineUp.phases.begin(), lineUp.phases.end(), [&](const FoundPhase& p) {
        return p.matched && time > p.begin && time <= p.time;
    });
    return at != lineUp.phases.end() ? *at : lineUp.phaseAt(time);
}

/// A phase that begins at some time, after the phase before it, where that was found.
PhaseSpan spanOf(const FoundPhase& p, double begin, const FoundPhase* before)
{
    return {begin,
            p.time,
            p.lead,
            p.heading,
            before ? before->begin : begin,
            p.stance == StanceKind::OneLeg,
            handsMeetFoot(p.stance)};
}

bool isReadFromSide(const PlacedClip& clip, const FoundPhase& p)
{
    return seenFromSide(clip.camera.azimuthFrom(clip.priorAt(p.time, p).points), p.heading);
}

} // namespace

BodyMotion motionOf(const PlacedClip& clip)
{
    const auto& frames = clip.track.frames;
    BodyMotion motion{clip.track.framesPerSecond,
                      {},
                      std::vector<BodyPoints>(frames.size()),
                      std::vector<Eigen::Vector3d>(frames.size(), Eigen::Vector3d::Zero())};
    for (const BodyFrame& f : frames)
        motion.time.push_back(f.time);
    std::vector<bool> fromSide;
    for (const FoundPhase& p : clip.lineUp.phases)
        fromSide.push_back(isReadFromSide(clip, p));
    inParallel(frames.size(), [&](std::size_t i) {
        const FoundPhase& phase = phaseUnderWay(clip.lineUp, frames[i].time);
        MomentPrior prior = clip.priorAt(frames[i].time, phase);
        prior.fromSide = fromSide[static_cast<std::size_t>(&phase - clip.lineUp.phases.data())];
        motion.frames[i] = frames[i].seen ? clip.measurer->place(frames[i], prior) : nowhere();
        if (frames[i].seen) motion.unseenShift[i] = clip.measurer->unseenShift(motion.frames[i], prior);
    });
    return motion;
}

ExpectedSteps expectedSteps(const PlacedClip& clip)
{
    const ModelPerformance& model = clip.model;
    const BodyLengths flat = BodyLengths::usual(model.height);
    ExpectedSteps expected;
    for (Side side : {Side::Left, Side::Right}) {
        const auto inAir = [&](double t) {
            const BodyPoints& p = model.at(t);
            return p[index(sided(Landmark::LeftHeel, side))].z() > flat.heel + kOptions.offFloor &&
                   p[index(sided(Landmark::LeftToe, side))].z() > flat.toe + kOptions.offFloor;
        };
        for (const BodyFrame& f : clip.track.frames) {
            const double now = clip.lineUp.modelTimeAt(f.time);
            bool steps = false;
            for (double t = now - kOptions.stepLeeway; t <= now + kOptions.stepLeeway && !steps;
                 t += kOptions.stepSampling)
                steps = inAir(std::clamp(t, 0.0, model.duration()));
            expected[static_cast<std::size_t>(side)].push_back(steps);
        }
    }
    return expected;
}

WholePhases measureWholePhases(const PlacedClip& clip, const AccuracyTable& accuracy)
{
    const PhaseCourses courses(motionOf(clip), clip.lengths, expectedSteps(clip));
    const std::vector<FoundPhase>& phases = clip.lineUp.phases;
    WholePhases whole{courses.contact().footEvents, courses.contact().leaps,
                      std::vector<std::vector<PhaseValue>>(phases.size())};
    const auto beforeOf = [&](std::size_t i) {
        return i > 0 && phases[i - 1].matched ? &phases[i - 1] : nullptr;
    };
    inParallel(phases.size(), [&](std::size_t i) {
        const FoundPhase& p = phases[i];
        if (!isShownWhole(clip, p)) return;
        const MomentPrior prior = clip.priorAt(p.time);
        const double azimuth = clip.camera.azimuthFrom(prior.points);
        const std::string_view view = viewName(viewOf(azimuth, p.heading, p.lead));
        whole.values[i] =
            rated(courses.measure(spanOf(p, p.begin, beforeOf(i)),
                                  isReadFromSide(clip, p) ? rightOf(p.heading) : forwardOf(p.heading)),
                  view, view, supported(Measure::WeightLead, azimuth, prior), accuracy);
    });
    return whole;
}

std::vector<std::vector<PhaseValue>> measureWholePhases(const TwoViewMeasurer& measurer,
                                                        std::span<const MeasuredPhase> phases,
                                                        const ClipReading& first, const ClipReading& second,
                                                        const AccuracyTable& accuracy)
{
    const double offset = measurer.cameras().offset;
    const double astray = kOptions.legsApart * first.profile.heightOrUsual() / 1.70;
    BodyMotion motion;
    motion.framesPerSecond = first.track.framesPerSecond;
    for (const BodyFrame& a : first.track.frames) {
        const BodyFrame b = frameAt(second.track, a.time + offset);
        motion.time.push_back(a.time);
        motion.frames.push_back(nowhere());
        if (!a.seen || !b.seen) continue;
        const TwoViewMeasurer::Placed body = measurer.place(a, b);
        if (body.worstOfLegs() < astray) motion.frames.back() = measurer.withHipLine(body.points);
    }
    const PhaseCourses courses(std::move(motion), first.lengths, expectedSteps(first));
    std::vector<std::vector<PhaseValue>> whole(phases.size());
    const FoundPhase* before = nullptr; // where it was found
    for (std::size_t i = 0; i < phases.size(); ++i) {
        const FoundPhase& p = phases[i].phase;
        if (isShownWhole(first, p))
            whole[i] = rated(courses.measure(spanOf(p, before ? before->left() : p.begin, before), {}),
                             viewName(View::Both), measurer.viewsOf(first.priorAt(p.time)), true, accuracy);
        before = p.matched ? &p : nullptr;
    }
    return whole;
}

std::vector<PhaseCourses::Values> wholePhases(const ModelPerformance& model)
{
    BodyMotion motion{model.framesPerSecond, {}, model.frames, {}};
    for (std::size_t i = 0; i < model.frames.size(); ++i)
        motion.time.push_back(static_cast<double>(i) / model.framesPerSecond);
    const PhaseCourses courses(std::move(motion), BodyLengths::usual(model.height));
    std::vector<PhaseCourses::Values> out(model.phases.size());
    inParallel(out.size(), [&](std::size_t i) {
        const ModelPerformance::Phase& p = model.phases[i];
        const auto arrived = [&](std::size_t back) { return i >= back ? model.phases[i - back].time : 0; };
        out[i] = courses.measure({arrived(1), p.time, p.lead, p.heading, arrived(2),
                                  p.stance == StanceKind::OneLeg, handsMeetFoot(p.stance)},
                                 {});
    });
    return out;
}

} // namespace jl
