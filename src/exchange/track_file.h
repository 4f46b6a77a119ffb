#pragma once
#include "base/result.h"
#include "body/track.h"
#include <filesystem>

namespace jl
{

/// Writes a track by the ending of the name: .json (everything), .csv (points and visibility in the picture),
/// .trc (metric points in the marker text format of motion capture). docs/formats.md describes all three.
Result<Done> writeTrack(const Track& track, const std::filesystem::path& file);

/// Reads a track written as JSON or, where the name ends in .csv, as CSV. Damaged files are refused with the
/// place where they go wrong.
Result<Track> readTrack(const std::filesystem::path& file);

/// The JSON of a track as text, and back; what the library keeps.
std::string trackToJson(const Track& track);
Result<Track> trackFromJson(const std::string& text, const std::string& where);

} // namespace jl
