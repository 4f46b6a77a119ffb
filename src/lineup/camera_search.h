#pragma once
#include "base/units.h"
#include "body/track.h"
#include "standards/model_performance.h"
#include <optional>
#include <span>

namespace jl
{

/// From where a form is seen.
struct FoundCamera {
    std::size_t model = 0; ///< which of the offered models (sides) fits best
    Degrees azimuth = 0;   ///< deg, the camera's direction
    Metres distance = 0;   ///< m, of the camera from the middle of the ground, for a body of the usual height
};

/// The model and the camera from which it fits a smoothed track best. A hint of the direction (deg) narrows
/// the search to 30 deg around it.
FoundCamera findCamera(const Track& track, std::span<const ModelPerformance> models,
                       std::optional<double> azimuthHint);
/// The same where the camera is nearly known.
FoundCamera findCameraNear(const Track& track, std::span<const ModelPerformance> models,
                           const FoundCamera& known);

} // namespace jl
