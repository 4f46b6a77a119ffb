#pragma once
#include "base/progress.h"
#include "body/track.h"
#include "vision/network_store.h"
#include <optional>
#include <string>
#include <utility>

namespace jl
{

struct ExtractionOptions {
    NetworkChoice networks;
    int threads = 0;                                ///< 0: one per core
    std::optional<std::pair<double, double>> range; ///< only frames from .first to .second, s
    Progress progress;                              ///< called from the calling thread
};

/// Extracts the body from a clip. The clip is split in time over the threads, each with its own decoder and
/// its own single-threaded network, and the parts are joined in order. No person in any frame gives
/// NothingFound.
Result<Track> extractTrack(const std::string& clip, const ExtractionOptions& options);

} // namespace jl
