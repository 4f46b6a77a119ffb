#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "body/track.h"
#include "draw/theme.h"
#include <string>

namespace jl
{

/// Writes a clip of a track's body drawn on paper, with the track's times, at most 540 pixels high: what
/// stands in for a video that is not at hand. For any thread.
Result<Done> writeTrackFilm(const Track& track, const Theme& theme, const std::string& file,
                            const Progress& progress = {});

} // namespace jl
