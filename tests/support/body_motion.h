#pragma once
#include "body/body_motion.h"
#include "performer/performance.h"
#include <random>

/// The exact body of a performance over time.
inline jl::BodyMotion motionOf(const jl::Performance& p, double framesPerSecond = 30, double noise = 0)
{
    jl::BodyMotion m;
    m.framesPerSecond = framesPerSecond;
    std::mt19937 random(7);
    std::normal_distribution<double> error(0, 1);
    for (double t = 0; t < p.duration(); t += 1 / framesPerSecond) {
        m.time.push_back(t);
        m.frames.push_back(p.figureAt(t).landmark);
        for (Eigen::Vector3d& point : m.frames.back())
            for (int axis = 0; noise > 0 && axis < 3; ++axis)
                point[axis] += noise * error(random);
    }
    return m;
}
