#include "pipeline/review_scene.h"
#include "base/angles.h"
#include "measure/measure_value.h"
#include <Eigen/Geometry>
#include <algorithm>

namespace jl
{
namespace
{

double along(const std::vector<std::pair<double, double>>& pairs, double x, bool forward)
{
    const auto key = [&](std::size_t i) { return forward ? pairs[i].first : pairs[i].second; };
    const auto value = [&](std::size_t i) { return forward ? pairs[i].second : pairs[i].first; };
    if (pairs.empty()) return x;
    if (x <= key(0)) return value(0) + x - key(0);
    for (std::size_t i = 1; i < pairs.size(); ++i) {
        if (x > key(i)) continue;
        return mix(value(i - 1), value(i), (x - key(i - 1)) / std::max(1e-9, key(i) - key(i - 1)));
    }
    return value(pairs.size() - 1) + x - key(pairs.size() - 1);
}

WeightCourse weightOf(const ClipReading& clip)
{
    WeightCourse course;
    constexpr std::size_t most = 800; // moments: as many as a screen is wide
    const std::size_t step =
        std::max({std::size_t(1), static_cast<std::size_t>(clip.track.framesPerSecond / 10),
                  clip.track.frames.size() / most});
    for (std::size_t i = 0; i < clip.track.frames.size(); i += step) {
        course.time.push_back(clip.track.frames[i].time);
        const auto weight = clip.valueAt(i, Measure::WeightLead);
        course.share.push_back(weight ? std::optional(clampTo(*weight / 100, 0, 1)) : std::nullopt);
    }
    return course;
}

WeightCourse weightOf(const ModelPerformance& model)
{
    WeightCourse course;
    for (double t = 0; t <= model.duration(); t += 0.1) {
        course.time.push_back(t);
        const ModelPerformance::Phase& p = model.phaseAt(t);
        course.share.emplace_back(
            clampTo(measureValue(Measure::WeightLead, model.at(t), {}, p.lead, p.heading) / 100, 0, 1));
    }
    return course;
}

/// The points of a body scaled about the room's origin.
BodyPoints scaled(BodyPoints points, double by)
{
    for (Eigen::Vector3d& p : points)
        p *= by;
    return points;
}

Eigen::Vector3d feetMiddle(const BodyPoints& p)
{
    using enum Landmark;
    Eigen::Vector3d middle =
        0.25 * (p[index(LeftHeel)] + p[index(RightHeel)] + p[index(LeftToe)] + p[index(RightToe)]);
    middle.z() = 0;
    return middle;
}

BodyPoints bodyIn(const ClipReading& clip, double time)
{
    const BodyFrame& frame = clip.track.frames[clip.track.nearest(time)];
    const MomentPrior prior = clip.priorAt(time);
    return frame.seen ? clip.measurer->place(frame, prior) : prior.points;
}

/// Pairs of key moments that both clips show, both times rising.
void addPair(std::vector<std::pair<double, double>>& pairs, double first, double second)
{
    if (pairs.empty() || (first > pairs.back().first && second > pairs.back().second))
        pairs.emplace_back(first, second);
}

FloorPath referencePathOf(const ReviewScene& b)
{
    const double height = b.student.profile.heightOrUsual();
    if (!b.reference) return floorPath(b.student.model, height);
    FloorPath path = floorPath(*b.reference);
    const double ratio = height / b.reference->profile.heightOrUsual();
    for (PathStop& stop : path) {
        stop.hips *= ratio;
        for (Footprint& f : stop.feet) {
            f.heel *= ratio;
            f.toe *= ratio;
        }
    }
    return path;
}

double shareAt(const WeightCourse& course, double time)
{
    const auto at = std::lower_bound(course.time.begin(), course.time.end(), time);
    if (at == course.time.end()) return 0.5;
    return course.share[static_cast<std::size_t>(at - course.time.begin())].value_or(0.5);
}

} // namespace

double ReviewScene::referenceTimeAt(double studentTime) const
{
    return clampTo(along(keyTimes, studentTime, true), 0, referenceDuration);
}

double ReviewScene::secondTimeAt(double studentTime) const
{
    return second ? clampTo(along(secondTimes, studentTime, true), 0, second->track.duration()) : studentTime;
}

double ReviewScene::studentTimeAt(double referenceTime) const
{
    return clampTo(along(keyTimes, referenceTime, false), 0, student.track.duration());
}

double ReviewScene::leadShareAt(double studentTime) const
{
    return shareAt(studentWeight, studentTime);
}

double ReviewScene::referenceLeadShareAt(double referenceTime) const
{
    return shareAt(referenceWeight, referenceTime);
}

BodyPoints ReviewScene::studentBodyAt(double studentTime) const
{
    return bodyIn(student, studentTime);
}

BodyPoints ReviewScene::referenceBodyAt(double studentTime) const
{
    const double time = referenceTimeAt(studentTime);
    return reference ? bodyIn(*reference, time)
                     : student.model.scaledTo(student.profile.heightOrUsual(), time);
}

BodyPoints ReviewScene::referenceOverAt(double studentTime) const
{
    const double ratio = reference ? student.profile.heightOrUsual() / reference->profile.heightOrUsual() : 1;
    BodyPoints over = scaled(referenceBodyAt(studentTime), ratio);
    const double turn = reference ? student.lineUp.phaseAt(studentTime).heading -
                                        reference->lineUp.phaseAt(referenceTimeAt(studentTime)).heading
                                  : student.lineUp.phaseAt(studentTime).turned;
    const Eigen::Vector3d from = feetMiddle(over), to = feetMiddle(studentBodyAt(studentTime));
    const Eigen::AngleAxisd clockwise(-turn * kRadPerDeg, Eigen::Vector3d::UnitZ());
    for (Eigen::Vector3d& p : over)
        p = to + clockwise * (p - from);
    return over;
}

std::shared_ptr<const ReviewScene> sceneOf(FinishedReview finished)
{
    auto scene = std::make_shared<ReviewScene>();
    static_cast<FinishedReview&>(*scene) = std::move(finished);
    const ClipReading& student = scene->student;
    if (scene->second)
        for (std::size_t i = 0; i < student.phases.size(); ++i) {
            const FoundPhase &one = student.phases[i].phase, &other = scene->second->phases[i].phase;
            if (one.matched && other.matched) addPair(scene->secondTimes, one.time, other.time);
        }
    scene->studentPath = floorPath(student);
    scene->referencePath = referencePathOf(*scene);
    scene->studentWeight = weightOf(student);
    scene->referenceWeight = scene->reference ? weightOf(*scene->reference) : weightOf(student.model);
    scene->referenceDuration =
        scene->reference ? scene->reference->track.duration() : student.model.duration();
    for (const ReviewedPosture& posture : scene->review.postures)
        for (const ReviewedPhase& p : posture.phases)
            if (p.student.matched && p.referenceTime)
                addPair(scene->keyTimes, p.student.time, *p.referenceTime);
    return scene;
}

} // namespace jl
