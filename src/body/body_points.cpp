#include "body/body_points.h"
#include "base/angles.h"
#include <cmath>

namespace jl
{

using Eigen::Vector3d;

Vector3d forwardOf(double headingDeg)
{
    const double h = headingDeg * kRadPerDeg;
    return {std::sin(h), std::cos(h), 0};
}

Vector3d rightOf(double headingDeg)
{
    return forwardOf(headingDeg + 90);
}

BodyLengths BodyLengths::usual(double height)
{
    const double k = height / 1.70;
    return {0.540 * k, 0.905 * k, 0.192 * k, 0.030 * k, 0.025 * k, 0.084 * k};
}

} // namespace jl
