#pragma once
#include "base/result.h"
#include "media/ffmpeg_handles.h"

namespace jl::ff
{

/// Opens a file of pictures or sound and reads what it says about its streams. Errors name the file and say
/// what is wrong with it and what to do.
Result<Handle<AVFormatContext>> openInput(const std::string& path);

/// What every message about a damaged clip advises.
inline constexpr const char* kAskForCopy =
    "Copy the file again from the camera or phone, or pick another clip.";

} // namespace jl::ff
