#include "form/model_performance.h"
#include "base/angles.h"
#include <algorithm>
#include <cmath>

namespace jl
{

const BodyPoints& ModelPerformance::at(double time) const
{
    const double i = clampTo(time * framesPerSecond + 0.5, 0, static_cast<double>(frames.size()) - 1);
    return frames[static_cast<std::size_t>(i)];
}

const ModelPerformance::Phase& ModelPerformance::phaseAt(double time) const
{
    return *std::min_element(phases.begin(), phases.end(), [&](const Phase& a, const Phase& b) {
        return std::abs(a.time - time) < std::abs(b.time - time);
    });
}

BodyPoints ModelPerformance::scaledTo(double newHeight, double time) const
{
    BodyPoints points = at(time);
    for (Eigen::Vector3d& p : points)
        p *= newHeight / height;
    return points;
}

} // namespace jl
