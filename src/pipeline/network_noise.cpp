#include "pipeline/network_noise.h"
#include <cmath>
#include <random>

namespace jl
{

Track withNoise(Track track, double bodyPixels, std::uint32_t seed, const NetworkNoise& noise)
{
    std::mt19937 random(seed * 2654435761u + 97u);
    std::normal_distribution<double> normal;
    std::uniform_real_distribution<double> even;
    const auto off = [&](double share) {
        return Eigen::Vector2d(share * bodyPixels * normal(random), share * bodyPixels * normal(random));
    };
    std::array<Eigen::Vector2d, kLandmarkCount> steady, wander;
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        steady[k] = off(noise.steady);
        wander[k] = off(noise.wandering);
    }
    double exchangedUntil = -1, before = 0;
    for (BodyFrame& f : track.frames) {
        const double step = f.time - before;
        before = f.time;
        const double keep = std::exp(-step / noise.wanderTime), renew = std::sqrt(1 - keep * keep);
        for (std::size_t k = 0; k < kLandmarkCount; ++k) {
            wander[k] = keep * wander[k] + renew * off(noise.wandering);
            f.point[k] += steady[k] + wander[k] + off(noise.jitter);
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
