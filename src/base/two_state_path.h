#pragma once
#include <array>
#include <cstddef>
#include <optional>
#include <vector>

namespace jl
{

/// What one sample of a series costs under two hypotheses.
struct TwoStateCosts {
    std::array<double, 2> emission{}; ///< of the sample, if the first or the second hypothesis holds
    double keep = 0;                  ///< transition cost of staying with a hypothesis
    double change = 0;                ///< transition cost of going over to the other
};

/// The cheapest course through a series of which at each sample one of two hypotheses holds (Viterbi 1967):
/// false where the first does, true where the second does. `start`: cost of beginning with each. costs(i)
/// gives the costs of a sample, or none where it shows nothing; the hypothesis then stays. Where both ends
/// cost the same, the first hypothesis holds at the end.
template <class Costs>
std::vector<bool> twoStatePath(std::size_t samples, std::array<double, 2> start, const Costs& costs)
{
    std::array<double, 2> cost = start;
    std::vector<std::array<bool, 2>> changed(
        samples); // whether the best way into a state came from the other
    for (std::size_t i = 0; i < samples; ++i) {
        const std::optional<TwoStateCosts> sample = costs(i);
        if (!sample) continue;
        std::array<double, 2> next{};
        for (std::size_t h : {0U, 1U}) {
            const double stay = cost[h] + sample->keep, move = cost[1 - h] + sample->change;
            changed[i][h] = move < stay;
            next[h] = (move < stay ? move : stay) + sample->emission[h];
        }
        cost = next;
    }
    std::vector<bool> path(samples);
    bool h = cost[1] < cost[0];
    for (std::size_t i = samples; i-- > 0;) {
        path[i] = h;
        if (changed[i][h]) h = !h;
    }
    return path;
}

} // namespace jl
