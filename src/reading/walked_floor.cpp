#include "reading/walked_floor.h"
#include "base/angles.h"
#include "base/median.h"
#include "base/units.h"
#include <Eigen/Geometry>
#include <algorithm>

namespace jl
{
namespace
{

using Eigen::Vector3d;

/// Options of following the floor under a student who walks.
/// Chosen on: not recorded.
struct WalkedFloorOptions {
    /// Standard deviation of the way against the model's, for each metre walked. x0.5 and x2: none.
    Ratio perMetre = 0.08;
    /// Standard deviation of the place of a standing foot. x0.5: err +0.7 %, u -0.6 %; x2: none.
    Metres footSpread = 0.06;
    /// To either side of a key moment. x0.5 and x2: none.
    Seconds window = 0.2;
    /// Height of the model's foot up to which it stands. x0.5 and x2: none.
    Metres onFloor = 0.05;
    /// Steps that count as independent. x0.5 and x2: none.
    Ratio independent = 3;
    /// Squared standard deviations at which one foot is clipped. x0.5 and x2: none.
    Ratio mostOfFoot = 9;
    /// Steps of tilt to either side; twelve reach three standard deviations. x0.5: err +0.8 %; x2: none.
    int tiltSteps = 12;
    /// Least height of a camera. x0.5 and x2: none.
    Metres lowestCamera = 0.3;
    /// Floor of the standard deviation of the tilt. x0.5 and x2: none.
    Degrees leastTiltSpread = 1.2;
    /// Factor of the formal spread: the errors of feet are shared. x0.5: u -1 %; x2: none.
    Ratio sharedError = 1.5;
    /// Beyond it a foot is misread. x0.5 and x2: none.
    Metres mostDrift = 1.5;
};
constexpr WalkedFloorOptions kOptions;

/// Points of feet that stand on the floor in one phase: where they are seen, and where the model has them.
struct Stand {
    double time = 0;   ///< s
    double walked = 0; ///< m, from where the body stood when the camera was placed
    std::vector<std::pair<Eigen::Vector2d, Vector3d>> points;

    /// How far the student stands from the model's place; none where too little of it is seen.
    std::optional<Vector3d> offIn(const Camera& camera) const
    {
        if (points.size() < 4) return {};
        std::array<std::vector<double>, 2> off;
        for (const auto& [pixel, model] : points) {
            const Vector3d seen = camera.onPlane(pixel, Vector3d::UnitZ(), model.z());
            off[0].push_back(seen.x() - model.x());
            off[1].push_back(seen.y() - model.y());
        }
        return Vector3d(median(std::move(off[0])), median(std::move(off[1])), 0);
    }

