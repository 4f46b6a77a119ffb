#pragma once
#include "pipeline/validation.h"

namespace jl
{

/// The table of landmark offsets that fits extracted tracks best against the exact bodies: least squares of
/// the picture residuals over all frames, each landmark in the axes of its body part, m for a height of 1.70
/// m. JSON as in data/measure/landmark-offsets.json.
Result<std::string> fitOffsets(const ShippedData& data, const std::vector<CaseOutcome>& outcomes);

/// The table of bias and floor that makes the errors of these outcomes fit their uncertainties, from the
/// phases in which a measure is judged; of two cameras for each kind of views, and for any. The outcomes must
/// have been measured with an empty table. JSON as in data/measure/accuracy.json.
std::string fitAccuracy(const std::vector<CaseOutcome>& outcomes);

} // namespace jl
