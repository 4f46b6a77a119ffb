#include "measure/foot_pivot.h"
#include "base/angles.h"
#include "body/joint_geometry.h"
#include <cmath>

namespace jl
{
namespace
{

constexpr double kLeastTurn = 25;    ///< deg
constexpr double kBallOfFoot = 0.75; ///< of the way from the heel to the toe tip
constexpr double kEnd = 0.02;        ///< m, to which either end is known

} // namespace

FootPivot footPivot(const FootPlace& before, const FootPlace& after)
{
    using Eigen::Vector2d;
    const Vector2d axisBefore = before.toe - before.heel, axisAfter = after.toe - after.heel;
    const auto heading = [](const Vector2d& axis) { return JointGeometry::heading({axis.x(), axis.y(), 0}); };
    FootPivot pivot{wrapDeg(heading(axisAfter) - heading(axisBefore)), {}};
    if (std::abs(pivot.amount) < kLeastTurn) return pivot;
    const Vector2d mean = axisBefore.normalized() + axisAfter.normalized();
    if (mean.norm() < 0.1) return pivot; // turned right round: there is no direction between
    const Vector2d across = Vector2d(mean.y(), -mean.x()).normalized();
    const double heel = across.dot(after.heel - before.heel), toe = across.dot(after.toe - before.toe);
    pivot.about = 100 * heel / (heel - toe) / kBallOfFoot;
    const double chord = 2 * std::sin(0.5 * std::abs(pivot.amount) * kRadPerDeg); // over a radius of 1
    pivot.aboutSpread = 100 * kEnd / (kBallOfFoot * axisBefore.norm() * chord);
    return pivot;
}

} // namespace jl
