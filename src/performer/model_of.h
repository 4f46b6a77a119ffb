#pragma once
#include "performer/performance.h"
#include "standards/model_performance.h"

namespace jl
{

/// The built-in performer's faultless performance of a form, led by the given side: what clips are lined up
/// with. A body with limits performs the gentler variants.
Result<ModelPerformance> modelPerformance(const Standards& standards, const std::string& form,
                                          const std::string& school, Side lead, const BodyShape& body = {});

} // namespace jl
