#include "body/hip_line.h"
#include <algorithm>

namespace jl
{

using Eigen::Vector3d;

/// Of one hip, level, m at 1.70 m.
Vector3d HipLine::pull(const BodyPoints& points, Side side, const Vector3d& sight) const
{
    using enum Landmark;
    const Vector3d& hip = points[index(sided(LeftHip, side))];
    const Vector3d thigh = points[index(sided(LeftKnee, side))] - hip,
                   across = hip - points[index(sided(LeftHip, other(side)))];
    const double behind = std::max(0.0, -across.dot(sight) / std::max(1e-6, across.norm()));
    return along * (1 + hidden * behind) / std::max(1e-6, thigh.norm()) * Vector3d(thigh.x(), thigh.y(), 0);
}

/// By so many times what a body of 1.70 m is moved.
BodyPoints HipLine::moved(BodyPoints points, double by, const Vector3d& sight) const
{
    const Vector3d apart = 0.5 * by * (pull(points, Side::Right, sight) - pull(points, Side::Left, sight));
    points[index(Landmark::RightHip)] += apart;
    points[index(Landmark::LeftHip)] -= apart;
    return points;
}

BodyPoints HipLine::turnedBack(BodyPoints points, double height, const Vector3d& sight) const
{
    return moved(std::move(points), -height / 1.70, sight);
}

BodyPoints HipLine::turned(BodyPoints points, double height, const Vector3d& sight) const
{
    return moved(std::move(points), height / 1.70, sight);
}

} // namespace jl
