#include "measure/fused_value.h"
#include "base/angles.h"
#include <cmath>

namespace jl
{
namespace
{

constexpr double kCorrelation = 0.5;

} // namespace

Value fusedValue(std::span<const Value> readings)
{
    Value fused = readings.front();
    const bool isAngle = measureInfo(fused.measure).unit == Unit::Degrees;
    const double unseen = fused.measure == Measure::WeightLead ? kPressureSpread : 0;
    double weights = 0, roots = 0, away = 0; // sums of 1/u^2, 1/u, and from the first, weighted
    for (const Value& v : readings) {
        const double variance = std::max(1e-12, v.u * v.u - unseen * unseen);
        const double difference = v.value - fused.value;
        weights += 1 / variance;
        roots += 1 / std::sqrt(variance);
        away += (isAngle ? wrapDeg(difference) : difference) / variance;
    }
    fused.value += away / weights;
    const double variance =
        ((1 - kCorrelation) * weights + kCorrelation * roots * roots) / (weights * weights);
    fused.u = std::hypot(std::sqrt(variance), unseen);
    return fused;
}

} // namespace jl
