#include "body/mass_model.h"
#include "measure/joint_reader.h"
#include <algorithm>
#include <limits>
#include <vector>

namespace jl
{

using Eigen::Vector2d;

namespace
{

constexpr double kOnFloor = 0.03; ///< m a heel or toe may be read above its place and still stand
constexpr double kBehindHeel = 0.07, kBeforeToe = 0.01; ///< the sole beyond its points, share of the foot

/// The corners of a foot's outline that lie on the floor: the heel's, the toes', or both.
void addOutline(const JointReader& r, const BodyLengths& lengths, Side s, std::vector<Vector2d>& corners)
{
    using enum Landmark;
    const Vector2d heel = r.of(LeftHeel, s).head<2>(), toe = r.of(LeftToe, s).head<2>(), along = toe - heel;
    const Vector2d aside = 0.5 * lengths.soleWidth * Vector2d(along.y(), -along.x()).normalized();
    const auto add = [&](const Vector2d& end) {
        corners.push_back(end - aside);
        corners.push_back(end + aside);
    };
    if (r.of(LeftHeel, s).z() - lengths.heel < kOnFloor) add(heel - kBehindHeel * along);
    if (r.of(LeftToe, s).z() - lengths.toe < kOnFloor) add(toe + kBeforeToe * along);
}

} // namespace

/// The smallest distance over all lines that have every corner on one side: for a point inside it is the
/// distance to the hull's nearest edge.
double balanceMargin(const JointReader& r, const BodyLengths& lengths)
{
    std::vector<Vector2d> corners;
    for (Side s : {Side::Left, Side::Right})
        addOutline(r, lengths, s, corners);
    if (corners.size() < 4) return std::numeric_limits<double>::quiet_NaN();
    const Vector2d centre = centreOfMass(r.p).head<2>();
    double margin = std::numeric_limits<double>::infinity();
    for (const Vector2d& a : corners)
        for (const Vector2d& b : corners) {
            const Vector2d edge = b - a;
            if (edge.norm() < 1e-9) continue;
            const Vector2d inward = Vector2d(-edge.y(), edge.x()).normalized();
            const bool supports = std::all_of(corners.begin(), corners.end(),
                                              [&](const Vector2d& c) { return (c - a).dot(inward) > -1e-9; });
            if (supports) margin = std::min(margin, (centre - a).dot(inward));
        }
    return margin;
}

} // namespace jl
