#pragma once
#include "base/result.h"
#include <filesystem>
#include <string>

namespace jl
{

/// The page docs/accuracy/README.md, written from the tables beside it: full.csv and held-out.csv
/// (accuracyCsv()), networks.csv (networksCsv()) and judgement.csv (judgementCsv()). An error names the table
/// that is missing or damaged.
Result<std::string> accuracyPage(const std::filesystem::path& folder);

} // namespace jl
