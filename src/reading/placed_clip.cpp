#include "reading/placed_clip.h"
#include "base/angles.h"
#include "base/median.h"
#include "base/units.h"
#include "body/motion.h"
#include "lineup/body_lines.h"
#include "lineup/leg_swaps.h"
#include "measure/measure_value.h"
#include "reading/walked_floor.h"
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <string>

namespace jl
{
namespace
{

/// Options of lining up and placing a clip.
/// Chosen on: the quick set (validate --quick).
struct PlacedClipOptions {
    /// What lasts longer may be a posture done on the other side instead of a swap. x0.5 and x2: none.
    Seconds longSwap = 2;
    /// Of the frames; below it the clip and not the form is at fault. x0.5 and x2: none.
    Share oftenSeen = 0.6;
    /// Narrowest field of view that a file may claim. x0.5 and x2: none.
    Degrees narrowLens = 15;
    /// Widest field of view that a file may claim. x0.5 and x2: none.
    Degrees wideLens = 130;
    /// Standard deviation of a claimed field of view: phones crop to steady a picture. x0.5 and x2: none.
    Ratio lensSpread = 0.06;
};
constexpr PlacedClipOptions kOptions;

/// Lines the steadied track up with the best of the models, with swapped legs corrected.
Result<LinedUpClip> followForm(Track steady, std::span<const ModelPerformance> models,
                               std::optional<double> azimuthHint)
{
    LinedUpClip clip;
    clip.track = smoothed(steady);
    auto rough = roughLineUp(clip.track, models, azimuthHint);
    if (!rough) return rough.error();
    const auto putRight = [&](const std::vector<bool>& swapped) {
        if (std::find(swapped.begin(), swapped.end(), true) == swapped.end()) return;
        steady = withLegsUnswapped(std::move(steady), swapped);
        clip.track = smoothed(steady);
    };
    putRight(spellsWithin(kOptions.longSwap, swappedLegs(steady, *rough, models[rough->model]), steady));
    auto found = lineUpFrom(*rough, clip.track, models);
    if (!found) return found.error();
    clip.model = models[found->model];
    const std::vector<bool> swapped = swappedLegs(steady, *found, clip.model);
    putRight(swapped);
    if (swapped != spellsWithin(kOptions.longSwap, swapped, steady)) {
        found = lineUpFrom(*found, clip.track, models);
        if (!found) return found.error();
        clip.model = models[found->model];
    }
    clip.lineUp = std::move(*found);
    return clip;
}

/// Why the form cannot be followed: the clip's own fault where it has one.
Error notFollowed(const Error& error, const Framing& framing, double seenShare, const std::string& clip)
{
    std::string trouble = framingTrouble(framing);
    if (trouble.empty() && seenShare < kOptions.oftenSeen)
        trouble =
            "a body is found in only " + std::to_string(std::lround(100 * seenShare)) + " % of the clip";
    if (trouble.empty()) return error;
    return {Error::Kind::NothingFound, trouble + ", so that the form cannot be followed", clip,
            "Step back or hold the phone upright, so that head and feet are seen all the time."};
}

/// The hints with what file and picture say of the camera. The file's lens counts where nobody gives one, and
/// less, for phones steady their pictures by cropping them.
CalibrationHints withCamera(CalibrationHints hints, const Track& track)
{
    hints.roll = askewBy(track);
    if (hints.fieldOfView || !track.fieldOfView || *track.fieldOfView < kOptions.narrowLens ||
        *track.fieldOfView > kOptions.wideLens)
        return hints;
    hints.fieldOfView = track.fieldOfView;
    hints.fieldSpread = kOptions.lensSpread;
    return hints;
}

CalibratedCamera placeCamera(const PlacedClip& clip, const LandmarkOffsets& offsets,
                             const CalibrationHints& hints)
{
    StandingView view = standingView(clip);
    // The fit assumes a camera that looks about at the origin; a clip that begins later shows the body
    // elsewhere.
    Eigen::Vector3d place =
        0.5 * (view.body[index(Landmark::LeftHip)] + view.body[index(Landmark::RightHip)]);
    place.z() = 0;
    if (place.norm() < 0.2) place.setZero(); // the opening itself
    for (Eigen::Vector3d& p : view.body)
        p -= place;
    auto camera = calibrate({view.standing, clip.track.width, clip.track.height}, view.body,
                            view.azimuthGuess, clip.profile, offsets, hints);
    camera.camera.position += place;
    if (standingPhase(clip.lineUp).stance != StanceKind::Parallel) {
        camera.scaleSpread = std::hypot(camera.scaleSpread, 0.03);
        camera.elevationSpread = std::max(camera.elevationSpread, 2.0);
    }
    return camera;
}

/// The usual lengths for the height, with the hips and ears where they stand in the opening: proportions
/// differ between people, and shares refer to one's own.
BodyLengths lengthsInStanding(const PlacedClip& clip)
{
    BodyLengths lengths = BodyLengths::usual(clip.profile.heightOrUsual());
    const FoundPhase& stand = standingPhase(clip.lineUp);
    if (stand.stance != StanceKind::Parallel) return lengths;
    MomentPrior prior = clip.priorAt(stand.time);
    prior.lengths = lengths;
    const std::vector<BodyFrame> standing = standingView(clip).standing;
    const auto ownShare = [&](Measure m) { // of the student against the model in the same pose
        const auto value = [&](const BodyPoints& points) {
            return measureValue(m, points, lengths, prior.lead, prior.heading);
        };
        std::vector<double> own;
        own.reserve(standing.size());
        for (const BodyFrame& f : standing)
            own.push_back(value(clip.measurer->place(f, prior)));
        return own.empty() ? 1 : std::clamp(median(std::move(own)) / value(prior.points), 0.85, 1.15);
    };
    lengths.standingHip *= ownShare(Measure::PelvisHeight);
    lengths.shoulderToEar *=
        0.5 * (ownShare(Measure::ShoulderLeadRaise) + ownShare(Measure::ShoulderRearRaise));
    return lengths;
}

Eigen::Vector3d driftAt(const Drift& drift, double time)
{
    if (drift.empty()) return Eigen::Vector3d::Zero();
    const auto next = std::lower_bound(drift.begin(), drift.end(), time,
                                       [](const auto& d, double t) { return d.first < t; });
    if (next == drift.begin()) return next->second;
    if (next == drift.end()) return drift.back().second;
    const auto before = std::prev(next);
    const double share = (time - before->first) / std::max(1e-9, next->first - before->first);
    return before->second + share * (next->second - before->second);
}

/// Clockwise from above.
BodyPoints turnedAboutHips(BodyPoints points, double deg)
{
    const Eigen::Vector3d middle =
        0.5 * (points[index(Landmark::LeftHip)] + points[index(Landmark::RightHip)]);
    const Eigen::AngleAxisd turn(-deg * kRadPerDeg, Eigen::Vector3d::UnitZ());
    for (Eigen::Vector3d& p : points)
        p = middle + turn * (p - middle);
    return points;
}

} // namespace

MomentPrior PlacedClip::priorAt(double clipTime, const FoundPhase& phase) const
{
    BodyPoints points = model.scaledTo(profile.heightOrUsual(), lineUp.modelTimeAt(clipTime));
    if (phase.turned != 0) points = turnedAboutHips(points, phase.turned);
    const Eigen::Vector3d off = driftAt(drift, clipTime);
    for (Eigen::Vector3d& point : points)
        point += off;
    return {points, phase.lead, phase.heading, lengths};
}

std::vector<Value> PlacedClip::measureFrame(std::size_t frame) const
{
    return measurer->measure(track.frames[frame], priorAt(track.frames[frame].time));
}

std::optional<double> PlacedClip::valueAt(std::size_t frame, Measure measure) const
{
    return measurer->value(measure, track.frames[frame], priorAt(track.frames[frame].time));
}

const FoundPhase& standingPhase(const LineUp& lineUp)
{
    for (const FoundPhase& p : lineUp.phases)
        if (p.matched && p.stance == StanceKind::Parallel) return p;
    return *std::min_element(lineUp.phases.begin(), lineUp.phases.end(),
                             [](const FoundPhase& a, const FoundPhase& b) { return a.cost < b.cost; });
}

StandingView standingView(const PlacedClip& clip)
{
    const FoundPhase& stand = standingPhase(clip.lineUp);
    const ModelPictures pictures(clip.model, clip.lineUp.azimuth, clip.lineUp.distance);
    StandingView view{&clip.track,
                      {},
                      clip.model.scaledTo(clip.profile.heightOrUsual(), stand.modelTime),
                      pictures.azimuthFrom(stand.modelTime),
                      clip.lens};
    for (const BodyFrame& f : clip.track.frames)
        if (f.seen && std::abs(f.time - stand.time) <= 0.35) view.standing.push_back(f);
    return view;
}

Result<LinedUpClip> lineUpClip(Track extracted, std::span<const ModelPerformance> models,
                               std::optional<double> azimuthHint)
{
    const Framing framing = framingOf(extracted);
    const double seenShare = extracted.seenShare();
    const std::string name = extracted.clip;
    auto clip = followForm(steadied(std::move(extracted)), models, azimuthHint);
    if (!clip) return notFollowed(clip.error(), framing, seenShare, name);
    clip->framing = framing;
    return clip;
}

PlacedClip placeClip(LinedUpClip lined, const PersonProfile& profile, const MeasuringTables& tables,
                     const CalibrationHints& given)
{
    const CalibrationHints hints = withCamera(given, lined.track);
    PlacedClip clip{std::move(lined), profile, hints.lens(), {}, {}, {}, {}};
    clip.camera = placeCamera(clip, tables.offsets, hints);
    if (!hints.spans.empty() && clip.camera.floorHolds) clip.profile.height = clip.camera.height;
    clip.camera = levelledByFeet(clip, tables.offsets);
    clip.measurer = std::make_shared<const OneViewMeasurer>(clip.camera, clip.profile, tables.offsets,
                                                            tables.accuracy.forNetworks({clip.track.model}));
    LineUp lineUp = std::move(clip.lineUp);
    return withLineUp(std::move(clip), std::move(lineUp), tables.offsets);
}

PlacedClip withLineUp(PlacedClip clip, LineUp lineUp, const LandmarkOffsets& offsets)
{
    clip.lineUp = std::move(lineUp);
    clip.drift.clear();
    clip.lengths = lengthsInStanding(clip);
    clip.drift = driftOf(clip, offsets);
    return clip;
}

} // namespace jl
