#pragma once
#include "base/result.h"
#include "body/track.h"
#include "form/model_performance.h"
#include "form/posture_run.h"
#include <optional>
#include <span>

namespace jl
{

/// Which postures a clip shows, and when.
struct FoundPostures {
    std::size_t model = 0; ///< which of the offered models fits best
    double azimuth = 0;    ///< deg, the camera's direction
    double distance = 0;   ///< m, of the camera from the middle of the ground, for a body of the usual height
    double meanCost = 0;   ///< a sample
    double strangers = 0;  ///< share of the clip that belongs to no posture
    std::vector<PostureRun> runs; ///< in the clip's order
};

/// Finds the model (side), the camera's direction and the runs of postures that fit a smoothed track best.
FoundPostures findPostures(const Track& track, std::span<const ModelPerformance> models,
                           std::optional<double> azimuthHint);

} // namespace jl
