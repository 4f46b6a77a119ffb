#pragma once
#include "base/angles.h"
#include "body/body_points.h"
#include <cmath>

namespace jl
{

/// The constructions that measures share: joints of one side, axes of body parts, angles between them. Room
/// frame, m and deg.
struct JointGeometry {
    const BodyPoints& p;

    const Eigen::Vector3d& at(Landmark l) const { return p[index(l)]; }
    const Eigen::Vector3d& of(Landmark left, Side s) const { return at(sided(left, s)); }
    Eigen::Vector3d mid(Landmark left) const { return 0.5 * (of(left, Side::Left) + of(left, Side::Right)); }
    /// From the left member of a pair to the right one.
    Eigen::Vector3d across(Landmark left) const { return of(left, Side::Right) - of(left, Side::Left); }
    Eigen::Vector3d trunk() const { return mid(Landmark::LeftShoulder) - mid(Landmark::LeftHip); }

    Eigen::Vector2d footCentre(Side s) const
    {
        return 0.5 * (of(Landmark::LeftHeel, s) + of(Landmark::LeftToe, s)).head<2>();
    }
    Eigen::Vector2d footForward(Side s) const
    {
        return (of(Landmark::LeftToe, s) - of(Landmark::LeftHeel, s)).head<2>().normalized();
    }

    /// Chest axes as columns: right, forward, up along the trunk.
    Eigen::Matrix3d chest() const
    {
        const Eigen::Vector3d up = trunk().normalized();
        const Eigen::Vector3d shoulders = across(Landmark::LeftShoulder);
        const Eigen::Vector3d right = (shoulders - up * up.dot(shoulders)).normalized();
        Eigen::Matrix3d axes;
        axes << right, up.cross(right), up;
        return axes;
    }

    static double angle(const Eigen::Vector3d& a, const Eigen::Vector3d& b)
    {
        return std::acos(clampTo(a.normalized().dot(b.normalized()), -1, 1)) * kDegPerRad;
    }
    static double heading(const Eigen::Vector3d& v) { return std::atan2(v.x(), v.y()) * kDegPerRad; }
    /// Where a part looks whose line runs from left to right: square to it.
    static double facing(const Eigen::Vector3d& leftToRight) { return heading(leftToRight) - 90; }
    /// Against the horizontal, the end of the line higher is positive.
    static double rise(const Eigen::Vector3d& v)
    {
        return std::atan2(v.z(), v.head<2>().norm()) * kDegPerRad;
    }
    /// By how much the shoulders' line is turned against the hips', clockwise from above.
    double waistTwist() const
    {
        return wrapDeg(heading(across(Landmark::LeftShoulder)) - heading(across(Landmark::LeftHip)));
    }
    static double outward(Side s) { return s == Side::Left ? -1 : 1; }
};

} // namespace jl
