#pragma once
#include "base/result.h"
#include <string>

namespace jl
{

/// What a table that measuresCsv() wrote holds.
struct MeasuresTable {
    std::size_t moments = 0, measures = 0;
};

/// Whether the first line of a CSV is one of a table of measures, not of points.
bool namesMeasures(const std::string& csv);

/// Reads a table of measures and says where it is wrong: a line with other cells than the first line names, a
/// time that does not go on, a value that is not a number. `file` is named in the error.
Result<MeasuresTable> checkMeasures(const std::string& csv, const std::string& file);

} // namespace jl
