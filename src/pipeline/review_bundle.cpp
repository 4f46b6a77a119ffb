#include "pipeline/review_bundle.h"
#include "base/angles.h"
#include "measure/measure_value.h"
#include "pipeline/form_fit.h"
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
    return frame.seen ? clip.reader->place(frame, prior) : prior.points;
}

/// Reads the second view; what stands in the way, in words, if it cannot be used.
std::string addSecond(ReviewBundle& b, Track track, std::span<const ModelPerformance> models,
                      const MeasuringTables& tables)
{
    std::vector<ModelPerformance> sameSide;
    for (const ModelPerformance& m : models)
        if (m.lead == b.student.lead()) sameSide.push_back(m);
    auto second = readClip(std::move(track), sameSide, b.student.profile, tables);
    if (!second) return second.error().what;
    b.second = std::move(*second);
    agreeOnOrder(b.student, *b.second, models, tables);
    auto pair = readTogether(b.student, *b.second, tables);
    if (pair) b.together = std::move(*pair);
    for (std::size_t i = 0; i < b.student.phases.size(); ++i) {
        const FoundPhase &one = b.student.phases[i].phase, &other = b.second->phases[i].phase;
        if (one.matched && other.matched &&
            (b.secondTimes.empty() ||
             (one.time > b.secondTimes.back().first && other.time > b.secondTimes.back().second)))
            b.secondTimes.emplace_back(one.time, other.time);
    }
    return {};
}

FloorPath referencePathOf(const ReviewBundle& b)
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

double ReviewBundle::referenceTimeAt(double studentTime) const
{
    return clampTo(along(keyTimes, studentTime, true), 0, referenceDuration);
}

double ReviewBundle::secondTimeAt(double studentTime) const
{
    return second ? clampTo(along(secondTimes, studentTime, true), 0, second->track.duration()) : studentTime;
}

double ReviewBundle::studentTimeAt(double referenceTime) const
{
    return clampTo(along(keyTimes, referenceTime, false), 0, student.track.duration());
}

double ReviewBundle::leadShareAt(double studentTime) const
{
    return shareAt(studentWeight, studentTime);
}

double ReviewBundle::referenceLeadShareAt(double referenceTime) const
{
    return shareAt(referenceWeight, referenceTime);
}

BodyPoints ReviewBundle::studentBodyAt(double studentTime) const
{
    return bodyIn(student, studentTime);
}

BodyPoints ReviewBundle::referenceBodyAt(double studentTime) const
{
    const double time = referenceTimeAt(studentTime);
    return reference ? bodyIn(*reference, time)
                     : student.model.scaledTo(student.profile.heightOrUsual(), time);
}

BodyPoints ReviewBundle::referenceOverAt(double studentTime) const
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

Result<std::shared_ptr<const ReviewBundle>> makeBundle(const ShippedData& data, BundleRequest request)
{
    const auto models = data.models(request.form, request.school, {}, request.limits);
    if (!models) return models.error();
    auto student = readClip(withRepairs(request.student, request.known.repairs), *models,
                            request.studentProfile, data.tables, {}, request.known.hints);
    if (!student)
        return withLikelierForm(student.error(), data, request.student, request.school, request.form);
    auto bundle = std::make_shared<ReviewBundle>();
    bundle->student = std::move(*student);
    if (request.reference) {
        auto reference =
            readClip(std::move(*request.reference), *models, request.referenceProfile, data.tables);
        if (!reference) return reference.error();
        bundle->reference = std::move(*reference);
    }
    std::string secondTrouble;
    if (request.second) secondTrouble = addSecond(*bundle, std::move(*request.second), *models, data.tables);
    ReviewRequest ask{request.form,
                      request.school,
                      request.level,
                      &bundle->student,
                      bundle->second ? &*bundle->second : nullptr,
                      bundle->reference ? &*bundle->reference : nullptr,
                      bundle->together ? &*bundle->together : nullptr,
                      request.yardstick,
                      request.limits,
                      request.memory};
    auto review = makeReview(data.standards, data.rules, ask);
    if (!review) return review.error();
    bundle->review = std::move(*review);
    if (!secondTrouble.empty())
        bundle->review.notes.push_back("The second view was left out: " + secondTrouble + ".");
    bundle->earlier = std::move(request.earlier);
    if (!bundle->earlier.empty())
        bundle->progress = progressSince(bundle->earlier.back(), recordOf(bundle->review), data.rules);
    bundle->studentPath = floorPath(bundle->student);
    bundle->referencePath = referencePathOf(*bundle);
    bundle->studentWeight = weightOf(bundle->student);
    bundle->referenceWeight =
        bundle->reference ? weightOf(*bundle->reference) : weightOf(bundle->student.model);
    bundle->referenceDuration =
        bundle->reference ? bundle->reference->track.duration() : bundle->student.model.duration();
    for (const ReviewedPosture& posture : bundle->review.postures)
        for (const ReviewedPhase& p : posture.phases)
            if (p.student.matched && p.referenceTime &&
                (bundle->keyTimes.empty() || (p.student.time > bundle->keyTimes.back().first &&
                                              *p.referenceTime > bundle->keyTimes.back().second)))
                bundle->keyTimes.emplace_back(p.student.time, *p.referenceTime);
    return std::shared_ptr<const ReviewBundle>(std::move(bundle));
}

} // namespace jl
