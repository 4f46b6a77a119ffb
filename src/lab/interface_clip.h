#pragma once
#include "lab/lab_data.h"

namespace jl
{

/// What the window's benchmark reviews: a clip and its packed track, in a folder.
struct InterfaceClip {
    static constexpr const char* kClip = "clip.mp4";
    static constexpr const char* kTrack = "track.pack";
};

/// Renders a 1080p clip of the built-in performer into `folder`, with a track whose errors are drawn as the
/// networks err. The clip is repeated until it lasts `minutes`; it is shown once at least.
Result<Done> makeInterfaceClip(const LabData& data, double minutes, const std::filesystem::path& folder);

} // namespace jl
