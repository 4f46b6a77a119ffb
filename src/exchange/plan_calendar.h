#pragma once
#include "review/practice_plan.h"
#include <filesystem>

namespace jl
{

/// Writes a practice plan as an iCalendar file (RFC 5545): one all-day event a day, its items in the
/// description.
Result<Done> writeCalendar(const std::vector<PlannedDay>& plan, const std::string& title,
                           const std::filesystem::path& file);

/// The calendar's text.
std::string calendarText(const std::vector<PlannedDay>& plan, const std::string& title);

} // namespace jl
