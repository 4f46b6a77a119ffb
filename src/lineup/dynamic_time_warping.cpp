#include "lineup/dynamic_time_warping.h"
#include <algorithm>
#include <cstdint>
#include <limits>

namespace jl
{

WarpingPath warp(int first, int second, const std::function<double(int, int)>& cost,
                 const WarpingOptions& options)
{
    WarpingPath path;
    if (first == 0 || second == 0) return path;
    enum Move : std::uint8_t { Begin, Both, OnlyFirst, OnlySecond };
    const auto at = [second](int i, int j) { return static_cast<std::size_t>(i) * second + j; };
    std::vector<double> sum(static_cast<std::size_t>(first) * second);
    std::vector<std::uint8_t> move(sum.size());
    for (int i = 0; i < first; ++i) {
        for (int j = 0; j < second; ++j) {
            double best = std::numeric_limits<double>::infinity();
            Move by = Begin;
            const auto offer = [&](double value, Move m) {
                if (value >= best) return;
                best = value;
                by = m;
            };
            if (j == 0) offer(options.skipPenalty * i, Begin);
            if (i > 0 && j > 0) offer(sum[at(i - 1, j - 1)], Both);
            if (i > 0) offer(sum[at(i - 1, j)] + options.stretchPenalty, OnlyFirst);
            if (j > 0) offer(sum[at(i, j - 1)] + options.stretchPenalty, OnlySecond);
            // A diagonal step covers a sample of both series and counts twice, so that no path is favoured
            // for being short.
            sum[at(i, j)] = best + cost(i, j) * (by == Both ? 2 : 1);
            move[at(i, j)] = by;
        }
    }
    int end = 0;
    double best = std::numeric_limits<double>::infinity();
    for (int i = 0; i < first; ++i) {
        const double total = sum[at(i, second - 1)] + options.skipPenalty * (first - 1 - i);
        if (total < best) {
            best = total;
            end = i;
        }
    }
    path.meanCost = best / (first + second);
    for (int i = end, j = second - 1;;) {
        path.steps.emplace_back(i, j);
        const auto m = static_cast<Move>(move[at(i, j)]);
        if (m == Begin) break;
        if (m != OnlySecond) --i;
        if (m != OnlyFirst) --j;
    }
    std::reverse(path.steps.begin(), path.steps.end());
    return path;
}

} // namespace jl
