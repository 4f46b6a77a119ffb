#pragma once
#include <algorithm>

namespace jl
{

/// The range a measure should lie in, in the measure's unit.
struct Band {
    double low = 0;
    double high = 0;
    double tolerance = 0; ///< half-width that uncertainties are compared with; set for one-sided bands

    double halfWidth() const { return tolerance > 0 ? tolerance : 0.5 * (high - low); }
    double centre() const { return 0.5 * (low + high); }
    /// How far outside: positive above, negative below, 0 inside.
    double excess(double value) const { return value > high ? value - high : value < low ? value - low : 0; }
};

} // namespace jl
