#pragma once
#include "performer/performance.h"
#include <vector>

namespace jl
{

/// Where and how the sound of a hall is taken up.
struct Microphone {
    Eigen::Vector3d position{0, 4, 1.2}; ///< room frame, m
    std::uint32_t seed = 1;              ///< its own hiss and the echoes at its place
    double hiss = 0.002;                 ///< rms, 1 is full scale
};

/// What is heard where somebody practises: a slow tune plucked on a zither in a corner of the hall (made up
/// by the program, its notes drawn at random by the seed of the tune), footfalls where the feet meet the
/// floor, some echoes of the walls, and the microphone's hiss. Sound travels at 343 m/s and thins out with
/// distance. One channel, -1 to 1, from time 0 to the end of the performance.
std::vector<float> hallSound(const Performance& performance, const Microphone& microphone, int rate,
                             std::uint32_t tune = 1);

} // namespace jl
