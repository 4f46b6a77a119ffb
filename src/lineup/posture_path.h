#pragma once
#include "lineup/posture_ways.h"

namespace jl
{

/// Prices for ways of so many samples a second. Where the states go at the clip's own tempo and know every
/// way, haste is suspicious, a return need not pay for pictures that do not fit, and departures are cheap:
/// whether they are believed is asked afterwards.
ConnectedOptions transitionCostsAt(double rate, bool everyWay = false);

/// The cheapest path of a clip's pictures through ways to do the postures. The pictures are kept by
/// reference.
class PosturePath
{
public:
    PosturePath(const PictureSeries& clip, PostureWays ways, const ConnectedOptions& prices);

    const PictureSeries& clip() const { return m_clip; }
    const PostureWays& ways() const { return m_ways; }
    const std::vector<WarpedRun>& runs() const { return m_path.runs; }
    double meanCost() const { return m_path.meanCost; } ///< a sample
    int strangers() const { return m_path.strangers; }  ///< samples that belong to no posture

    int place(std::size_t run) const { return m_ways.segment(m_path.runs[run].segment).item; }
    const PostureWays::Way& way(std::size_t run) const { return m_ways.way(m_path.runs[run].segment); }
    /// Dissimilarity of a run's samples from the model.
    std::vector<double> dissimilarity(std::size_t run) const;
    double meanDissimilarity(std::size_t run) const;
    /// How much faster than the model a run goes through its posture, and most of the runs do; there must be
    /// one.
    double tempo(std::size_t run) const;
    double usualTempo() const;
    /// Dissimilarity of each sample from the model, and the same with the transition costs of its pace.
    std::vector<double> dissimilarityAlong() const;
    std::vector<double> costAlong() const;

private:
    double dissimilarityAt(int sample, int state) const;
    double paceCost(const WarpedRun& run, std::size_t step) const;

    const PictureSeries& m_clip;
    PostureWays m_ways;
    ConnectedOptions m_prices;
    ConnectedPath m_path;
};

/// The median; there must be a value.
double middleOf(std::vector<double> all);

} // namespace jl
