#pragma once
#include "review/progress.h"
#include <filesystem>

namespace jl
{

/// A review as the JSON that docs/formats.md describes.
std::string reviewJson(const Review& review, const ProgressSince* progress = nullptr);

/// What such a file keeps for comparison with a later review. Refuses other JSON and says what is missing.
Result<ReviewRecord> readRecord(const std::filesystem::path& file);
Result<ReviewRecord> recordFromJson(const std::string& text, const std::string& where);
/// The same and nothing else, in the same words.
std::string recordJson(const ReviewRecord& record);

} // namespace jl
