#include "form/model_performance.h"
#include "base/angles.h"

namespace jl
{

const BodyPoints& ModelPerformance::at(double time) const
{
    const double i = clampTo(time * framesPerSecond + 0.5, 0, static_cast<double>(frames.size()) - 1);
    return frames[static_cast<std::size_t>(i)];
}

BodyPoints ModelPerformance::scaledTo(double newHeight, double time) const
{
    BodyPoints points = at(time);
    for (Eigen::Vector3d& p : points)
        p *= newHeight / height;
    return points;
}

} // namespace jl
