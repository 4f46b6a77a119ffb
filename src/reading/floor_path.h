#pragma once
#include "base/units.h"
#include "reading/clip_reading.h"

namespace jl
{

/// One foot at a key moment, seen from above; m in the room of the opening stance (y ahead, x to the right).
struct Footprint {
    Eigen::Vector2d heel{0, 0}, toe{0, 0};
    bool stands = true; ///< otherwise it is in the air above this place
};

/// Where the body is at the key moment of one phase.
struct PathStop {
    std::size_t place = 0; ///< posture in the form
    std::size_t phase = 0; ///< of the form
    Seconds time = 0;      ///< s
    Degrees heading = 0;   ///< of the posture, deg
    Eigen::Vector2d hips{0, 0};
    std::array<Footprint, 2> feet; ///< by Side
};

/// The way over the floor: one stop for every phase that was found, in the order of time.
using FloorPath = std::vector<PathStop>;

/// As stepped in a clip. Across the camera's view it is measured; along it a single picture shows nothing,
/// and it is as the model steps.
FloorPath floorPath(const ClipReading& clip);

/// As the model steps, in the size of a body of this height (m).
FloorPath floorPath(const ModelPerformance& model, double height);

} // namespace jl
