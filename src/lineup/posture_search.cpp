#include "lineup/posture_search.h"
#include "base/units.h"
#include "body/motion.h"
#include "lineup/departures.h"
#include <algorithm>

namespace jl
{
namespace
{

/// Options of the search for postures.
/// Chosen on: the quick set (validate --quick).
struct PostureSearchOptions {
    /// Samples a second. x0.5: err +8 %, u +1 %, 2u -0.8, n -8 %; x2: key -0.6.
    double rate = 5;
    /// Samples a second in long clips, at least. x0.5 and x2: none.
    double longRate = 3;
    /// Samples up to which the full rate is used. x0.5 and x2: none.
    Ratio fineSamples = 900;
    /// Of a posture: less of it inside a clip is the edge of another posture. x0.5 and x2: none.
    Share fragment = 0.4;
    /// Of the model, from which the first move has begun. x0.5 and x2: none.
    Seconds openingMoved = 0.1;
    /// Transition cost that forbids a departure. x0.5 and x2: none.
    Cost never = 50;
    /// Beam of the path in the form's order. x0.5 and x2: none.
    Cost orderBeam = 3;
};
constexpr PostureSearchOptions kOptions;

PostureRun runOf(const PosturePath& path, std::size_t index)
{
    const WarpedRun& warped = path.runs()[index];
    const PostureWays& states = path.ways();
    const PictureSeries& clip = path.clip();
    const WarpingSegment& segment = states.segment(warped.segment);
    PostureRun run;
    run.place = static_cast<std::size_t>(segment.item);
    run.otherSide = path.way(index).otherSide;
    run.turned = path.way(index).turned;
    run.rearranged = path.way(index).rearranged;
    run.begin = clip.time[warped.steps.front().first];
    run.end = clip.time[warped.steps.back().first];
    const double first = states.modelTimeAt(segment.begin), last = states.modelTimeAt(segment.end - 1);
    const double leeway = std::max(0.4, (last - first) / 6);
    run.begun = states.modelTimeAt(warped.steps.front().second) < first + leeway;
    run.done = states.modelTimeAt(warped.steps.back().second) > last - leeway;
    for (const auto& [i, j] : warped.steps)
        run.timePairs.emplace_back(clip.time[i], states.modelTimeAt(j));
    run.cost = path.meanDissimilarity(index);
    return run;
}

/// How much of its posture a run goes through.
double shownShare(const WarpedRun& run, const PostureWays& states)
{
    const WarpingSegment& segment = states.segment(run.segment);
    const auto time = [&](int state) { return states.modelTimeAt(state); };
    return (time(run.steps.back().second) - time(run.steps.front().second)) /
           std::max(0.1, time(segment.end - 1) - time(segment.begin));
}

/// Whether a run is more than another posture's edge: a fair part of its posture, or cut off by the clip next
/// to the posture that follows or goes before it in the form.
bool isWhole(const PosturePath& path, std::size_t i)
{
    if (shownShare(path.runs()[i], path.ways()) > kOptions.fragment) return true;
    if (i == 0) return path.runs().size() > 1 && path.place(1) == path.place(0) + 1;
    return i + 1 == path.runs().size() && path.place(i) == path.place(i - 1) + 1;
}

/// The runs that keep the model's order, the most that can: of two that were exchanged the one done first.
std::vector<bool> keepingOrder(const std::vector<PostureRun>& runs)
{
    const std::size_t n = runs.size();
    std::vector<std::size_t> length(n, 1), before(n, n);
    std::size_t last = n;
    for (std::size_t i = 0; i < n; ++i) {
        if (!runs[i].counts) continue;
        for (std::size_t k = 0; k < i; ++k)
            if (runs[k].counts && runs[k].place < runs[i].place && length[k] + 1 > length[i]) {
                length[i] = length[k] + 1;
                before[i] = k;
            }
        if (last == n || length[i] > length[last]) last = i;
    }
    std::vector<bool> keeps(n, false);
    for (; last != n; last = before[last])
        keeps[last] = true;
    return keeps;
}

/// Of the runs of one posture the most complete counts, then the most similar; the others are false starts or
/// repeats.
void tellOrder(std::vector<PostureRun>& runs)
{
    const auto better = [](const PostureRun& a, const PostureRun& b) {
        const auto rank = [](const PostureRun& r) { return std::pair(r.begun + r.done, -r.cost); };
        return rank(a) > rank(b);
    };
    for (PostureRun& run : runs)
        run.counts = std::none_of(runs.begin(), runs.end(), [&](const PostureRun& other) {
            return &other != &run && other.place == run.place && better(other, run);
        });
    const std::vector<bool> keeps = keepingOrder(runs);
    for (std::size_t i = 0; i < runs.size(); ++i) {
        PostureRun& run = runs[i];
        const bool before = std::any_of(runs.begin(), runs.begin() + static_cast<std::ptrdiff_t>(i),
                                        [&](const PostureRun& r) { return r.place == run.place && r.done; });
        const bool after = std::any_of(runs.begin() + static_cast<std::ptrdiff_t>(i) + 1, runs.end(),
                                       [&](const PostureRun& r) { return r.place == run.place; });
        if (!run.done && after)
            run.order = PostureRun::Order::FalseStart;
        else if (before)
            run.order = PostureRun::Order::Repeated;
        else if (run.counts && !keeps[i])
            run.order = PostureRun::Order::OutOfOrder;
    }
}

/// Standing, as long as the run after it has not begun to move.
PostureRun openingBefore(PostureRun& first, const ModelPerformance& model)
{
    const ModelPerformance::Place place = model.places().front();
    const double still = first.timePairs.front().second + kOptions.openingMoved;
    const auto moves = std::find_if(first.timePairs.begin() + 1, first.timePairs.end() - 1,
                                    [&](const auto& pair) { return pair.second > still; });
    PostureRun opening;
    opening.begin = first.begin;
    opening.end = (moves - 1)->first;
    opening.cost = first.cost;
    opening.timePairs = {{opening.begin, place.begin}, {opening.end, place.end}};
    first.begin = moves->first;
    first.timePairs.erase(first.timePairs.begin(), moves);
    return opening;
}

/// For a path through the postures as the form has them, whatever that costs.
ConnectedOptions inOrderOnly(ConnectedOptions prices)
{
    for (double* price : {&prices.unfinished, &prices.leftOut, &prices.again, &prices.back})
        *price = kOptions.never;
    prices.beam = kOptions.orderBeam;
    return prices;
}

/// A path that costs more than one through fewer of these ways has lost a better one to the beam: it is
/// searched again with a wider one.
PosturePath pathThrough(const PictureSeries& clip, PostureWays ways, ConnectedOptions prices,
                        double meanCostOfFewer)
{
    PosturePath path(clip, ways, prices);
    if (path.meanCost() <= meanCostOfFewer) return path;
    prices.beam *= 4;
    return {clip, std::move(ways), prices};
}

/// The path through the postures as the form has them; where every way is looked for and it leaves
/// doubts, at the clip's own tempo through every way to do them. The first path stays where neither leaves
/// the order, so that a doubt alone changes no timing; the form's order where what leaves it is not believed.
PosturePath closely(const PictureSeries& clip, const ModelPerformance& model,
                    const ModelPerformance* mirrored, const FoundCamera& camera, double rate,
                    PostureLook look)
{
    const auto usualWays = [&](double waysRate) {
        return PostureWays(model, camera.azimuth, camera.distance, waysRate);
    };
    PosturePath first(clip, usualWays(rate), transitionCostsAt(rate));
    if (look == PostureLook::AsInForm || first.runs().empty()) return first;
    std::vector<bool> doubtful = doubtfulPlaces(first);
    if (look == PostureLook::Expecting) doubtful.assign(doubtful.size(), true);
    if (std::find(doubtful.begin(), doubtful.end(), true) == doubtful.end()) return first;
    const double paced = rate / std::clamp(first.usualTempo(), 0.5, 2.0);
    PostureWays everyWay = usualWays(paced);
    everyWay.addTurned(doubtful, mirrored);
    everyWay.addRearranged(doubtful);
    const ConnectedOptions prices = transitionCostsAt(rate, true);
    PosturePath other = pathThrough(clip, std::move(everyWay), prices, first.meanCost());
    if (!departs(other)) return departs(first) ? std::move(other) : std::move(first);
    PosturePath inOrder(clip, usualWays(rate), inOrderOnly(transitionCostsAt(rate)));
    const PosturePath inOrderPaced(clip, usualWays(paced), inOrderOnly(prices));
    const double share = look == PostureLook::Expecting ? 0.5 : 1;
    const bool believed = !beginsAside(other) && isBelieved(other, inOrder, inOrderPaced, share);
    return believed ? std::move(other) : std::move(inOrder);
}

} // namespace

FoundPostures findPostures(const Track& track, std::span<const ModelPerformance> models,
                           const FoundCamera& camera, PostureLook look)
{
    const ModelPerformance& model = models[camera.model];
    const auto mirrored = std::find_if(models.begin(), models.end(),
                                       [&](const ModelPerformance& m) { return m.lead != model.lead; });
    const double begin = track.frames.front().time, end = track.frames.back().time;
    const double rate =
        std::clamp(kOptions.fineSamples / (end - begin + 1), kOptions.longRate, kOptions.rate);
    const PictureSeries clip = picturesOf(track, standingSize(track), rate, begin, end);
    const PosturePath path =
        closely(clip, model, mirrored == models.end() ? nullptr : &*mirrored, camera, rate, look);
    FoundPostures out{path.meanCost(), 0, {}};
    out.strangers =
        static_cast<double>(path.strangers()) / static_cast<double>(std::max<std::size_t>(1, clip.size()));
    for (std::size_t i = 0; i < path.runs().size(); ++i)
        if (isWhole(path, i)) out.runs.push_back(runOf(path, i));
    const bool beganLate = skipsBeginning(path) && isWhole(path, 0);
    if (beganLate && out.runs.front().timePairs.size() > 3)
        out.runs.insert(out.runs.begin(), openingBefore(out.runs.front(), model));
    tellOrder(out.runs);
    return out;
}

} // namespace jl
