#pragma once
#include "base/units.h"
#include "body/body_points.h"

namespace jl
{

/// How a trunk likely leans out of the plane in which it is seen, beyond what is expected of it, deg along
/// the plane's normal: forwardOf(heading), or rightOf(heading) where it is seen from the side. Azimuth: the
/// camera's direction in the room, deg.
///
/// Square to the plane it is not observable. From a corner, though, leaning back looks like leaning aside:
/// what is seen in the plane is i - o * tan(a), with the leans i in and o out of the plane and the angle a of
/// the camera from the plane's normal. People leave their form's lean to the front and back (8 deg, 1 sd)
/// more than aside (4 deg); this is the mean of o given what is seen, for normal laws.
double likelyUnseenLean(const BodyPoints& seen, const BodyPoints& expected, double headingDeg, bool fromSide,
                        Degrees azimuth);

/// How well that is known, deg, 1 sd.
double unseenLeanSpread(double headingDeg, bool fromSide, double azimuth);

/// How far a trunk leans and turns out of the picture, deg, beyond what is expected of it.
struct UnseenTrunk {
    Degrees lean = 0, turn = 0;
};

/// By how much a trunk must lean and turn otherwise than expected, to either side, for its height and the
/// shoulders' width to be seen as short as they are across the plane's normal. Zero where bodies of other
/// builds look as short.
UnseenTrunk foreshortened(const BodyPoints& seen, const BodyPoints& expected, const Eigen::Vector3d& normal);

/// Trunk, arms and head leaning away and turned by so much (deg), as far as that moves them away.
BodyPoints trunkOutOfPicture(BodyPoints points, const Eigen::Vector3d& away, double lean, double turn);

} // namespace jl
