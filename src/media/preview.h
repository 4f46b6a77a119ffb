#pragma once
#include "base/progress.h"
#include "base/result.h"
#include <string>

namespace jl
{

/// Pixels: of pictures that follow a hand, which are shown sharp once it rests.
inline constexpr int kPreviewHeight = 540;

/// Writes a small copy of a clip with the same frame times and turns, in which every moment is found quickly:
/// at most maxHeight pixels high, a key frame every few pictures. It takes the place of nothing; it can be
/// made again at any time. Cancelled by its progress, it leaves no file.
Result<Done> writePreview(const std::string& clip, const std::string& preview, int maxHeight,
                          const Progress& progress = {});

} // namespace jl
