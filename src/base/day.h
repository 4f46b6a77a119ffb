#pragma once
#include <chrono>
#include <optional>
#include <string>

namespace jl
{

/// A day as files write it, "2026-03-14".
std::string dayText(std::chrono::sys_days day);
/// Reads it back; none where it is no day.
std::optional<std::chrono::sys_days> dayFrom(const std::string& text);
/// Today, in UTC.
std::chrono::sys_days today();

} // namespace jl
