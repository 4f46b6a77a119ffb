#pragma once
#include "base/units.h"
#include <Eigen/Core>
#include <optional>

namespace jl
{

/// Heel and toe tip of a foot on the floor, m.
struct FootPlace {
    Eigen::Vector2d heel{0, 0}, toe{0, 0};
};

/// A foot that turns on its place.
struct FootPivot {
    Degrees amount = 0; ///< deg, to the right positive
    /// Which point of the foot stays, % of the way from the heel (0) to the ball (100). Both ends move across
    /// the foot as their distance from that point, whatever the angle. None for less than 25 degrees, where
    /// an error of 2 cm is as long as the way of either end.
    std::optional<Percent> about;
    Percent aboutSpread = 0; ///< standard deviation of it, for ends known to 2 cm
};

FootPivot footPivot(const FootPlace& before, const FootPlace& after);

} // namespace jl
