#include "reading/clip_reading.h"
#include "base/angles.h"
#include "base/median.h"
#include "base/parallel.h"
#include "body/motion.h"
#include "camera/synchrony.h"
#include "lineup/body_lines.h"
#include "lineup/leg_identity.h"
#include "measure/measure_value.h"
#include "reading/walked_floor.h"
#include "reading/whole_phases.h"
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <string>

namespace jl
{
namespace
{

constexpr int kLeftOut = 3; ///< of the points whose motion is told: a leg astray is no motion

CalibratedCamera placeCamera(const ClipReading& clip, const LandmarkOffsets& offsets,
                             const CalibrationHints& hints)
{
    StandingView view = standingView(clip);
    // A camera is sought that looks about at the origin; a clip that begins later shows the body elsewhere.
    Eigen::Vector3d place =
        0.5 * (view.body[index(Landmark::LeftHip)] + view.body[index(Landmark::RightHip)]);
    place.z() = 0;
    if (place.norm() < 0.2) place.setZero(); // the opening itself
    for (Eigen::Vector3d& p : view.body)
        p -= place;
    auto camera = calibrate(view.standing, clip.track.width, clip.track.height, view.body, view.azimuthGuess,
                            clip.profile, offsets, hints);
    camera.camera.position += place;
    if (standingPhase(clip.lineUp).stance != "parallel") {
        camera.scaleSpread = std::hypot(camera.scaleSpread, 0.03);
        camera.elevationSpread = std::max(camera.elevationSpread, 2.0);
    }
    return camera;
}

/// The usual lengths for the height, with the hips and ears where they stand in the opening: proportions
/// differ between people, and shares are told against one's own.
BodyLengths lengthsInStanding(const ClipReading& clip)
{
    BodyLengths lengths = BodyLengths::usual(clip.profile.heightOrUsual());
    const FoundPhase& stand = standingPhase(clip.lineUp);
    if (stand.stance != "parallel") return lengths;
    MomentPrior prior = clip.priorAt(stand.time);
    prior.lengths = lengths;
    const std::vector<BodyFrame> standing = standingView(clip).standing;
    const auto ownShare = [&](Measure m) { // of the student against the model in the same pose
        const auto value = [&](const BodyPoints& points) {
            return measureValue(m, points, lengths, prior.lead, prior.heading);
        };
        std::vector<double> own;
        for (const BodyFrame& f : standing)
            own.push_back(value(clip.reader->place(f, prior)));
        return own.empty() ? 1 : std::clamp(median(std::move(own)) / value(prior.points), 0.85, 1.15);
    };
    lengths.standingHip *= ownShare(Measure::PelvisHeight);
    lengths.shoulderToEar *=
        0.5 * (ownShare(Measure::ShoulderLeadRaise) + ownShare(Measure::ShoulderRearRaise));
    return lengths;
}

using Values = std::array<double, kMeasureCount>;

/// All measures of a placed body as they count at a moment.
Values measuresOf(const BodyPoints& points, const MomentPrior& moment)
{
    Values values{};
    for (std::size_t m = 0; m < kMeasureCount; ++m)
        values[m] =
            measureValue(static_cast<Measure>(m), points, moment.lengths, moment.lead, moment.heading);
    return values;
}

/// What the arrival itself leaves open; `own` are the measures in its frame.
MomentDoubt doubtOf(const ClipReading& clip, const FoundPhase& phase, const MomentPrior& prior,
                    const Values& own)
{
    MomentDoubt doubt(phase.cost, prior.points);
    for (const double look : MomentDoubt::kLooks) {
        const BodyFrame frame = frameAt(clip.track, phase.time + look);
        if (!frame.seen) continue;
        const Values then = measuresOf(clip.reader->place(frame, clip.priorAt(frame.time, phase)), prior);
        for (std::size_t m = 0; m < kMeasureCount; ++m)
            doubt.addChange(static_cast<Measure>(m), then[m] - own[m], look);
    }
    return doubt;
}

/// The median of each measure over the still window around the arrival.
std::vector<Value> atArrival(const ClipReading& clip, const FoundPhase& phase)
{
    const BodyFrame& middle = clip.track.frames[clip.track.nearest(phase.time)];
    const MomentPrior prior = clip.priorAt(phase.time);
    const Values own = measuresOf(clip.reader->place(middle, prior), prior);
    std::vector<Value> values =
        clip.reader->read(middle, clip.priorAt(middle.time), doubtOf(clip, phase, prior, own));
    std::vector<std::vector<double>> around(values.size());
    for (std::size_t i = clip.track.nearest(phase.time - kHoldWindow / 2);
         i <= clip.track.nearest(phase.time + kHoldWindow / 2); ++i) {
        if (!clip.track.frames[i].seen) continue;
        const Values then = measuresOf(clip.reader->place(clip.track.frames[i], prior), prior);
        for (std::size_t m = 0; m < values.size(); ++m)
            around[m].push_back(then[m]);
    }
    for (std::size_t m = 0; m < values.size(); ++m)
        // The single frame's value holds the bias correction; the median only moves it.
        if (!around[m].empty()) values[m].value += median(std::move(around[m])) - own[m];
    return values;
}

Eigen::Vector3d driftAt(const std::vector<std::pair<double, Eigen::Vector3d>>& drift, double time)
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

Result<MeasuringTables> MeasuringTables::load(const std::filesystem::path& folder)
{
    auto offsets = LandmarkOffsets::load(folder);
    if (!offsets) return offsets.error();
    auto accuracy = AccuracyTable::load(folder);
    if (!accuracy) return accuracy.error();
    return MeasuringTables{std::move(*offsets), std::move(*accuracy)};
}

const FoundPhase& standingPhase(const LineUp& lineUp)
{
    for (const FoundPhase& p : lineUp.phases)
        if (p.matched && p.stance == "parallel") return p;
    return *std::min_element(lineUp.phases.begin(), lineUp.phases.end(),
                             [](const FoundPhase& a, const FoundPhase& b) { return a.cost < b.cost; });
}

StandingView standingView(const ClipReading& clip)
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

MomentPrior ClipReading::priorAt(double clipTime, const FoundPhase& phase) const
{
    BodyPoints points = model.scaledTo(profile.heightOrUsual(), lineUp.modelTimeAt(clipTime));
    if (phase.turned != 0) points = turnedAboutHips(points, phase.turned);
    const Eigen::Vector3d off = driftAt(drift, clipTime);
    for (Eigen::Vector3d& point : points)
        point += off;
    return {points, phase.lead, phase.heading, lengths};
}

std::vector<Value> ClipReading::readFrame(std::size_t frame) const
{
    return reader->read(track.frames[frame], priorAt(track.frames[frame].time));
}

std::optional<double> ClipReading::valueAt(std::size_t frame, Measure measure) const
{
    return reader->value(measure, track.frames[frame], priorAt(track.frames[frame].time));
}

namespace
{

/// Lines the steadied track up with the likeliest of the models, with legs that were taken for each other
/// put right. The clip gets its smoothed track and its model.
Result<LineUp> followForm(ClipReading& clip, Track steady, std::span<const ModelPerformance> models,
                          std::optional<double> azimuthHint)
{
    constexpr double moment = 2; // s; what lasts longer may be a posture done on the other side
    clip.track = smoothed(steady);
    auto rough = roughLineUp(clip.track, models, azimuthHint);
    if (!rough) return rough;
    const auto putRight = [&](const std::vector<bool>& exchanged) {
        if (std::find(exchanged.begin(), exchanged.end(), true) == exchanged.end()) return;
        steady = withLegsPutRight(std::move(steady), exchanged);
        clip.track = smoothed(steady);
    };
    putRight(spellsWithin(moment, exchangedLegs(steady, *rough, models[rough->model]), steady));
    auto found = lineUpFrom(*rough, clip.track, models);
    if (!found) return found;
    clip.model = models[found->model];
    const std::vector<bool> exchanged = exchangedLegs(steady, *found, clip.model);
    putRight(exchanged);
    if (exchanged == spellsWithin(moment, exchanged, steady)) return found;
    found = lineUpFrom(*found, clip.track, models);
    if (found) clip.model = models[found->model];
    return found;
}

/// With what file and picture tell of the camera. What nobody has told of the lens the file tells, not as
/// well, for phones steady their pictures.
CalibrationHints withCamera(CalibrationHints hints, const Track& track)
{
    hints.roll = askewBy(track);
    constexpr double narrow = 15, wide = 130, spread = 0.06; // deg, deg, relative
    if (hints.fieldOfView || !track.fieldOfView || *track.fieldOfView < narrow || *track.fieldOfView > wide)
        return hints;
    hints.fieldOfView = track.fieldOfView;
    hints.fieldSpread = spread;
    return hints;
}

/// All that is measured in a clip that was lined up and whose camera is placed.
void readPhases(ClipReading& clip, const LandmarkOffsets& offsets, const AccuracyTable& accuracy)
{
    clip.lengths = lengthsInStanding(clip);
    followDrift(clip, offsets);
    const double size = standingSize(clip.track), usual = motionQuantile(clip.track, size, 0.5, kLeftOut);
    const auto& found = clip.lineUp.phases;
    std::vector<PhaseReading> phases(found.size());
    inParallel(found.size(), [&](std::size_t i) {
        const FoundPhase& p = found[i];
        phases[i].phase = p;
        if (p.matched) phases[i].values = atArrival(clip, p);
        // In an arrival the body is stiller than usual; elsewhere the line-up has missed it, and nothing read
        // there would be of the posture.
        // The model's mirror picture tells nothing of where this body's points lie.
        if (p.otherSide || motionAt(clip.track, size, p.time, kLeftOut) > usual)
            for (Value& v : phases[i].values)
                v.seen = false;
    });
    clip.phases = std::move(phases);
    readWholePhases(clip, accuracy);
}

/// Why the form cannot be followed: the clip's own fault where it has one.
Error notFollowed(const Error& error, const Framing& framing, double seenShare, const std::string& clip)
{
    constexpr double kOftenSeen = 0.6; // of the frames; below it the clip rather than the form is at fault
    std::string trouble = framingTrouble(framing);
    if (trouble.empty() && seenShare < kOftenSeen)
        trouble =
            "a body is found in only " + std::to_string(std::lround(100 * seenShare)) + " % of the clip";
    if (trouble.empty()) return error;
    return {Error::Kind::NothingFound, trouble + ", so that the form cannot be followed", clip,
            "Step back or hold the phone upright, so that head and feet are seen all the time."};
}

} // namespace

Result<ClipReading> readClip(Track extracted, std::span<const ModelPerformance> models,
                             const PersonProfile& profile, const MeasuringTables& tables,
                             std::optional<double> azimuthHint, const CalibrationHints& given)
{
    ClipReading clip;
    clip.profile = profile;
    clip.framing = framingOf(extracted);
    const CalibrationHints hints = withCamera(given, extracted);
    const double seenShare = extracted.seenShare();
    auto followed = followForm(clip, steadied(std::move(extracted)), models, azimuthHint);
    if (!followed) return notFollowed(followed.error(), clip.framing, seenShare, clip.track.clip);
    clip.lineUp = std::move(*followed);
    clip.lens = hints.lens();
    clip.camera = placeCamera(clip, tables.offsets, hints);
    if (!hints.spans.empty() && clip.camera.floorHolds) clip.profile.height = clip.camera.height;
    levelByFeet(clip, tables.offsets);
    const AccuracyTable accuracy = tables.accuracy.forNetworks({clip.track.model});
    clip.reader = std::make_shared<const PlaneReader>(clip.camera, clip.profile, tables.offsets, accuracy);
    readPhases(clip, tables.offsets, accuracy);
    return clip;
}

void readExpectingDepartures(ClipReading& clip, std::span<const ModelPerformance> models,
                             const MeasuringTables& tables)
{
    const auto is = [&](const ModelPerformance& m) { return m.lead == clip.lead(); };
    LineUp known = clip.lineUp;
    known.model = static_cast<std::size_t>(std::find_if(models.begin(), models.end(), is) - models.begin());
    if (known.model == models.size()) return;
    auto found = lineUpFrom(known, clip.track, models, PostureLook::Expecting);
    if (!found || !found->departs()) return;
    clip.lineUp = std::move(*found);
    readPhases(clip, tables.offsets, tables.accuracy.forNetworks({clip.track.model}));
}

Result<Done> readAsCut(ClipReading& clip, std::span<const PostureCut> cuts, const MeasuringTables& tables)
{
    auto found = lineUpAsCut(clip.lineUp, clip.model, cuts, clip.track.frames.front().time,
                             clip.track.frames.back().time);
    if (!found) return found.error();
    clip.lineUp = std::move(*found);
    readPhases(clip, tables.offsets, tables.accuracy.forNetworks({clip.track.model}));
    return Done{};
}

} // namespace jl
