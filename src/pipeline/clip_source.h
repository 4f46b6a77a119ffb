#pragma once
#include "body/track.h"
#include "pipeline/shipped_data.h"
#include "vision/extraction.h"

namespace jl
{

/// The track behind a name: a .json or .csv file is read as a track, anything else is a clip whose body is
/// extracted.
Result<Track> trackOf(const std::string& clipOrTrack, const NetworkChoice& networks,
                      const Progress& progress);

} // namespace jl
