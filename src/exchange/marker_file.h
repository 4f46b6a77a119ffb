#pragma once
#include "base/result.h"
#include "body/body_motion.h"
#include <filesystem>

namespace jl
{

/// Reads marker data of motion capture (TRC text, metres or millimetres) with a mapping from its own markers
/// to the 33 body points, described in docs/formats.md: which axis is up, and for every point the markers
/// whose mean it is. Gaps of a marker are bridged evenly; a point without markers stays NaN. The floor is put
/// under the lowest foot. Errors name the file, the line and what is wrong there.
Result<BodyMotion> readMarkers(const std::filesystem::path& file, const std::filesystem::path& mapping);

} // namespace jl
