#pragma once
#include "app/jobs/frame_feed.h"
#include "body/track.h"
#include "pipeline/shipped_data.h"
#include <memory>

namespace jl
{

/// The built-in performer as a reference to look at: pictures are drawn when they are asked for.
struct PerformerFilm {
    std::unique_ptr<FrameFeed> feed;
    Track track; ///< exact body points in those pictures
};

/// Films the form from the given direction (deg), at a size that suits the bench.
PerformerFilm filmPerformer(const ShippedData& data, const std::string& form, const std::string& school,
                            Side lead, double azimuth);

} // namespace jl
