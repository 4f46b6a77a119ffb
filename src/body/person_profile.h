#pragma once
#include "base/units.h"
#include <optional>

namespace jl
{

/// What is known of the performer's body.
struct PersonProfile {
    std::optional<Metres> height;     ///< m
    std::optional<Metres> footLength; ///< m

    /// Height and foot length as used: where they are not known, a usual adult's, with its spread.
    double heightOrUsual() const { return height.value_or(kUsualHeight); }
    double heightSpread() const { return height ? 0.010 : 0.080; } ///< 1 sd, m
    double footLengthOrUsual() const { return footLength.value_or(0.157 * heightOrUsual()); }
    static constexpr Metres kUsualHeight = 1.68;
};

} // namespace jl
