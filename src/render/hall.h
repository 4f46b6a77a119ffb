#pragma once
#include "camera/camera.h"
#include <Eigen/Core>
#include <string>
#include <vector>

namespace jl
{

/// The look of a practice hall.
struct Hall {
    std::string id;
    std::string name;
    Eigen::Vector3f floor, wall, skirting;
    Eigen::Vector3f light{1, 1, 1}; ///< tint of the daylight
    Eigen::Vector3d towardsLight{0.45, 0.30, 1.15};
    double halfSize = 5.2; ///< m from the middle to each wall
    double ceiling = 3.1;
    bool scroll = true; ///< a hanging on each wall
};

/// The ready halls.
const std::vector<Hall>& halls();

/// The colour seen along a ray from inside the hall, without any performer; 0 to 1 a channel.
Eigen::Vector3f hallColour(const Hall& hall, const Eigen::Vector3d& from, const Eigen::Vector3d& direction);

} // namespace jl
