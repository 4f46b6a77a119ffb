#pragma once
#include "base/angles.h"
#include "performer/figure.h"
#include <cmath>

/// Parts of trueMeasure(), by region of the body. Definitions, units and signs: measureInfo().
namespace jl::truth
{

using Eigen::Vector3d;

inline double angleBetween(const Vector3d& a, const Vector3d& b)
{
    return std::atan2(a.cross(b).norm(), a.dot(b)) * kDegPerRad;
}

/// Heading of a direction seen from above, deg.
inline double headingOf(const Vector3d& v)
{
    return std::atan2(v.x(), v.y()) * kDegPerRad;
}

/// A line from left to right against the horizontal, deg; right end higher is positive.
inline double levelOf(const Vector3d& leftToRight)
{
    return std::atan2(leftToRight.z(), leftToRight.head<2>().norm()) * kDegPerRad;
}

/// Horizontal direction from heel to toe.
inline Vector3d footAxis(const Figure& f, Side side)
{
    Vector3d axis = f.at(sided(Landmark::LeftToe, side)) - f.at(sided(Landmark::LeftHeel, side));
    axis.z() = 0;
    return axis.normalized();
}

double elbowFlare(const Figure& f, Side side);
double armReach(const Figure& f, Side side);
double handHeight(const Figure& f, Side side);
double handCentre(const Figure& f, Side side);
double handFront(const Figure& f, Side side);
double palmUp(const Figure& f, Side side);
double shoulderRaise(const Figure& f, Side side);
double armsParallel(const Figure& f);
double armOverLeg(const Figure& f, Side lead);
double headForward(const Figure& f);
double spineRound(const Figure& f);
double columnOffset(const Figure& f);
double gazeHeading(const Figure& f, double headingDeg);
double gazeDrop(const Figure& f);

} // namespace jl::truth
