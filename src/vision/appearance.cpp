#include "vision/appearance.h"
#include "vision/sampler.h"
#include <array>
#include <cmath>

namespace jl
{
namespace
{

constexpr int kSamples = 8; ///< across and down

Eigen::Vector3f meanColour(const Frame& frame, const Eigen::Vector2d& middle, const Eigen::Vector2d& along,
                           double size)
{
    std::array<float, 3 * kSamples * kSamples> rgb;
    sampleRegion(frame, Region{middle, size, std::atan2(along.x(), -along.y())}, kSamples, 1, 1, 0,
                 rgb.data());
    Eigen::Vector3f sum = Eigen::Vector3f::Zero();
    for (std::size_t i = 0; i < rgb.size(); i += 3)
        sum += Eigen::Vector3f(rgb[i], rgb[i + 1], rgb[i + 2]);
    sum /= static_cast<float>(kSamples * kSamples);
    const float luma = 0.299f * sum[0] + 0.587f * sum[1] + 0.114f * sum[2];
    return {luma, 0.564f * (sum[2] - luma), 0.713f * (sum[0] - luma)};
}

} // namespace

Appearance Appearance::of(const Frame& frame, const BodyFrame& body)
{
    const Eigen::Vector2d hip = midHip(body), shoulder = midShoulder(body);
    const double trunk = (shoulder - hip).norm();
    const auto thigh = [&](Side side) {
        const Eigen::Vector2d &top = body.at(sided(Landmark::LeftHip, side)),
                              &knee = body.at(sided(Landmark::LeftKnee, side));
        return meanColour(frame, 0.5 * (top + knee), top - knee, 0.2 * trunk);
    };
    Appearance a;
    a.trunk = meanColour(frame, 0.5 * (hip + shoulder), shoulder - hip, 0.45 * trunk);
    a.thighs = 0.5f * (thigh(Side::Left) + thigh(Side::Right));
    return a;
}

double Appearance::unlike(const Appearance& another) const
{
    const Eigen::Vector3f step(40, 10, 10);
    const auto square = [&](const Eigen::Vector3f& a, const Eigen::Vector3f& b) {
        return static_cast<double>((a - b).cwiseQuotient(step).squaredNorm());
    };
    return std::sqrt(0.5 * (square(trunk, another.trunk) + square(thighs, another.thighs)));
}

void Appearance::adapt(const Appearance& to, float share)
{
    trunk += share * (to.trunk - trunk);
    thighs += share * (to.thighs - thighs);
}

} // namespace jl
