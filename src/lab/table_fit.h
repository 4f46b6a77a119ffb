#pragma once
#include "lab/validation.h"

namespace jl
{

/// The table of bias and floor that makes the errors of these outcomes fit their uncertainties; of two
/// cameras for each kind of views, and for any. The outcomes must have been measured with an empty table.
/// JSON as in data/measure/accuracy.json.
std::string fitAccuracy(const std::vector<CaseOutcome>& outcomes);

/// The table, of which `file` is the record, with every row fitted again that is not as wanted
/// (isAsWanted()) in these outcomes, measured with it; but for the bias of whole phases' values that are no
/// less than nothing. A phase's row that no floor makes as wanted gets a scale as well. Two views without a
/// row of their own get one. What two cameras say is weighed by the uncertainties themselves, and a phase's
/// values have some that the table does not hold: one fit from nothing leaves them off, and a few rounds of
/// this bring most of them home.
Result<std::string> refitAccuracy(const std::filesystem::path& file, const AccuracyTable& table,
                                  const std::vector<CaseOutcome>& outcomes);

} // namespace jl
