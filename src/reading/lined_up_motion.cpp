#include "reading/lined_up_motion.h"
#include "base/angles.h"
#include "measure/measure_value.h"
#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

using Eigen::Vector3d;
constexpr std::array kNeeded{
    Landmark::LeftShoulder, Landmark::RightShoulder, Landmark::LeftElbow, Landmark::RightElbow,
    Landmark::LeftWrist,    Landmark::RightWrist,    Landmark::LeftHip,   Landmark::RightHip,
    Landmark::LeftKnee,     Landmark::RightKnee,     Landmark::LeftAnkle, Landmark::RightAnkle,
    Landmark::LeftHeel,     Landmark::RightHeel,     Landmark::LeftToe,   Landmark::RightToe};

/// Turns and moves the whole so that the first half second faces heading 0 over the origin.
void faceForward(BodyMotion& motion)
{
    Vector3d across = Vector3d::Zero(), feet = Vector3d::Zero();
    int n = 0;
    for (std::size_t i = 0; i < motion.frames.size() && motion.time[i] <= motion.time[0] + 0.5; ++i, ++n) {
        const BodyPoints& p = motion.frames[i];
        across += p[index(Landmark::RightHip)] - p[index(Landmark::LeftHip)];
        feet += 0.5 * (p[index(Landmark::LeftAnkle)] + p[index(Landmark::RightAnkle)]);
    }
    feet /= n;
    feet.z() = 0;
    const double facing = std::atan2(across.x(), across.y()) - std::numbers::pi / 2; // heading, rad
    const Eigen::AngleAxisd turn(facing, Vector3d::UnitZ());
    for (BodyPoints& points : motion.frames)
        for (Vector3d& p : points)
            p = turn * (p - feet);
}

/// The motion as a camera on the performer's right, looking a little down from the front, would see it.
Track seenFromTheCorner(const BodyMotion& motion)
{
    constexpr double azimuth = 50;
    Track track;
    track.width = 1280;
    track.height = 720;
    track.framesPerSecond = motion.framesPerSecond;
    track.model = "exact";
    const Camera camera = Camera::looking({0, 0, 0.9}, azimuth, 5, 30); // far off: no perspective
    for (std::size_t i = 0; i < motion.frames.size(); ++i) {
        BodyFrame f;
        f.time = motion.time[i] - motion.time[0];
        f.seen = std::all_of(kNeeded.begin(), kNeeded.end(),
                             [&](Landmark l) { return motion.frames[i][index(l)].allFinite(); });
        f.score = 1;
        f.visibility.fill(1);
        const BodyPoints& p = motion.frames[i];
        for (std::size_t k = 0; f.seen && k < kLandmarkCount; ++k) {
            // Points of the head that are not marked stand for nothing but must be somewhere.
            const Vector3d neck =
                0.5 * (p[index(Landmark::LeftShoulder)] + p[index(Landmark::RightShoulder)]);
            f.point[k] = camera.project(p[k].allFinite() ? p[k] : Vector3d(neck + Vector3d(0, 0, 0.2)));
        }
        track.frames.push_back(f);
    }
    return track;
}

} // namespace

double LinedUpMotion::value(Measure m, std::size_t frame) const
{
    const FoundPhase& phase = lineUp.phaseAt(motion.time[frame]);
    return measureValue(m, motion.frames[frame], lengths, phase.lead, phase.heading);
}

Result<LinedUpMotion> lineUpMotion(BodyMotion motion, std::span<const ModelPerformance> models,
                                   const PersonProfile& profile)
{
    if (motion.frames.empty())
        return Error{Error::Kind::BadInput, "there is no motion", "", "Export the markers again."};
    faceForward(motion);
    const double begin = motion.time.front();
    for (double& t : motion.time)
        t -= begin;
    auto found = lineUp(smoothed(seenFromTheCorner(motion)), models, 50.0);
    if (!found) return found.error();
    LinedUpMotion reading{std::move(motion), std::move(*found), BodyLengths::usual(profile.heightOrUsual())};
    return reading;
}

} // namespace jl
