#pragma once
#include "base/result.h"
#include "body/track.h"
#include "form/model_performance.h"
#include "form/posture_run.h"
#include <optional>
#include <span>

namespace jl
{

/// From where a form is seen.
struct FoundCamera {
    std::size_t model = 0; ///< which of the offered models (sides) fits best
    double azimuth = 0;    ///< deg, the camera's direction
    double distance = 0;   ///< m, of the camera from the middle of the ground, for a body of the usual height
};

/// Which postures a clip shows, and when.
struct FoundPostures {
    double meanCost = 0;          ///< a sample
    double strangers = 0;         ///< share of the clip that belongs to no posture
    std::vector<PostureRun> runs; ///< in the clip's order
};

/// In which ways postures are looked for: as the form has them, or also turned, on the other side and come to
/// from others where the form leaves doubts, at several times the cost.
enum class PostureLook { AsInForm, EveryWay };

/// The model and the camera from which it fits a smoothed track best. A hint of the direction (deg) narrows
/// the search to 30 deg around it.
FoundCamera findCamera(const Track& track, std::span<const ModelPerformance> models,
                       std::optional<double> azimuthHint);
/// The same where the camera is nearly known.
FoundCamera findCameraNear(const Track& track, std::span<const ModelPerformance> models,
                           const FoundCamera& known);

/// The runs of postures that fit a smoothed track best.
FoundPostures findPostures(const Track& track, std::span<const ModelPerformance> models,
                           const FoundCamera& camera, PostureLook look = PostureLook::EveryWay);

} // namespace jl
