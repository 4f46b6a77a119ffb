#pragma once
#include "base/units.h"
#include "body/landmark.h"
#include <Eigen/Core>
#include <array>

namespace jl
{

/// The 33 body points in the room frame (z up, floor z = 0), m.
using BodyPoints = std::array<Eigen::Vector3d, kLandmarkCount>;

/// Unit vectors of a heading (deg, clockwise from above, 0 = +y): forward, and to its right.
Eigen::Vector3d forwardOf(double headingDeg);
Eigen::Vector3d rightOf(double headingDeg);

/// Lengths of one body to which shares and lifts refer, m.
struct BodyLengths {
    Metres arm = 0;           ///< shoulder to elbow to wrist
    Metres standingHip = 0;   ///< height of the mid-hip in standing
    Metres shoulderToEar = 0; ///< height of the ear over the shoulder in standing
    Metres heel = 0, toe = 0; ///< heights of the heel and toe points of a foot that lies flat
    Metres soleWidth = 0;

    /// Those of a usual body of a height (m).
    static BodyLengths usual(double height);
};

} // namespace jl
