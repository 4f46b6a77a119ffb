#pragma once
#include "base/result.h"
#include "body/track.h"
#include "form/model_performance.h"
#include <optional>
#include <span>

namespace jl
{

/// A phase of the model found in a clip.
struct FoundPhase {
    std::string posture, phase, stance;
    double begin = 0;     ///< s in the clip
    double time = 0;      ///< s in the clip: the key moment, in the middle of the stillness
    double modelTime = 0; ///< s in the model
    double heading = 0;
    Side lead = Side::Right; ///< of this posture
    double cost = 0;         ///< how unlike the model the body is there; 0 is the same
    bool matched = false;    ///< false: the phase was not found
};

/// A clip lined up with the model performance.
struct LineUp {
    double azimuth = 0; ///< deg, the camera's direction as far as the line-up can tell (to about 8 deg)
    double meanCost = 0;
    std::size_t model = 0; ///< which of the offered models fits best
    std::vector<FoundPhase> phases;
    std::vector<std::pair<double, double>> timePairs; ///< (clip, model) times along the path, s

    /// The model's time at a time of the clip, and back; continued evenly outside.
    double modelTimeAt(double clipTime) const;
    double clipTimeAt(double modelTime) const;
    /// The phase whose key moment is nearest among those that were found; the first where none was.
    const FoundPhase& phaseAt(double clipTime) const;
};

/// Lines a smoothed track up with the best of several models (sides), trying the directions in which the
/// camera may stand: dynamic time warping of the body's picture (directions and lengths of its bones) with
/// the model's body as that camera would see it. A hint of the view narrows the search. Refuses a clip in
/// which the form cannot be found.
Result<LineUp> lineUp(const Track& track, std::span<const ModelPerformance> models,
                      std::optional<double> azimuthHint);

} // namespace jl
