#pragma once
#include "body/landmark.h"
#include <Eigen/Core>
#include <array>

namespace jl
{

enum class MassTable { Mean, Female, Male };

/// The whole-body centre of mass from the landmarks: 14 segments with the mass shares and segment centres of
/// de Leva (1996, J. Biomech. 29:1223), female, male or the mean of both. Works in any frame and in two or
/// three dimensions, since it is a weighted sum of the points; weights() gives the sum's weights (they add up
/// to 1).
std::array<double, kLandmarkCount> centreOfMassWeights(MassTable table);

/// Where a point counts as lying: fingers that are not there (motion capture may lack them; not finite) at
/// the wrist, ears two fifths of the trunk's length above the shoulders. Together 8 % of the body.
template <class Point>
Point massPoint(const std::array<Point, kLandmarkCount>& points, std::size_t i)
{
    using enum Landmark;
    if (points[i].allFinite()) return points[i];
    const auto l = static_cast<Landmark>(i);
    if (l == LeftEar || l == RightEar) {
        const auto middle = [&](Landmark left) -> Point {
            return 0.5 * (points[index(left)] + points[index(sided(left, Side::Right))]);
        };
        return middle(LeftShoulder) + 0.4 * (middle(LeftShoulder) - middle(LeftHip));
    }
    if (l == LeftIndex || l == LeftPinky) return points[index(LeftWrist)];
    if (l == RightIndex || l == RightPinky) return points[index(RightWrist)];
    return points[i];
}

template <class Point>
Point centreOfMass(const std::array<Point, kLandmarkCount>& points, MassTable table = MassTable::Mean)
{
    const auto weight = centreOfMassWeights(table);
    Point sum = Point::Zero();
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        if (weight[i] != 0) sum += weight[i] * massPoint(points, i);
    return sum;
}

} // namespace jl
