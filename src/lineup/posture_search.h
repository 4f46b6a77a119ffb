#pragma once
#include "base/units.h"
#include "lineup/camera_search.h"
#include "lineup/cost.h"
#include "lineup/posture_run.h"

namespace jl
{

/// Which postures a clip shows, and when.
struct FoundPostures {
    Cost meanCost = 0;            ///< a sample
    Share strangers = 0;          ///< share of the clip that belongs to no posture
    std::vector<PostureRun> runs; ///< in the clip's order
};

/// In which ways postures are looked for: as the form has them, or also turned, on the other side and come to
/// from others where the form leaves doubts, at several times the cost. Where departures are expected, since
/// another camera has seen some, half the evidence for them is enough, and there need be no doubts.
enum class PostureLook { AsInForm, EveryWay, Expecting };

/// The runs of postures that fit a smoothed track best.
FoundPostures findPostures(const Track& track, std::span<const ModelPerformance> models,
                           const FoundCamera& camera, PostureLook look = PostureLook::EveryWay);

} // namespace jl
