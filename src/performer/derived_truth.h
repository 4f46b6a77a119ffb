#pragma once
#include "performer/figure.h"
#include <string_view>
#include <vector>

namespace jl
{

/// A true value that goes with the measures, but is not one of the table: absolute foot headings (deg) and
/// their offset from the nearest eighth of a turn, weight (%) and knee bend (deg) by side, knee tracking as
/// an angle (deg), lengths and widths in the body's own. headingDeg: of the posture.
struct NamedTruth {
    std::string_view id;
    double value;
};

std::vector<NamedTruth> derivedTruth(const Figure& figure, Side lead, double headingDeg);

} // namespace jl
