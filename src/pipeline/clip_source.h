#pragma once
#include "body/track.h"
#include "pipeline/shipped_data.h"
#include "vision/extraction.h"

namespace jl
{

/// Whether a name is that of a track: a .json or .csv file.
bool namesTrack(const std::string& clipOrTrack);

/// The track behind a name: read from a track's file, or extracted from a clip.
Result<Track> trackOf(const std::string& clipOrTrack, const NetworkChoice& networks,
                      const Progress& progress);

} // namespace jl
