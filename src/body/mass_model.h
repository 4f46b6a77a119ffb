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

template <class Point>
Point centreOfMass(const std::array<Point, kLandmarkCount>& points, MassTable table = MassTable::Mean)
{
    const auto weight = centreOfMassWeights(table);
    Point sum = Point::Zero();
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        sum += weight[i] * points[i];
    return sum;
}

} // namespace jl
