#pragma once
#include <cmath>
#include <numbers>

namespace jl
{

inline constexpr double kRadPerDeg = std::numbers::pi / 180.0;
inline constexpr double kDegPerRad = 180.0 / std::numbers::pi;

/// The same angle in (-180, 180] degrees.
inline double wrapDeg(double deg)
{
    const double turn = std::fmod(deg, 360.0);
    return turn > 180.0 ? turn - 360.0 : turn <= -180.0 ? turn + 360.0 : turn;
}

inline double clampTo(double value, double low, double high)
{
    return value < low ? low : value > high ? high : value;
}

/// Linear blend; weight 0 gives a, 1 gives b.
template <class T>
T mix(const T& a, const T& b, double weight)
{
    return a + (b - a) * weight;
}

} // namespace jl
