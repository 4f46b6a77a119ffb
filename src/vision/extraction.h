#pragma once
#include "base/progress.h"
#include "body/track.h"
#include "vision/network_store.h"
#include <optional>
#include <string>
#include <utility>

namespace jl
{

/// Of the way points are found: counts up when the same clip would give others, so that what was kept of a
/// clip is known to be from before.
inline constexpr int kExtractionEdition = 2;

/// Whom to follow where several people are in the picture: who is at this point at this time.
struct ChosenPerson {
    double time = 0;             ///< s
    Eigen::Vector2d point{0, 0}; ///< pixels of the upright picture
};

struct ExtractionOptions {
    NetworkChoice networks;
    int threads = 0;                                ///< 0: one per core
    std::optional<std::pair<double, double>> range; ///< only frames from .first to .second, s
    std::optional<ChosenPerson> person;             ///< none: the most prominent when the clip begins
    Progress progress;                              ///< called from the calling thread
};

/// Extracts the body from a clip. The clip is split in time over the threads, each with its own decoder and
/// its own single-threaded network, and the parts are joined in order. No person in any frame gives
/// NothingFound.
Result<Track> extractTrack(const std::string& clip, const ExtractionOptions& options);

} // namespace jl
