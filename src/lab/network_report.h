#pragma once
#include "base/units.h"
#include "lab/accuracy_report.h"

namespace jl
{

/// How accurate the same clips are when one choice of networks finds the body.
struct NetworkAccuracy {
    std::string networks; ///< as NetworkChoice::name() has it
    std::vector<AccuracyRow> rows;
};

/// Errors against those of another choice: the geometric mean over rows with values enough of both.
struct ErrorRatio {
    int rows = 0;
    Ratio sd = 1, p90 = 1;
};
ErrorRatio errorRatio(const std::vector<AccuracyRow>& rows, const std::vector<AccuracyRow>& others);

/// Nine in ten errors by measure and view for each choice side by side, with all of them against the last one
/// and the share of true values within 2 u; and every row as JSON and as CSV.
std::string networksText(const std::vector<NetworkAccuracy>& all);
std::string networksJson(const std::vector<NetworkAccuracy>& all);
std::string networksCsv(const std::vector<NetworkAccuracy>& all);
/// Reads what networksCsv() writes; `file` is named in errors.
Result<std::vector<NetworkAccuracy>> networksFromCsv(const std::string& text, const std::string& file);

} // namespace jl
