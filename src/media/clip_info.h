#pragma once
#include "base/result.h"
#include <optional>
#include <string>

namespace jl
{

/// What a video file says about itself.
struct ClipInfo {
    std::string path;
    std::string codec;
    int width = 0; ///< upright, pixels
    int height = 0;
    int quarterTurns = 0;       ///< clockwise turns of the stored picture that make it upright
    double framesPerSecond = 0; ///< mean over the clip
    double duration = 0;        ///< s
    bool variableFrameRate = false;
    /// Deg across the longer side of the picture, from the focal length that some phones write into the file
    /// (as of a picture 36 mm wide). Steadying in the phone may have narrowed it by a few percent.
    std::optional<double> fieldOfView;
};

/// Opens a clip only to look at its head. Errors name the file and say what is wrong with it.
Result<ClipInfo> probe(const std::string& path);

} // namespace jl
