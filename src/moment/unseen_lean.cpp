#include "moment/unseen_lean.h"
#include "base/angles.h"
#include "base/units.h"
#include "body/joint_geometry.h"
#include <cmath>

namespace jl
{
namespace
{

using Eigen::Vector3d;

/// Options of the lean that a single view does not show.
/// Chosen on: the 460 clips of seed 20260; builds from the body tables.
struct UnseenLeanOptions {
    /// Standard deviation of a trunk's lean forward against the form's. x0.5 and x2: none.
    Degrees forward = 8;
    /// Standard deviation of its lean aside. x0.5 and x2: none.
    Degrees aside = 4;
    /// From the normal of the plane, up to which nothing is inferred. x0.5 and x2: none.
    Degrees square = 20;
    /// Relative spread of the trunk's length over builds and networks. x0.5 and x2: none.
    Share trunkBuild = 0.05;
    /// Relative spread of the shoulders' breadth. x0.5 and x2: none.
    Share shoulderBuild = 0.1;
};
constexpr UnseenLeanOptions kOptions;

double leanOf(const BodyPoints& points, const Vector3d& along)
{
    const Vector3d trunk = JointGeometry{points}.trunk();
    return std::atan2(trunk.dot(along), trunk.z()) * kDegPerRad;
}

/// A camera before a movement plane.
struct Oblique {
    Vector3d along; ///< in the plane
    double in, out; ///< how much leans in and out of the plane differ, deg
    double slope;   ///< how far what lies out of the plane goes along it in the picture

    Oblique(double headingDeg, bool fromSide, double azimuth)
        : along(fromSide ? forwardOf(headingDeg) : rightOf(headingDeg)),
          in(fromSide ? kOptions.forward : kOptions.aside), out(fromSide ? kOptions.aside : kOptions.forward)
    {
        const Vector3d normal = fromSide ? rightOf(headingDeg) : forwardOf(headingDeg);
        slope = -forwardOf(azimuth).dot(along) / forwardOf(azimuth).dot(normal);
    }
    bool isSquare() const { return std::abs(slope) < std::tan(kOptions.square * kRadPerDeg); }
};

} // namespace

double likelyUnseenLean(const BodyPoints& seen, const BodyPoints& expected, double headingDeg, bool fromSide,
                        double azimuth)
{
    const Oblique view(headingDeg, fromSide, azimuth);
    if (view.isSquare()) return 0;
    const double more = leanOf(seen, view.along) - leanOf(expected, view.along);
    return more * view.slope * view.out * view.out /
           (view.in * view.in + view.slope * view.slope * view.out * view.out);
}

double unseenLeanSpread(double headingDeg, bool fromSide, double azimuth)
{
    const Oblique view(headingDeg, fromSide, azimuth);
    return view.isSquare() ? kOptions.forward
                           : view.out * view.in / std::hypot(view.in, view.slope * view.out);
}

UnseenTrunk foreshortened(const BodyPoints& seen, const BodyPoints& expected, const Vector3d& normal)
{
    const auto more = [&](const Vector3d& line, const Vector3d& asExpected, double build) {
        const auto across = [&](const Vector3d& v) { return (v - normal * normal.dot(v)).norm(); };
        const double shown = across(line) / asExpected.norm() + build,
                     usual = across(asExpected) / asExpected.norm();
        const auto angle = [](double cosine) { return std::acos(clampTo(cosine, 0, 1)) * kDegPerRad; };
        return std::max(0.0, angle(shown) - angle(usual));
    };
    const JointGeometry s{seen}, e{expected};
    return {more(s.trunk(), e.trunk(), kOptions.trunkBuild),
            more(s.across(Landmark::LeftShoulder), e.across(Landmark::LeftShoulder), kOptions.shoulderBuild)};
}

BodyPoints trunkOutOfPicture(BodyPoints points, const Eigen::Vector3d& away, double lean, double turn)
{
    const Vector3d hips = 0.5 * (points[index(Landmark::LeftHip)] + points[index(Landmark::RightHip)]);
    const Vector3d along = away.cross(Vector3d::UnitZ());
    for (std::size_t i = 0; i < index(Landmark::LeftHip); ++i) {
        const Vector3d from = points[i] - hips;
        points[i] +=
            away * (std::tan(lean * kRadPerDeg) * from.z() + std::tan(turn * kRadPerDeg) * from.dot(along));
    }
    return points;
}

} // namespace jl
