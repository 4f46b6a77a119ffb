#include "app/review/bench/bench_overlay.h"
#include "app/review/paint/words.h"
#include "app/theme/mark.h"
#include "draw/floor_fan.h"

namespace jl
{
namespace
{

/// Eighths of a turn on the floor as a picture's own camera sees them, the posture's direction first; empty
/// where it is not known.
std::vector<QLineF> fanIn(const ReviewScene& scene, BenchPicture picture, const PerformerFilm& performer,
                          double time)
{
    if (picture == BenchPicture::SecondView) return {};
    const bool reference = picture == BenchPicture::Reference;
    if (reference && !scene.reference) {
        if (!performer.bodyAt) return {};
        return floorFan(performer.bodyAt(time), performer.camera, Eigen::Vector2d::Zero(),
                        scene.student.model.phaseAt(time).heading);
    }
    const ClipReading& clip = reference ? *scene.reference : scene.student;
    const BodyFrame& frame = clip.track.frames[clip.track.nearest(time)];
    if (!frame.seen) return {};
    const MomentPrior prior = clip.priorAt(time);
    return floorFan(clip.measurer->place(frame, prior), clip.camera.camera, frame.cameraShift, prior.heading);
}

/// A body in a camera's pictures, and where its posture's force goes from the middle of the trunk; null where
/// it stays inside.
QLineF forceFrom(const BodyPoints& body, const Camera& camera, const Eigen::Vector2d& shift,
                 const Eigen::Vector3d& direction)
{
    constexpr double size = 0.6; // m
    Eigen::Vector3d middle = Eigen::Vector3d::Zero();
    for (Landmark l :
         {Landmark::LeftHip, Landmark::RightHip, Landmark::LeftShoulder, Landmark::RightShoulder})
        middle += 0.25 * body[index(l)];
    const auto pixel = [&](const Eigen::Vector3d& p) {
        const Eigen::Vector2d at = camera.project(p) + shift;
        return QPointF(at.x(), at.y());
    };
    return {pixel(middle), pixel(middle + size * direction)};
}

/// Shown where the posture arrives: in its last phase.
QLineF forceOf(const Playhead& playhead, BenchPicture picture, const PerformerFilm& performer, double time)
{
    const ReviewScene& scene = *playhead.scene();
    const auto [place, phase] = playhead.phase();
    if (picture == BenchPicture::SecondView || place >= scene.review.postures.size()) return {};
    const ReviewedPosture& posture = scene.review.postures[place];
    if (phase + 1 != posture.phases.size() || !posture.purpose.goesSomewhere()) return {};
    const FoundPhase& at = posture.phases[phase].student;
    const auto& [ahead, out, up] = posture.purpose.direction;
    const auto inRoom = [&, ahead = ahead, out = out, up = up](double heading) -> Eigen::Vector3d {
        return ahead * forwardOf(heading) + (at.lead == Side::Right ? out : -out) * rightOf(heading) +
               up * Eigen::Vector3d::UnitZ();
    };
    if (picture == BenchPicture::Reference && !scene.reference) {
        if (!performer.bodyAt) return {};
        return forceFrom(performer.bodyAt(time), performer.camera, Eigen::Vector2d::Zero(),
                         inRoom(scene.student.model.phaseAt(time).heading));
    }
    const ClipReading& clip = picture == BenchPicture::Reference ? *scene.reference : scene.student;
    const BodyFrame& frame = clip.track.frames[clip.track.nearest(time)];
    if (!frame.seen) return {};
    const MomentPrior prior = clip.priorAt(time);
    return forceFrom(clip.measurer->place(frame, prior), clip.camera.camera, frame.cameraShift,
                     inRoom(prior.heading));
}

/// The reference on the student's feet as the student's camera would see it.
BodyFrame laidOver(const ReviewScene& scene, double studentTime)
{
    const BodyPoints points = scene.referenceOverAt(studentTime);
    BodyFrame steady;
    const Track& track = scene.student.track;
    const BodyFrame& student = track.frames[track.nearest(studentTime)];
    steady.seen = student.seen;
    steady.cameraShift = student.cameraShift;
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        steady.point[i] = scene.student.camera.camera.project(points[i]);
    return asFilmed(steady);
}

const Track& trackOf(const ReviewScene& scene, BenchPicture picture, const PerformerFilm& performer)
{
    switch (picture) {
    case BenchPicture::Student:
        return scene.student.track;
    case BenchPicture::SecondView:
        return scene.second->track;
    case BenchPicture::Reference:
        break;
    }
    return scene.reference ? scene.reference->track : performer.track;
}

Side leadOf(const ReviewScene& scene, BenchPicture picture, double studentTime, double time)
{
    if (picture != BenchPicture::Reference) return scene.student.leadAt(studentTime);
    return scene.reference ? scene.reference->leadAt(time) : scene.student.model.phaseAt(time).lead;
}

QString studentVerdict(Measure measure, const JudgedValue& v)
{
    if (v.status != Status::Unseen)
        return spokenValue(measure, v.value.value) + " ± " + valueText(measure, 2 * v.value.u);
    return v.value.view == View::Both ? PictureView::tr("cannot tell, even from both clips")
                                      : PictureView::tr("cannot tell from this view");
}

} // namespace

BenchOverlay benchOverlay(const Playhead& playhead, BenchPicture picture, BenchMode mode,
                          const PerformerFilm& performer, const Theme& theme)
{
    const ReviewScene& scene = *playhead.scene();
    const bool reference = picture == BenchPicture::Reference;
    const double now = playhead.time();
    BenchOverlay out;
    out.time = reference                             ? playhead.referenceTime()
               : picture == BenchPicture::SecondView ? scene.secondTimeAt(now)
                                                     : now;
    PictureView::Overlay& o = out.overlay;
    const Track& track = trackOf(scene, picture, performer);
    if (!track.frames.empty()) o.body = asFilmed(track.frames[track.nearest(out.time)]);
    o.lead = leadOf(scene, picture, now, out.time);
    o.leadShare = reference ? scene.referenceLeadShareAt(out.time) : scene.leadShareAt(now);
    if (picture == BenchPicture::Student && mode == BenchMode::Over) o.laidOver = laidOver(scene, now);
    if (reference) o.force = forceOf(playhead, picture, performer, out.time);
    const ReviewedPhase* phase = playhead.currentPhase();
    if (!phase || phase->values.empty()) return out;
    const Measure measure = playhead.measure();
    const JudgedValue& v = phase->values[static_cast<std::size_t>(measure)];
    const bool seen = v.status != Status::Unseen;
    if (seen)
        o.construction =
            Construction{measure, o.lead, theme.pine, fanIn(scene, picture, performer, out.time)};
    if (reference) {
        if (v.reference && (scene.review.builtInReference || seen))
            out.verdict = spokenValue(measure, *v.reference);
        return out;
    }
    const auto [posture, place] = playhead.phase();
    if (o.construction) o.construction->colour = markColour(markOf(scene.review, posture, place, v), theme);
    out.verdict = studentVerdict(measure, v);
    return out;
}

} // namespace jl
