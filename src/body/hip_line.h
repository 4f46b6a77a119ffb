#pragma once
#include "base/units.h"
#include "body/body_points.h"

namespace jl
{

/// How networks turn the line between the hips: each hip is drawn along with its thigh, one that is hidden
/// behind the other more. In a bow a square pelvis seems turned by 12 deg. Only what the two are drawn apart
/// matters here; their middle stays. For measures of the hips' line only: thighs are better read from the
/// hips as they were placed (docs/method.md).
struct HipLine {
    Metres along = 0; ///< m at 1.70 m that a hip is drawn along a level thigh
    Ratio hidden = 0; ///< so many times more where it lies straight behind the other

    /// The body with the line as it really points. `sight`: level, of length 1, from the body to the camera;
    /// of two cameras the one that sees one hip behind the other.
    BodyPoints turnedBack(BodyPoints points, double height, const Eigen::Vector3d& sight) const;
    /// A body as networks draw it, from one with its line as it points; seen by one camera.
    BodyPoints turned(BodyPoints points, double height, const Eigen::Vector3d& sight) const;

private:
    BodyPoints moved(BodyPoints points, double by, const Eigen::Vector3d& sight) const;
    Eigen::Vector3d pull(const BodyPoints& points, Side side, const Eigen::Vector3d& sight) const;
};

} // namespace jl
