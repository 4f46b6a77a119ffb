#pragma once
#include "review/review.h"

namespace jl
{

/// From the first phase that stands at rest on both feet; none where the clip does not show it.
std::optional<Standing> standingOf(const Review& review, const FaultRules& rules);

} // namespace jl
