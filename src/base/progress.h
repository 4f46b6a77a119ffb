#pragma once
#include <functional>

namespace jl
{

/// Called now and then with the share done (0 to 1), from whichever thread does the work.
/// Returning false asks the work to stop; it then ends with Error::Kind::Cancelled.
using Progress = std::function<bool(double)>;

} // namespace jl
