#pragma once
#include "body/landmark.h"
#include <string_view>

namespace jl
{

/// Where a camera stands against the direction of a posture; both: two cameras at once.
enum class View { Front, Behind, SideNear, SideFar, Corner, Both };

/// The view of a camera at the given azimuth (deg) on a posture with the given heading. Near and far say
/// whether the front leg is the one nearer to the camera.
View viewOf(double azimuth, double headingDeg, Side lead);
std::string_view viewName(View v);

/// What the table of accuracy calls two cameras at once that look at a posture in these views: beside one
/// from the side it matters where the other stands.
std::string_view pairName(View first, View second);

/// Where a value was read: in the vertical plane along the direction of the posture or across it, or in
/// space.
enum class Plane { Along, Across, Space };
std::string_view planeName(Plane p);

/// In which vertical plane one camera sees a posture: along its direction (from the side), else across it.
bool seenFromSide(double azimuth, double headingDeg);

} // namespace jl
