#pragma once
#include <string>
#include <vector>

namespace jl
{

/// The cautions that every report carries, in the order in which they are printed.
const std::vector<std::string>& cautions();

} // namespace jl
