#include "pipeline/network_noise.h"
#include <algorithm>
#include <cmath>
#include <random>

namespace jl
{
namespace
{

using PerPoint = std::array<Eigen::Vector2d, kLandmarkCount>;

/// Which points err together.
enum Part { Head, LeftHand, RightHand, LeftFoot, RightFoot, kPartCount };

Part partOf(Landmark l)
{
    if (l < Landmark::LeftShoulder) return Head;
    const bool left = index(l) % 2 == 1;
    if (l < Landmark::LeftHip) return left ? LeftHand : RightHand;
    return left ? LeftFoot : RightFoot;
}

/// Unit normal errors of all points, each with what it has in common with its part.
template <class Draw>
PerPoint unitErrors(const Draw& draw)
{
    std::array<Eigen::Vector2d, kPartCount> part;
    for (Eigen::Vector2d& p : part)
        p = draw();
    PerPoint errors;
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        const auto l = static_cast<Landmark>(k);
        const double common = pointNoise(l).inCommon;
        errors[k] = std::sqrt(common) * part[partOf(l)] + std::sqrt(1 - common) * draw();
    }
    return errors;
}

PerPoint pointsOf(const BodyFrame& f)
{
    PerPoint points;
    std::copy(f.point.begin(), f.point.end(), points.begin());
    return points;
}

/// Of the points on average.
double movedBetween(const PerPoint& a, const PerPoint& b)
{
    double sum = 0;
    for (std::size_t k = 0; k < kLandmarkCount; ++k)
        sum += (b[k] - a[k]).norm();
    return sum / static_cast<double>(kLandmarkCount);
}

} // namespace

PointNoise pointNoise(Landmark l)
{
    constexpr double seen = 0.6; // of what points wander, out of sight or not
    const auto found = [](double steady, double wandering, double inCommon) {
        return PointNoise{steady, seen * wandering, inCommon};
    };
    switch (std::min(l, mirrored(l))) {
    case Landmark::LeftEar:
        return found(0.0033, 0.0043, 0.2);
    case Landmark::LeftShoulder:
        return found(0.0033, 0.0068, 0);
    case Landmark::LeftElbow:
        return found(0.0040, 0.0090, 0);
    case Landmark::LeftWrist:
        return found(0.0038, 0.0098, 0.3);
    case Landmark::LeftPinky:
        return found(0.0046, 0.0126, 0.05);
    case Landmark::LeftIndex:
        return found(0.0042, 0.0096, 0.6);
    case Landmark::LeftThumb:
        return found(0.0056, 0.0127, 0.6);
    case Landmark::LeftHip:
        return found(0.0055, 0.0084, 0);
    case Landmark::LeftKnee:
        return found(0.0040, 0.0066, 0);
    case Landmark::LeftAnkle:
        return found(0.0040, 0.0060, 0.65);
    case Landmark::LeftHeel:
        return found(0.0058, 0.0079, 0.65);
    case Landmark::LeftToe:
        return found(0.0047, 0.0075, 0.05);
    default:
        return found(0.0028, 0.0044, 0.8); // the face
    }
}

Track withNoise(Track track, double bodyPixels, std::uint32_t seed, const NetworkNoise& noise)
{
    std::mt19937 random(seed * 2654435761u + 97u);
    std::normal_distribution<double> normal;
    std::uniform_real_distribution<double> even;
    const auto draw = [&] {
        const double x = normal(random), y = normal(random);
        return Eigen::Vector2d(bodyPixels * x, bodyPixels * y);
    };
    const PerPoint steady = unitErrors(draw);
    PerPoint wander = unitErrors(draw);
    double exchangedUntil = -1, before = 0;
    PerPoint last = track.frames.empty() ? PerPoint{} : pointsOf(track.frames.front());
    for (BodyFrame& f : track.frames) {
        const double step = f.time - before;
        before = f.time;
        const PerPoint now = pointsOf(f);
        const double keep = std::exp(-movedBetween(last, now) / (noise.poseReach * bodyPixels));
        const double renew = std::sqrt(1 - keep * keep);
        last = now;
        const PerPoint fresh = unitErrors(draw);
        for (std::size_t k = 0; k < kLandmarkCount; ++k) {
            const PointNoise point = pointNoise(static_cast<Landmark>(k));
            wander[k] = keep * wander[k] + renew * fresh[k];
            f.point[k] += point.steady * steady[k] + point.wandering * wander[k] + noise.jitter * draw();
        }
        if (f.time > exchangedUntil && even(random) < step * noise.exchangesPerMinute / 60)
            exchangedUntil = f.time - noise.exchangeTime * std::log(1 - even(random));
        if (f.time > exchangedUntil) continue;
        for (Landmark left : {Landmark::LeftKnee, Landmark::LeftAnkle, Landmark::LeftHeel, Landmark::LeftToe})
            std::swap(f.point[index(left)], f.point[index(sided(left, Side::Right))]);
    }
    return track;
}

} // namespace jl
