#pragma once
#include <optional>

namespace jl
{

/// What is known of the performer's body.
struct PersonProfile {
    std::optional<double> height;     ///< m
    std::optional<double> footLength; ///< m

    /// Height and foot length as used: where they are not known, a usual adult's, with its spread.
    double heightOrUsual() const { return height.value_or(kUsualHeight); }
    double heightSpread() const { return height ? 0.010 : 0.080; } ///< 1 sd, m
    double footLengthOrUsual() const { return footLength.value_or(0.157 * heightOrUsual()); }
    static constexpr double kUsualHeight = 1.68;
};

} // namespace jl
