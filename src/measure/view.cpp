#include "measure/view.h"
#include "base/angles.h"
#include <cmath>

namespace jl
{

std::string_view viewName(View v)
{
    switch (v) {
    case View::Front:
        return "front";
    case View::Behind:
        return "behind";
    case View::SideNear:
        return "side-near";
    case View::SideFar:
        return "side-far";
    case View::Corner:
        return "corner";
    case View::Both:
        return "two-views";
    }
    return "corner";
}

std::string_view planeName(Plane p)
{
    constexpr std::string_view names[] = {"along", "across", "space"};
    return names[static_cast<int>(p)];
}

std::string_view pairName(View first, View second)
{
    const auto isSide = [](View v) { return v == View::SideNear || v == View::SideFar; };
    if (isSide(first) == isSide(second)) return viewName(View::Both);
    switch (isSide(first) ? second : first) {
    case View::Front:
        return "two-views-front";
    case View::Behind:
        return "two-views-behind";
    default:
        return "two-views-corner";
    }
}

namespace
{

constexpr double kWeightLimit = 40; ///< deg from square, up to which a view counts as one from the side

/// Angle between two headings, 0 to 180 deg.
double apart(double a, double b)
{
    return std::abs(wrapDeg(a - b));
}

} // namespace

View viewOf(double azimuth, double headingDeg, Side lead)
{
    const double signedAngle = wrapDeg(azimuth - headingDeg);
    const double fromFront = std::abs(signedAngle);
    if (fromFront <= 20) return View::Front;
    if (fromFront >= 160) return View::Behind;
    if (std::abs(fromFront - 90) <= kWeightLimit)
        return (signedAngle > 0) == (lead == Side::Right) ? View::SideNear : View::SideFar;
    return View::Corner;
}

bool seenFromSide(double azimuth, double headingDeg)
{
    return std::abs(apart(azimuth, headingDeg) - 90) <= 45;
}

} // namespace jl
