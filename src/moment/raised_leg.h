#pragma once
#include "body/body_points.h"
#include <algorithm>

namespace jl
{

/// How much less surely than usual a point is placed because its leg is raised, the thigh within 20 degrees
/// of level or above: the networks know hip, knee and ankle there about half as well (in rendered clips,
/// flexions and the level of the pelvis err by twice what is usual).
inline double raisedLegFactor(const BodyPoints& points, Landmark l)
{
    constexpr double level = -0.34, factor = 2.2; // sine of 20 degrees downwards
    const Landmark left = std::min(l, mirrored(l));
    if (left != Landmark::LeftHip && left != Landmark::LeftKnee && left != Landmark::LeftAnkle) return 1;
    const Side side = l == left ? Side::Left : Side::Right;
    const Eigen::Vector3d thigh =
        points[index(sided(Landmark::LeftKnee, side))] - points[index(sided(Landmark::LeftHip, side))];
    return thigh.z() > level * thigh.norm() ? factor : 1;
}

} // namespace jl
