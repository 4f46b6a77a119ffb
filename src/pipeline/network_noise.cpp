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
    switch (std::min(l, mirrored(l))) {
    case Landmark::LeftEar:
        return {0.0016, 0.0026, 0.2};
    case Landmark::LeftShoulder:
        return {0.0018, 0.0041, 0};
    case Landmark::LeftElbow:
        return {0.0030, 0.0066, 0};
    case Landmark::LeftWrist:
        return {0.0036, 0.0072, 0.3};
    case Landmark::LeftPinky:
        return {0.0030, 0.0100, 0.05};
    case Landmark::LeftIndex:
        return {0.0030, 0.0076, 0.6};
    case Landmark::LeftThumb:
        return {0.0032, 0.0105, 0.6};
    case Landmark::LeftHip:
        return {0.0045, 0.0064, 0};
    case Landmark::LeftKnee:
        return {0.0036, 0.0042, 0};
    case Landmark::LeftAnkle:
        return {0.0040, 0.0040, 0.65};
    case Landmark::LeftHeel:
        return {0.0052, 0.0054, 0.65};
    case Landmark::LeftToe:
        return {0.0048, 0.0052, 0.05};
    default:
        return {0.0016, 0.0028, 0.8}; // the face
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
