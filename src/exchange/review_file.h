#pragma once
#include "form/motion_reading.h"
#include "review/review.h"

namespace jl
{

/// A review as the JSON that docs/formats.md describes.
std::string reviewJson(const Review& review);

/// The measures of a clip as CSV: one row a frame, value, uncertainty and status of each measure, empty where
/// unseen.
std::string measuresCsv(const ClipReading& clip);
/// Of motion capture: one row a frame with its posture and phase, values empty where a point is not marked.
std::string measuresCsv(const MotionReading& motion);

/// A profile file: {"height": m, "foot_length": m}, both optional.
Result<PersonProfile> readProfile(const std::filesystem::path& file);

} // namespace jl
