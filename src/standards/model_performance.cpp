#include "standards/model_performance.h"
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

std::vector<ModelPerformance::Place> ModelPerformance::placesIn(const std::vector<Phase>& phases,
                                                                double duration)
{
    std::vector<Place> out;
    for (std::size_t i = 0; i < phases.size(); ++i) {
        const bool again =
            !out.empty() && std::any_of(phases.begin() + static_cast<std::ptrdiff_t>(out.back().firstPhase),
                                        phases.begin() + static_cast<std::ptrdiff_t>(i),
                                        [&](const Phase& p) { return p.phase == phases[i].phase; });
        if (out.empty() || again || phases[i].posture != phases[i - 1].posture)
            out.push_back({i, i, out.empty() ? 0 : phases[i - 1].time, 0});
        out.back().lastPhase = i;
        out.back().end = phases[i].time;
    }
    if (!out.empty()) out.back().end = duration;
    return out;
}

BodyPoints ModelPerformance::scaledTo(double newHeight, double time) const
{
    const double last = static_cast<double>(frames.size()) - 1, i = clampTo(time * framesPerSecond, 0, last),
                 share = i - std::floor(i), scale = newHeight / height;
    const BodyPoints &before = frames[static_cast<std::size_t>(i)],
                     &after = frames[static_cast<std::size_t>(std::min(i + 1, last))];
    BodyPoints points;
    for (std::size_t k = 0; k < kLandmarkCount; ++k)
        points[k] = scale * mix(before[k], after[k], share);
    return points;
}

} // namespace jl
