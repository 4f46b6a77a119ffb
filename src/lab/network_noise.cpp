#include "lab/network_noise.h"
#include <algorithm>
#include <cmath>
#include <random>

namespace jl
{
namespace
{

using PerPoint = std::array<Eigen::Vector2d, kLandmarkCount>;

/// Of the points on average.
double movedBetween(const PerPoint& a, const PerPoint& b)
{
    double sum = 0;
    for (std::size_t k = 0; k < kLandmarkCount; ++k)
        sum += (b[k] - a[k]).norm();
    return sum / static_cast<double>(kLandmarkCount);
}

/// What stays over a clip, what goes with the pose, and which arms are out of sight, all drawn by chance.
class Errors
{
public:
    Errors(const NetworkErrors& table, std::uint32_t seed)
        : m_table(table), m_random(seed * 2654435761u + 97u)
    {
        m_steady = drawn<PointErrors>();
        m_wander = drawn<PointErrors>();
        m_sight = drawn<Eigen::Vector2d>();
    }

    /// The pose changes, and this share of its errors stays.
    void changePose(double keep)
    {
        const double renew = std::sqrt(1 - keep * keep);
        m_wander = keep * m_wander + renew * drawn<PointErrors>();
        m_sight = keep * m_sight + renew * drawn<Eigen::Vector2d>();
    }

    PointErrors of(double angle, double standing) const
    {
        const PointErrors steady = m_table.spread(angle, standing, m_steady),
                          wander = m_table.spread(angle, standing, m_wander);
        PointErrors sum;
        for (std::size_t k = 0; k < kLandmarkCount; ++k) {
            const double stays = m_table.steady(static_cast<Landmark>(k));
            const auto at = static_cast<Eigen::Index>(2 * k);
            sum.segment<2>(at) =
                std::sqrt(stays) * steady.segment<2>(at) + std::sqrt(1 - stays) * wander.segment<2>(at);
        }
        return sum;
    }

    bool seesArm(double angle, double standing, Side side) const
    {
        const double level = 0.5 * std::erfc(-m_sight[side == Side::Right] / std::sqrt(2.0));
        return level <= m_table.armSeen(angle, standing, side);
    }

    PointErrors trembling() { return drawn<PointErrors>(); }
    double even() { return m_even(m_random); }

private:
    template <class Vector>
    Vector drawn()
    {
        Vector v;
        for (double& x : v)
            x = m_normal(m_random);
        return v;
    }

    const NetworkErrors& m_table;
    std::mt19937 m_random;
    std::normal_distribution<double> m_normal;
    std::uniform_real_distribution<double> m_even;
    PointErrors m_steady, m_wander;
    Eigen::Vector2d m_sight;
};

void hideArm(BodyFrame& frame, Side side)
{
    constexpr float notSeen = 0.4F;
    for (Landmark l : {Landmark::LeftElbow, Landmark::LeftWrist})
        frame.visibility[index(sided(l, side))] = notSeen;
}

void exchangeLegs(BodyFrame& frame)
{
    for (Landmark left : {Landmark::LeftKnee, Landmark::LeftAnkle, Landmark::LeftHeel, Landmark::LeftToe})
        std::swap(frame.point[index(left)], frame.point[index(sided(left, Side::Right))]);
}

} // namespace

Track withNoise(Track track, double bodyPixels, std::uint32_t seed, const NetworkErrors& table,
                const NetworkNoise& noise)
{
    Errors errors(table, seed);
    double exchangedUntil = -1;
    PerPoint last = track.frames.empty() ? PerPoint{} : track.frames.front().point;
    for (BodyFrame& f : track.frames) {
        const PerPoint now = f.point;
        const double way = movedBetween(last, now) / bodyPixels;
        errors.changePose(std::exp(-way / noise.poseReach));
        last = now;
        const double angle = viewAngle(f), standing = standingShare(f);
        const PointErrors off = bodyPixels * (errors.of(angle, standing) + noise.jitter * errors.trembling());
        for (std::size_t k = 0; k < kLandmarkCount; ++k)
            f.point[k] += off.segment<2>(static_cast<Eigen::Index>(2 * k));
        for (Side side : {Side::Left, Side::Right})
            if (!errors.seesArm(angle, standing, side)) hideArm(f, side);
        if (f.time > exchangedUntil && errors.even() < way * noise.exchangesPerHeight)
            exchangedUntil = f.time - noise.exchangeTime * std::log(1 - errors.even());
        if (f.time <= exchangedUntil) exchangeLegs(f);
    }
    return track;
}

} // namespace jl