    double likelyOff() const { return kOptions.perMetre * walked; } ///< m, 1 sd
};

Vector3d modelHip(const PlacedClip& clip, double modelTime)
{
    return clip.model.scaledTo(clip.profile.heightOrUsual(), modelTime)[index(Landmark::LeftHip)];
}

std::vector<Stand> standsOf(const PlacedClip& clip, const LandmarkOffsets& offsets)
{
    using enum Landmark;
    const Vector3d start = modelHip(clip, standingPhase(clip.lineUp).modelTime);
    std::vector<Stand> stands;
    for (const FoundPhase& p : clip.lineUp.phases) {
        if (!p.matched || p.otherSide) continue;
        Stand stand{p.time, (modelHip(clip, p.modelTime) - start).norm(), {}};
        const NetworkPoints expected =
            offsets.toNetwork(clip.priorAt(p.time).points, clip.profile.heightOrUsual());
        for (std::size_t i = clip.track.nearest(p.time - kOptions.window);
             i <= clip.track.nearest(p.time + kOptions.window); ++i) {
            const BodyFrame& f = clip.track.frames[i];
            if (!f.seen) continue;
            for (Landmark l : {LeftHeel, RightHeel, LeftToe, RightToe})
                if (expected[index(l)].z() <= kOptions.onFloor)
                    stand.points.emplace_back(f.at(l), expected[index(l)]);
        }
        stands.push_back(std::move(stand));
    }
    return stands;
}

Camera tilted(Camera camera, const Vector3d& pivot, double deg)
{
    const Eigen::Matrix3d turn =
        Eigen::AngleAxisd(deg * kRadPerDeg, camera.rotation.row(0).transpose()).toRotationMatrix();
    camera.position = pivot + turn * (camera.position - pivot);
    camera.rotation = camera.rotation * turn.transpose();
    return camera;
}

/// How unlikely the way is that a camera sees from where the body stood when the camera was placed: chi
/// squared of so many steps as are independent of each other. A foot that is misread counts no more than
/// three standard deviations.
double unlikelihood(const std::vector<Stand>& stands, const Camera& camera)
{
    const auto nearest = std::min_element(stands.begin(), stands.end(),
                                          [](const Stand& a, const Stand& b) { return a.walked < b.walked; });
    const auto start = nearest == stands.end() ? std::nullopt : nearest->offIn(camera);
    if (!start) return 0;
    double sum = 0;
    int n = 0;
    for (const Stand& stand : stands)
        if (const auto off = stand.offIn(camera)) {
            const double variance =
                stand.likelyOff() * stand.likelyOff() + 2 * kOptions.footSpread * kOptions.footSpread;
            sum += std::min(kOptions.mostOfFoot, (*off - *start).squaredNorm() / variance);
            ++n;
        }
    return sum * std::min<double>(kOptions.independent, n) / n;
}

} // namespace

CalibratedCamera levelledByFeet(const PlacedClip& clip, const LandmarkOffsets& offsets)
{
    // Networks err in their way with every foot, so that the formal spread is too small by about a half.
    const std::vector<Stand> stands = standsOf(clip, offsets);
    const BodyPoints body = standingView(clip).body;
    const Vector3d pivot = 0.5 * (body[index(Landmark::LeftHip)] + body[index(Landmark::RightHip)]);
    const double spread = clip.camera.elevationSpread, step = 3 * spread / kOptions.tiltSteps;
    const auto cost = [&](int i) {
        const Camera camera = tilted(clip.camera.camera, pivot, i * step);
        if (camera.position.z() < kOptions.lowestCamera) return 1e9;
        const double sigmas = i * step / spread;
        return unlikelihood(stands, camera) + sigmas * sigmas;
    };
    int best = 0;
    double least = cost(0);
    for (int i = -kOptions.tiltSteps; i <= kOptions.tiltSteps; ++i)
        if (const double c = cost(i); c < least) {
            least = c;
            best = i;
        }
    const double before = cost(best - 1), after = cost(best + 1), bend = before + after - 2 * least;
    if (before > 1e8 || after > 1e8 || bend <= 0) return clip.camera;
    const double deg = (best + std::clamp(0.5 * (before - after) / bend, -1.0, 1.0)) * step;
    CalibratedCamera level = clip.camera;
    level.camera = tilted(clip.camera.camera, pivot, deg);
    level.elevationSpread = std::clamp(kOptions.sharedError * std::sqrt(2 / bend) * step,
                                       std::min(kOptions.leastTiltSpread, spread), spread);
    return level;
}

Drift driftOf(const PlacedClip& clip, const LandmarkOffsets& offsets)
{
    Drift drift;
    for (const Stand& stand : standsOf(clip, offsets)) {
        const auto seen = stand.offIn(clip.camera.camera);
        if (!seen) continue;
        const double likely = stand.likelyOff() * stand.likelyOff();
        const Vector3d off = *seen * likely / (likely + kOptions.footSpread * kOptions.footSpread);
        if (off.norm() <= kOptions.mostDrift) drift.emplace_back(stand.time, off);
    }
    std::sort(drift.begin(), drift.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    return drift;
}

} // namespace jl
