#include "measure/foot_pivot.h"
#include "base/angles.h"
#include "base/units.h"
#include "body/joint_geometry.h"
#include <cmath>

namespace jl
{
namespace
{

/// Options of the point about which a foot turns.
/// Chosen on: geometry; the error of either end is that of a point that two cameras read.
struct FootPivotOptions {
    /// Below it the error of the ends is as long as their way. x0.5 and x2: none.
    Degrees leastTurn = 25;
    /// Of the way from the heel to the toe tip. x0.5 and x2: none.
    Ratio ballOfFoot = 0.75;
    /// Standard deviation of either end. x0.5 and x2: none.
    Metres endSpread = 0.02;
};
constexpr FootPivotOptions kOptions;

} // namespace

FootPivot footPivot(const FootPlace& before, const FootPlace& after)
{
    using Eigen::Vector2d;
    const Vector2d axisBefore = before.toe - before.heel, axisAfter = after.toe - after.heel;
    const auto heading = [](const Vector2d& axis) { return JointGeometry::heading({axis.x(), axis.y(), 0}); };
    FootPivot pivot{wrapDeg(heading(axisAfter) - heading(axisBefore)), {}};
    if (std::abs(pivot.amount) < kOptions.leastTurn) return pivot;
    const Vector2d mean = axisBefore.normalized() + axisAfter.normalized();
    if (mean.norm() < 0.1) return pivot; // turned right round: there is no direction between
    const Vector2d across = Vector2d(mean.y(), -mean.x()).normalized();
    const double heel = across.dot(after.heel - before.heel), toe = across.dot(after.toe - before.toe);
    pivot.about = 100 * heel / (heel - toe) / kOptions.ballOfFoot;
    const double chord = 2 * std::sin(0.5 * std::abs(pivot.amount) * kRadPerDeg); // over a radius of 1
    pivot.aboutSpread = 100 * kOptions.endSpread / (kOptions.ballOfFoot * axisBefore.norm() * chord);
    return pivot;
}

} // namespace jl
