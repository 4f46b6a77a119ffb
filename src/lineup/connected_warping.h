#pragma once
#include "base/units.h"
#include "lineup/cost.h"
#include <functional>
#include <limits>
#include <span>
#include <vector>

namespace jl
{

/// A stretch of model states that is gone through in order: one posture, in one of the ways it may be done.
struct WarpingSegment {
    int begin = 0, end = 0; ///< states [begin, end)
    int item = 0;           ///< the place in the model's order; several segments may stand for one item
    Cost entry = 0;         ///< transition cost into this segment
    int alongside = -1;     ///< first state of the usual way of doing the item, from which it may be left for
                            ///< this one at any state; -1: none
    bool fromElsewhere = false; ///< entered from any item but the one before it
    int after = -1; ///< a segment, earlier in the list, from whose end this one is entered for free; -1: none
    bool onlyAfter = false; ///< and from nowhere else
    bool mayBegin = true;   ///< a series may begin in the middle of it
};

/// Transition costs of departures from the model's order, in the unit of the cost of one sample.
/// Chosen on: the quick set; departures on judged cases of seeds 3001 to 3004 and 9001. x0.5 and x2 of each:
/// none, on a set with two departures.
struct ConnectedOptions {
    Cost stay = 0.008;      ///< a sample in which the model stands still
    Ratio restless = 3;     ///< the same while the series moves, for each unit of its movement
    Cost skip = 0.008;      ///< a sample in which the model moves on by two states
    Cost stranger = 0.18;   ///< a sample that belongs to nothing in the model
    Cost unfinished = 0.3;  ///< a segment that is left before its end
    Cost leftOut = 0.15;    ///< items passed over, and
    Cost eachLeftOut = 0.1; ///< each of them
    Cost again = 0.25;      ///< the same item from its beginning
    Cost back = 0.25;       ///< to an earlier item
    Share lateEntry = 0.33; ///< share of a segment that may be missing at its beginning where it does not
                            ///< follow the one it should: the way into it is another then
    Cost lateStart = 0.1;   ///< a series that begins elsewhere than at the model's beginning
    Cost beam = 0.7;        ///< paths that cost more than the best by this are given up
    /// Mean cost a sample from which on nothing is of interest: the path is empty then and has this cost.
    Cost limit = std::numeric_limits<double>::infinity();
};

/// One segment gone through once: (sample, state) in order. The first steps may lie alongside.
struct WarpedRun {
    int segment = 0;
    std::vector<std::pair<int, int>> steps;
};

struct ConnectedPath {
    std::vector<WarpedRun> runs; ///< in the order of the samples
    Cost meanCost = 0;           ///< a sample
    int strangers = 0;           ///< samples that belong to nothing
};

/// One-pass dynamic programming over connected segments (Ney 1984, "The use of a one-stage dynamic
/// programming algorithm for connected word recognition"): every sample of a series is given to a state of a
/// segment or to nothing. Segments follow each other in the model's order for free; leaving out, repeating
/// and going back have transition costs. The series may begin and end in the middle of a segment. Moved: how
/// far each sample has moved on from the one before, in the unit of cost (empty: unknown); the model standing
/// still while the series moves costs more than in a pause, by `restless` times that movement.
ConnectedPath warpConnected(int samples, std::span<const WarpingSegment> segments, int items,
                            const std::function<double(int sample, int state)>& cost,
                            const ConnectedOptions& options = {}, std::span<const double> moved = {});

} // namespace jl
