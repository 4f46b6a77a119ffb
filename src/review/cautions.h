#pragma once
#include "review/review.h"
#include <string>
#include <vector>

namespace jl
{

/// The cautions that every report carries, in the order in which they are printed.
const std::vector<std::string>& cautions();

/// Those, and the ones that belong to the postures which the clip shows.
std::vector<std::string> cautionsFor(const Standards& standards, const Review& review);

} // namespace jl
