#include "lineup/posture_path.h"
#include <algorithm>
#include <numeric>

namespace jl
{
namespace
{

constexpr double kPricedRate = 5; ///< samples a second for which the prices of ConnectedOptions are meant

/// How far each sample has moved on from the one before.
std::vector<double> movedIn(const PictureSeries& clip)
{
    std::vector<double> moved(clip.size(), 0.0);
    for (std::size_t i = 1; i < clip.size(); ++i)
        moved[i] = tolerantDissimilarity(clip.lines[i], clip.lines[i - 1]);
    return moved;
}

} // namespace

ConnectedOptions transitionCostsAt(double rate, bool everyWay)
{
    ConnectedOptions o; // a departure costs as much in seconds at any rate
    if (everyWay) {
        o.skip = 0.04;
        o.back = 0.1;
    }
    const double by = rate / kPricedRate, cheaper = everyWay ? 0.5 : 1;
    for (double* price :
         {&o.unfinished, &o.leftOut, &o.eachLeftOut, &o.again, &o.back, &o.lateStart, &o.beam})
        *price *= by * cheaper;
    o.restless *= by * by; // unlikeness grows with the square of what is moved between two samples
    return o;
}

PosturePath::PosturePath(const PictureSeries& clip, PostureWays ways, const ConnectedOptions& prices)
    : m_clip(clip), m_ways(std::move(ways)), m_prices(prices)
{
    m_path = warpConnected(
        static_cast<int>(clip.size()), m_ways.segments(), static_cast<int>(m_ways.places()),
        [&](int i, int j) { return dissimilarityAt(i, j); }, prices, movedIn(clip));
}

double PosturePath::dissimilarityAt(int sample, int state) const
{
    return tolerantDissimilarity(m_clip.lines[static_cast<std::size_t>(sample)], m_ways.linesAt(state));
}

std::vector<double> PosturePath::dissimilarity(std::size_t run) const
{
    std::vector<double> out;
    for (const auto& [i, j] : m_path.runs[run].steps)
        out.push_back(dissimilarityAt(i, j));
    return out;
}

double PosturePath::meanDissimilarity(std::size_t run) const
{
    const std::vector<double> all = dissimilarity(run);
    return std::accumulate(all.begin(), all.end(), 0.0) / static_cast<double>(all.size());
}

double PosturePath::tempo(std::size_t run) const
{
    const auto& [from, modelFrom] = m_path.runs[run].steps.front();
    const auto& [to, modelTo] = m_path.runs[run].steps.back();
    return (m_ways.modelTimeAt(modelTo) - m_ways.modelTimeAt(modelFrom)) /
           std::max(1e-9,
                    m_clip.time[static_cast<std::size_t>(to)] - m_clip.time[static_cast<std::size_t>(from)]);
}

double PosturePath::usualTempo() const
{
    std::vector<double> all;
    for (std::size_t i = 0; i < m_path.runs.size(); ++i)
        all.push_back(tempo(i));
    return middleOf(std::move(all));
}

std::vector<double> PosturePath::dissimilarityAlong() const
{
    std::vector<double> out(m_clip.size(), m_prices.stranger);
    for (const WarpedRun& run : m_path.runs)
        for (const auto& [i, j] : run.steps)
            out[static_cast<std::size_t>(i)] = dissimilarityAt(i, j);
    return out;
}

std::vector<double> PosturePath::costAlong() const
{
    std::vector<double> out = dissimilarityAlong();
    for (const WarpedRun& run : m_path.runs)
        for (std::size_t k = 1; k < run.steps.size(); ++k)
            out[static_cast<std::size_t>(run.steps[k].first)] += paceCost(run, k);
    return out;
}

double PosturePath::paceCost(const WarpedRun& run, std::size_t step) const
{
    const auto [sample, state] = run.steps[step];
    const int on = state - run.steps[step - 1].second; // another number where it leaves the usual way
    if (on == 2 || on == 3) return (on - 1) * m_prices.skip;
    if (on != 0) return 0;
    const auto i = static_cast<std::size_t>(sample);
    return m_prices.stay + m_prices.restless * tolerantDissimilarity(m_clip.lines[i], m_clip.lines[i - 1]);
}

double middleOf(std::vector<double> all)
{
    const auto middle = all.begin() + static_cast<std::ptrdiff_t>(all.size() / 2);
    std::nth_element(all.begin(), middle, all.end());
    return *middle;
}

} // namespace jl
