#pragma once
#include "review/review.h"

namespace jl
{

/// A review as the JSON that docs/formats.md describes.
std::string reviewJson(const Review& review);

/// The measures of a clip as CSV: one row a frame, value, uncertainty and status of each measure, empty where
/// unseen.
std::string measuresCsv(const ClipReading& clip);

/// A profile file: {"height": m, "foot_length": m}, both optional.
Result<PersonProfile> readProfile(const std::filesystem::path& file);

} // namespace jl
