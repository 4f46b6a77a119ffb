#include "camera/two_cameras.h"
#include "base/angles.h"
#include "base/median.h"
#include "base/units.h"
#include "camera/camera_fit.h"
#include "camera/joints.h"
#include "camera/least_squares.h"
#include "camera/ray_distance.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace jl
{

using Eigen::Vector2d;
using Eigen::Vector3d;
using Eigen::VectorXd;

namespace
{

/// Options of placing two cameras together and of deciding whether two clips were filmed at once.
/// Chosen on: 28 pairs of seed 20260 (fit), 56 drawn pairs of two practices (limits of refusal).
struct TwoCamerasOptions {
    /// Moments over the clip in which the rays of each joint are made to meet. x0.5: err +0.6 %; x2: none.
    int moments = 120;
    /// So many ray distances count as independent, whatever their number: networks err alike from frame to
    /// frame. x0.5: err +0.9 %; x2: none.
    Ratio independent = 15;
    /// Standard deviation of the distance between two rays of one joint. x0.5: none; x2: err +1 %.
    Metres pointSpread = 0.02;
    /// Robust ray distance beyond which the clips do not show the same movement.
    /// x0.5: err +2 %, u -0.7 %, n -26 %; x2: none.
    Metres largestDistance = 0.035;
    /// RMS lag from stretch to stretch beyond which the clips were not filmed at once. Pairs filmed at once
    /// show up to 0.076 s. x0.5 and x2: none.
    Seconds largestLag = 0.08;
    /// Least angle between the two lines of sight. x0.5: none; x2: n -20 %.
    Degrees leastApart = 25;
    /// Scale of the offset as an unknown of the fit. No influence on the result beyond convergence.
    /// x0.5 and x2: none.
    Seconds offsetUnit = 0.1;
    /// Rounds of the fit at most: within one round the path of a point is taken as straight.
    /// x0.5 and x2: none.
    int offsetRounds = 6;
    /// Weight of the offset by sound in the final offset. Sound is late by 3 ms for each metre that one
    /// microphone is farther away; the movements err by 5 ms. x0.5 and x2: none.
    Share shareOfSound = 0.3;
    /// Visibility from which a point counts. x0.5: err +0.7 %; x2: n -57 %.
    Share seen = 0.5;
    /// Length of a stretch whose lag is found by itself. x0.5 and x2: none.
    Seconds stretch = 1.5;
    /// Between two moments that determine the lag of stretches. x0.5 and x2: none.
    Seconds lagStep = 0.125;
    /// Lag with which the derivative of a ray distance is taken. x0.5 and x2: none.
    Seconds lagProbe = 0.05;
    /// Largest ray distance that a single point contributes to a lag. x0.5 and x2: none.
    Metres lagClip = 0.08;
    /// Information of a stretch, (m/s)^2 summed over its points, below which it does not count.
    /// x0.5 and x2: none.
    double leastMotion = 0.5;
};
constexpr TwoCamerasOptions kOptions;

/// A point that both cameras see at some moment, and the speed with which it moves in the second picture.
struct Shared {
    Vector2d first, second, speed;
    double time = 0; ///< s, in the first clip
    std::size_t joint = 0;
};

std::vector<Shared> sharedPoints(const Track& first, const Track& second, double offset,
                                 int moments = kOptions.moments)
{
    std::vector<Shared> shared;
    constexpr double step = 1 / 30.0;
    const double begin = std::max(first.frames.front().time, second.frames.front().time - offset + step),
                 end = std::min(first.frames.back().time, second.frames.back().time - offset - step);
    for (int i = 0; i < moments; ++i) {
        const double t = mix(begin, end, (i + 0.5) / moments);
        const BodyFrame a = frameAt(first, t), b = frameAt(second, t + offset),
                        before = frameAt(second, t + offset - step),
                        after = frameAt(second, t + offset + step);
        if (!a.seen || !b.seen || !before.seen || !after.seen) continue;
        for (std::size_t k = 0; k < kJoints.size(); ++k)
            if (const std::size_t l = index(kJoints[k]);
                a.visibility[l] > kOptions.seen && b.visibility[l] > kOptions.seen)
                shared.push_back(
                    {a.point[l], b.point[l], (after.point[l] - before.point[l]) / (2 * step), t, k});
    }
    return shared;
}

/// The residuals of both standing pictures, the offset (which moved already) and the gaps between all lines
/// of sight.
VectorXd gapsAndPictures(const CameraFit& fitFirst, const CameraFit& fitSecond,
                         const std::vector<Shared>& shared, double moved, double offsetSpread,
                         const VectorXd& x)
{
    constexpr int n = CameraFit::UnknownCount, pictures = CameraFit::kResidualCount;
    const Camera a = fitFirst.camera(x.head(n)), b = fitSecond.camera(x.segment(n, n));
    const double dt = x[2 * n] * kOptions.offsetUnit;
    VectorXd r(2 * pictures + 1 + static_cast<Eigen::Index>(shared.size()));
    r.head(pictures) = fitFirst.residuals(x.head(n));
    r.segment(pictures, pictures) = fitSecond.residuals(x.segment(n, n));
    Eigen::Index at = 2 * pictures;
    r[at++] = (moved + dt) / offsetSpread;
    // The networks err alike from frame to frame: all gaps together count as much as a few independent ones.
    const double share = std::sqrt(kOptions.independent / static_cast<double>(shared.size()));
    for (const Shared& p : shared) {
        const Eigen::Matrix<double, 1, 1> gap(rayDistance(a, p.first, b, p.second + dt * p.speed) /
                                              kOptions.pointSpread);
        r[at++] = share * robust(gap)[0];
    }
    return r;
}

/// TwoCameras::lag: finds in each stretch the lag with which the gaps of the points that move become
/// smallest.
double lagOfStretches(const Track& first, const Track& second, const TwoCameras& cameras)
{
    const double length = first.frames.back().time - first.frames.front().time;
    const auto shared = sharedPoints(first, second, cameras.offset,
                                     std::max(kOptions.moments, static_cast<int>(length / kOptions.lagStep)));
    std::vector<double> gaps;
    std::array<std::vector<double>, kJoints.size()> ofJoint; // each joint is misread in its own way
    for (const Shared& p : shared) {
        gaps.push_back(rayDistance(cameras.first, p.first, cameras.second, p.second));
        ofJoint[p.joint].push_back(gaps.back());
    }
    std::array<double, kJoints.size()> usual{};
    for (std::size_t k = 0; k < usual.size(); ++k)
        if (!ofJoint[k].empty()) usual[k] = median(std::move(ofJoint[k]));
    struct Stretch {
        double pull = 0, motion = 0;
    };
    std::vector<Stretch> stretches(static_cast<std::size_t>(length / kOptions.stretch) + 2);
    for (std::size_t i = 0; i < shared.size(); ++i) {
        const Shared& p = shared[i];
        Stretch& s =
            stretches[static_cast<std::size_t>((p.time - first.frames.front().time) / kOptions.stretch)];
        const double opens =
            (rayDistance(cameras.first, p.first, cameras.second, p.second + kOptions.lagProbe * p.speed) -
             gaps[i]) /
            kOptions.lagProbe;
        s.pull += std::clamp(gaps[i] - usual[p.joint], -kOptions.lagClip, kOptions.lagClip) * opens;
        s.motion += opens * opens;
    }
    double sum = 0, motion = 0;
    for (const Stretch& s : stretches) {
        if (s.motion < kOptions.leastMotion) continue;
        sum += s.pull * s.pull / s.motion;
        motion += s.motion;
    }
    return motion > 0 ? std::sqrt(sum / motion) : 0;
}

} // namespace

RayIntersection intersectRays(const Camera& first, const Vector2d& pa, const Camera& second,
                              const Vector2d& pb)
{
    const Vector3d u = first.ray(pa).normalized(), v = second.ray(pb).normalized(),
                   w = second.position - first.position;
    const double c = u.dot(v), denominator = std::max(1e-9, 1 - c * c);
    const double s = (w.dot(u) - c * w.dot(v)) / denominator, t = (c * w.dot(u) - w.dot(v)) / denominator;
    const Vector3d onFirst = first.position + s * u, onSecond = second.position + t * v;
    // A pixel of the nearer camera stands for less in the room.
    const double sizeFirst = s / first.focal, sizeSecond = t / second.focal;
    const double share = sizeFirst * sizeFirst / (sizeFirst * sizeFirst + sizeSecond * sizeSecond);
    return {mix(onFirst, onSecond, share), (onFirst - onSecond).norm()};
}

Result<TwoCameras> placeTogether(const StandingView& first, const StandingView& second,
                                 const Synchrony& synchrony, const PersonProfile& profile,
                                 const LandmarkOffsets& offsets)
{
    const auto refused = [&](const std::string& what, const std::string& remedy) {
        return Error{Error::Kind::NothingFound, what, first.track->clip + " and " + second.track->clip,
                     remedy};
    };
    const double h = profile.heightOrUsual();
    const auto fitOf = [&](const StandingView& v) {
        return CameraFit({v.standing, v.track->width, v.track->height}, offsets.toNetwork(v.body, h),
                         v.azimuthGuess, h, v.lens, askewBy(*v.track));
    };
    const CameraFit fitFirst = fitOf(first), fitSecond = fitOf(second);
    constexpr int n = CameraFit::UnknownCount;
    VectorXd start(2 * n + 1);
    start << fitFirst.start(), fitSecond.start(), 0;
    double offset = synchrony.offset;
    LeastSquares found;
    std::vector<Shared> shared;
    // A point's way between two moments is taken as straight, so the offset is found in a few rounds.
    for (int round = 0; round < kOptions.offsetRounds; ++round) {
        shared = sharedPoints(*first.track, *second.track, offset);
        if (shared.size() < 60)
            return refused("the two clips share too few moments in which the body is seen",
                           "Film the whole form with both cameras at once.");
        found = leastSquares(
            [&](const VectorXd& x) {
                return gapsAndPictures(fitFirst, fitSecond, shared, offset - synchrony.offset,
                                       synchrony.spread, x);
            },
            start);
        const double move = found.unknowns[2 * n] * kOptions.offsetUnit;
        offset += move;
        start = found.unknowns;
        start[2 * n] = 0;
        if (std::abs(move) < 0.003) break;
    }

    TwoCameras out;
    out.first = fitFirst.camera(found.unknowns.head(n));
    out.second = fitSecond.camera(found.unknowns.segment(n, n));
    out.offset = offset + lagFromRays({*first.track, out.first}, {*second.track, out.second}, offset);
    if (synchrony.heard) out.offset = mix(out.offset, synchrony.offset, kOptions.shareOfSound);
    shared = sharedPoints(*first.track, *second.track, out.offset);
    Vector3d middle = Vector3d::Zero(); // of the body over the clip
    for (const Shared& p : shared)
        middle += intersectRays(out.first, p.first, out.second, p.second).point /
                  static_cast<double>(shared.size());
    const auto direction = [&](const Camera& c) {
        const Vector3d d = c.position - middle;
        return std::atan2(d.x(), d.y()) * kDegPerRad;
    };
    out.apart = std::abs(wrapDeg(direction(out.first) - direction(out.second)));
    std::vector<double> gaps;
    gaps.reserve(shared.size());
    for (const Shared& p : shared)
        gaps.push_back(std::abs(rayDistance(out.first, p.first, out.second, p.second)));
    // Eight in ten, as a standard deviation would have it: single wrong points are no matter of the cameras.
    const auto eighth = gaps.begin() + static_cast<std::ptrdiff_t>(gaps.size() * 8 / 10);
    std::nth_element(gaps.begin(), eighth, gaps.end());
    out.rayDistance = *eighth / 1.28;
    if (out.apart < kOptions.leastApart || out.apart > 180 - kOptions.leastApart)
        return refused("the two cameras look along nearly the same line",
                       "Set them about a right angle apart.");
    out.lag = lagOfStretches(*first.track, *second.track, out);
    if (out.rayDistance > kOptions.largestDistance || out.lag > kOptions.largestLag)
        return refused("the two clips do not show the same movement at the same time",
                       "Use them as one after the other.");
    const Eigen::MatrixXd covariance = found.normal.inverse();
    const double turn = std::sqrt(0.25 * (covariance(CameraFit::Azimuth, CameraFit::Azimuth) +
                                          covariance(n + CameraFit::Azimuth, n + CameraFit::Azimuth)));
    out.azimuthSpread = std::clamp(1.5 * turn, 1.0, 8.0);
    out.scaleSpread = std::hypot(profile.heightSpread() / h, 0.010);
    return out;
}

} // namespace jl
