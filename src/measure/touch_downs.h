#pragma once
#include <vector>

namespace jl
{

/// How often a lifted foot comes down and goes up again.
struct TouchDowns {
    double count = 0;
    double spread = 0; ///< how far that hangs on how near to the floor counts as a touch: standard deviation
};

/// From the height of the foot's lower end over where it lies when it stands, m. It was lifted above 10 cm
/// and touches below 4: in between it is on its way, so that it may tremble there. A touch is shorter than
/// what separates a standing foot from a moving one (floorContact()).
TouchDowns touchDownsOf(const std::vector<double>& height);

} // namespace jl
