#pragma once
#include "lineup/cost.h"
#include <functional>
#include <vector>

namespace jl
{

/// A monotone path through two series and its mean cost a step.
struct WarpingPath {
    std::vector<std::pair<int, int>> steps; ///< (index in the first, index in the second), in order
    Cost meanCost = 0;
};

/// Costs in the unit of the cost of one step. Chosen on: the quick set. x0.5 and x2 of each: none.
struct WarpingOptions {
    Cost stretchPenalty = 0.02; ///< added for every step in which only one series moves on
    Cost skipPenalty = 0.25;    ///< cost a sample of the first series left out at its beginning or end
};

/// Dynamic time warping (Sakoe and Chiba 1978) of a first series, of which a beginning and an end may be left
/// out, with a second one that is used whole. cost(i, j) compares sample i of the first with sample j of the
/// second.
WarpingPath warp(int first, int second, const std::function<double(int, int)>& cost,
                 const WarpingOptions& options = {});

} // namespace jl
