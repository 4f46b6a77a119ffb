#include "exchange/track_precision.h"
#include <cmath>

namespace jl
{
namespace
{

double rounded(double value, double step)
{
    return std::round(value / step) * step;
}

} // namespace

BodyFrame inKeptPrecision(BodyFrame f)
{
    constexpr double time = 1e-6, pixel = 1e-3, score = 1e-4, metre = 1e-5; // s, pixels, -, m
    constexpr double shift = 1e-2, leastShift = 0.05;                       // pixels
    f.time = rounded(f.time, time);
    f.score = rounded(f.score, score);
    for (std::size_t i = 0; i < kLandmarkCount; ++i) {
        for (double& p : f.point[i])
            p = rounded(p, pixel);
        f.visibility[i] = static_cast<float>(rounded(f.visibility[i], score));
        for (float& m : f.metric[i])
            m = static_cast<float>(rounded(m, metre));
    }
    if (f.cameraShift.norm() > leastShift)
        for (double& s : f.cameraShift)
            s = rounded(s, shift);
    else
        f.cameraShift.setZero();
    return f;
}

} // namespace jl
