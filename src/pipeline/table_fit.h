#pragma once
#include "pipeline/validation.h"

namespace jl
{

/// The table of landmark offsets that fits extracted tracks best against the exact bodies: least squares of
/// the picture residuals over all frames, each landmark in the axes of its body part, m for a height of 1.70
/// m. JSON as in data/measure/landmark-offsets.json.
Result<std::string> fitOffsets(const ShippedData& data, const std::vector<CaseOutcome>& outcomes);

/// The table of bias and floor that makes the errors of these outcomes fit their uncertainties; of two
/// cameras for each kind of views, and for any. The outcomes must have been measured with an empty table.
/// JSON as in data/measure/accuracy.json.
std::string fitAccuracy(const std::vector<CaseOutcome>& outcomes);

/// The spread of a row of the table after another look at errors of values that were read with it: wider or
/// narrower by what 96 % of the true values within 2 u need; up to 97 %, where more than 1 % lie beyond 3 u,
/// and split between a floor and geometry as it is likeliest of the ways that leave both so. Where none
/// does, beyond 3 u only those count that are `certain` (all, if not told). Never narrower than by half, for
/// what was exact here is not always so. With no errors it stays.
AccuracyTable::Entry respread(const AccuracyTable::Entry& entry, const std::vector<double>& errors,
                              const std::vector<double>& u, const std::vector<bool>& certain = {});

/// The same for a measure of phases that is not fused (isFused()): a floor beside what each value is
/// uncertain by itself. It holds 96 % within 2 u and, so long as those do not become more than 97 %, 99 %
/// within 3 u. Of what is nearly always exactly right, like pauses counted, the few errors tell. With no
/// errors it stays.
AccuracyTable::Entry refloored(const AccuracyTable::Entry& entry, const std::vector<double>& errors,
                               const std::vector<double>& u);

/// The table, of which `file` is the record, with every row fitted again that is not as wanted
/// (isAsWanted()) in these outcomes, measured with it; but for the bias of whole phases' values that are no
/// less than nothing. A phase's row that no floor makes as wanted gets a scale as well. Two views without a
/// row of their own get one. What two cameras say is weighed by the uncertainties themselves, and a phase's
/// values have some that the table does not hold: one fit from nothing leaves them off, and a few rounds of
/// this bring most of them home.
Result<std::string> refitAccuracy(const std::filesystem::path& file, const AccuracyTable& table,
                                  const std::vector<CaseOutcome>& outcomes);

} // namespace jl
