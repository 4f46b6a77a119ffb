#pragma once
#include "lab/validation.h"

namespace jl
{

/// The table of landmark offsets that fits extracted tracks best against the exact bodies: least squares of
/// the picture residuals over all frames, each landmark in the axes of its body part, m for a height of 1.70
/// m. JSON as in data/measure/landmark-offsets.json.
Result<std::string> fitOffsets(const ShippedData& data, const std::vector<CaseOutcome>& outcomes);

} // namespace jl
