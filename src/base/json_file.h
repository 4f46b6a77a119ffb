#pragma once
#include "base/result.h"
#include <filesystem>
#include <nlohmann/json.hpp>
#include <string>

namespace jl
{

/// Reads a file whole; an error where it cannot be opened.
Result<std::string> readText(const std::filesystem::path& file);

/// Reads a JSON file whole. A missing or truncated file, or one with a syntax error, gives an error that
/// names the file and the place.
Result<nlohmann::json> readJson(const std::filesystem::path& file);

/// Writes the file beside its place first and then moves it there, so that a full disk or a crash never
/// leaves half a file behind. Pipes and devices (/dev/stdout) are written to as they are.
Result<Done> writeText(const std::filesystem::path& file, const std::string& text);

} // namespace jl
