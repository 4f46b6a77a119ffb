#include "base/units.h"
#include "body/mass_model.h"
#include "measure/measure_value_parts.h"
#include "measure/support_polygon.h"
#include <algorithm>
#include <limits>
#include <vector>

namespace jl
{

using Eigen::Vector2d;

namespace
{

/// Options of the base of support.
/// Chosen on: anatomy of the shoe; not tuned.
struct BalanceOptions {
    /// Height of a heel or toe above its place up to which it stands. x0.5: err +1 %, u +0.6 %; x2: u -0.7 %.
    Metres onFloor = 0.03;
    /// Of the foot's length: the sole behind the heel point. x0.5 and x2: none.
    Share behindHeel = 0.07;
    /// Of the foot's length: the sole before the toe point. x0.5 and x2: none.
    Share beforeToe = 0.01;
};
constexpr BalanceOptions kOptions;

/// The corners of a foot's outline that lie on the floor: the heel's, the toes', or both.
void addOutline(const JointGeometry& r, const BodyLengths& lengths, Side s, std::vector<Vector2d>& corners)
{
    using enum Landmark;
    const Vector2d heel = r.of(LeftHeel, s).head<2>(), toe = r.of(LeftToe, s).head<2>(), along = toe - heel;
    const Vector2d aside = 0.5 * lengths.soleWidth * Vector2d(along.y(), -along.x()).normalized();
    const auto add = [&](const Vector2d& end) {
        corners.push_back(end - aside);
        corners.push_back(end + aside);
    };
    if (r.of(LeftHeel, s).z() - lengths.heel < kOptions.onFloor) add(heel - kOptions.behindHeel * along);
    if (r.of(LeftToe, s).z() - lengths.toe < kOptions.onFloor) add(toe + kOptions.beforeToe * along);
}

double cross(const Vector2d& a, const Vector2d& b)
{
    return a.x() * b.y() - a.y() * b.x();
}

/// Andrew's monotone chain (1979), counter-clockwise.
std::vector<Vector2d> convexHull(std::vector<Vector2d> points)
{
    std::sort(points.begin(), points.end(), [](const Vector2d& a, const Vector2d& b) {
        return a.x() < b.x() || (a.x() == b.x() && a.y() < b.y());
    });
    std::vector<Vector2d> hull;
    const auto half = [&](auto begin, auto end) {
        const std::size_t start = hull.size();
        for (auto p = begin; p != end; ++p) {
            while (hull.size() >= start + 2 &&
                   cross(hull.back() - hull[hull.size() - 2], *p - hull.back()) <= 0)
                hull.pop_back();
            hull.push_back(*p);
        }
        hull.pop_back(); // it begins the other half
    };
    half(points.begin(), points.end());
    half(points.rbegin(), points.rend());
    return hull;
}

} // namespace

std::vector<Vector2d> supportPolygon(const BodyPoints& points, const BodyLengths& lengths)
{
    std::vector<Vector2d> corners;
    for (Side s : {Side::Left, Side::Right})
        addOutline({points}, lengths, s, corners);
    return corners.size() < 3 ? std::vector<Vector2d>{} : convexHull(std::move(corners));
}

Vector2d underCentreOfMass(const BodyPoints& points)
{
    return centreOfMass(points).head<2>();
}

/// The distance of the point under the centre of mass to the nearest edge, negative outside.
double balanceMargin(const JointGeometry& r, const BodyLengths& lengths)
{
    const std::vector<Vector2d> hull = supportPolygon(r.p, lengths);
    if (hull.size() < 3) return std::numeric_limits<double>::quiet_NaN();
    const Vector2d centre = underCentreOfMass(r.p);
    double margin = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < hull.size(); ++i) {
        const Vector2d &a = hull[i], &b = hull[(i + 1) % hull.size()];
        margin = std::min(margin, cross((b - a).normalized(), centre - a));
    }
    return margin;
}

} // namespace jl
