#include "form/posture_search.h"
#include "base/angles.h"
#include "body/motion.h"
#include "form/connected_warping.h"
#include "form/posture_ways.h"
#include <algorithm>
#include <cmath>
#include <future>
#include <limits>

namespace jl
{
namespace
{

constexpr double kRate = 5;     ///< samples a second in which postures are told apart; in long clips
constexpr double kLongRate = 3; ///< down to this
constexpr double kFineSamples = 900;
constexpr double kLeastRate = 1.25; ///< in which the camera's direction is sought
constexpr double kCoarseSamples = 240;
constexpr double kFragment =
    0.4; ///< of a posture: less of it, in the middle of a clip, is another one's edge
constexpr int kAzimuths = 24;
constexpr int kAzimuthStride = 7; ///< the next one tried is far from the last: a good one is met early
constexpr double kUntried = std::numeric_limits<double>::infinity();
constexpr std::size_t kPromising = 4; ///< directions for which the camera's distance is sought

/// Prices for a rate. Where the states go at the clip's own tempo, haste is suspicious; where they know the
/// ways back to each posture, a return need not pay for pictures that do not fit.
ConnectedOptions pricesAt(double rate, bool ownTempo = false)
{
    ConnectedOptions o; // as for kRate; a departure costs as much in seconds at any rate
    if (ownTempo) {
        o.skip = 0.04;
        o.back = 0.1;
    }
    const double by = rate / kRate;
    for (double* price :
         {&o.unfinished, &o.leftOut, &o.eachLeftOut, &o.again, &o.back, &o.lateStart, &o.beam})
        *price *= by;
    o.restless *= by * by; // unlikeness grows with the square of what is moved between two samples
    return o;
}

ConnectedPath pathThrough(const PictureSeries& clip, const PostureWays& states, std::size_t places,
                          const ConnectedOptions& prices)
{
    std::vector<double> moved(clip.size(), 0.0);
    for (std::size_t i = 1; i < clip.size(); ++i)
        moved[i] = tolerantUnlikeness(clip.lines[i], clip.lines[i - 1]);
    return warpConnected(
        static_cast<int>(clip.size()), states.segments(), static_cast<int>(places),
        [&](int i, int j) { return tolerantUnlikeness(clip.lines[i], states.linesAt(j)); }, prices, moved);
}

/// A sample, on average.
double unlikenessOf(const WarpedRun& run, const PictureSeries& clip, const PostureWays& states)
{
    double sum = 0;
    for (const auto& [i, j] : run.steps)
        sum += tolerantUnlikeness(clip.lines[i], states.linesAt(j));
    return sum / static_cast<double>(run.steps.size());
}

PostureRun runOf(const WarpedRun& warped, const PictureSeries& clip, const PostureWays& states)
{
    const WarpingSegment& segment = states.segment(warped.segment);
    PostureRun run;
    run.place = static_cast<std::size_t>(segment.item);
    run.otherSide = states.way(warped.segment).otherSide;
    run.turned = states.way(warped.segment).turned;
    run.rearranged = states.way(warped.segment).rearranged;
    run.begin = clip.time[warped.steps.front().first];
    run.end = clip.time[warped.steps.back().first];
    const double first = states.modelTimeAt(segment.begin), last = states.modelTimeAt(segment.end - 1);
    const double leeway = std::max(0.4, (last - first) / 6);
    run.begun = states.modelTimeAt(warped.steps.front().second) < first + leeway;
    run.done = states.modelTimeAt(warped.steps.back().second) > last - leeway;
    for (const auto& [i, j] : warped.steps)
        run.timePairs.emplace_back(clip.time[i], states.modelTimeAt(j));
    run.cost = unlikenessOf(warped, clip, states);
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
bool isWhole(const std::vector<WarpedRun>& runs, std::size_t i, const PostureWays& states)
{
    const auto place = [&](std::size_t k) { return states.segment(runs[k].segment).item; };
    if (shownShare(runs[i], states) > kFragment) return true;
    if (i == 0) return runs.size() > 1 && place(1) == place(0) + 1;
    return i + 1 == runs.size() && place(i) == place(i - 1) + 1;
}

/// How much faster than the model a run goes through its posture.
double tempoOf(const WarpedRun& run, const PictureSeries& clip, const PostureWays& states)
{
    const auto& [from, modelFrom] = run.steps.front();
    const auto& [to, modelTo] = run.steps.back();
    return (states.modelTimeAt(modelTo) - states.modelTimeAt(modelFrom)) /
           std::max(1e-9, clip.time[to] - clip.time[from]);
}

double middleOf(std::vector<double> all)
{
    const auto middle = all.begin() + static_cast<std::ptrdiff_t>(all.size() / 2);
    std::nth_element(all.begin(), middle, all.end());
    return *middle;
}

/// Of most of the runs; there must be one.
double usualTempo(const ConnectedPath& path, const PictureSeries& clip, const PostureWays& states)
{
    std::vector<double> all;
    for (const WarpedRun& run : path.runs)
        all.push_back(tempoOf(run, clip, states));
    return middleOf(std::move(all));
}

/// Whether a path leaves the model's order or its usual ways.
bool departs(const ConnectedPath& path, const PostureWays& states)
{
    int expected = 0;
    return std::any_of(path.runs.begin(), path.runs.end(), [&](const WarpedRun& run) {
        const PostureWays::Way& way = states.way(run.segment);
        return way.otherSide || way.turned != 0 || states.segment(run.segment).item != expected++;
    });
}

/// Whether a path goes through a posture in a way that makes one wonder: much more unlike it than its
/// neighbours (whoever walks aside is further from the model's picture for a while), or much faster.
bool isOdd(const ConnectedPath& path, const PictureSeries& clip, const PostureWays& states)
{
    constexpr double unlike = 1.5, hasty = 2; // times what is usual there
    constexpr std::size_t neighbours = 4;     // on either side
    if (path.runs.empty()) return false;
    const double tempo = usualTempo(path, clip, states);
    std::vector<double> unlikeness;
    for (const WarpedRun& run : path.runs) {
        unlikeness.push_back(unlikenessOf(run, clip, states));
        if (tempoOf(run, clip, states) > hasty * tempo && run.steps.size() > 2) return true;
    }
    for (std::size_t i = 0; i < unlikeness.size(); ++i) {
        const std::size_t first = i < neighbours ? 0 : i - neighbours;
        const std::size_t last = std::min(unlikeness.size(), i + neighbours + 1);
        const double usual = middleOf({unlikeness.begin() + static_cast<std::ptrdiff_t>(first),
                                       unlikeness.begin() + static_cast<std::ptrdiff_t>(last)});
        if (unlikeness[i] > unlike * usual) return true;
    }
    return false;
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

/// Of the runs of one posture the most complete counts, then the likest; the others are false starts or
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

/// A side, a direction and a distance of the camera, and how well they explain the clip.
struct Try {
    double cost = kUntried;
    std::size_t model = 0;
    double azimuth = 0, distance = 0;
    bool operator<(const Try& t) const { return cost < t.cost; }
};

/// The best of the tries, in order. What has a cost already is not tried again. Two threads share the work;
/// each gives a try up as soon as it is dearer than what the thread itself has found, so that the outcome
/// does not depend on which is faster.
std::vector<Try> likeliest(const PictureSeries& clip, std::span<const ModelPerformance> models, double rate,
                           const std::vector<Try>& tries, std::size_t wanted)
{
    const auto everySecond = [&](std::size_t first) {
        ConnectedOptions prices = pricesAt(rate);
        std::vector<Try> best;
        for (std::size_t i = first; i < tries.size(); i += 2) {
            Try t = tries[i];
            prices.limit = best.size() < wanted ? kUntried : best.back().cost;
            if (t.cost == kUntried) {
                const PostureWays states = PostureWays::usual(models[t.model], t.azimuth, t.distance, rate);
                t.cost = pathThrough(clip, states, models[t.model].places().size(), prices).meanCost;
            }
            best.insert(std::upper_bound(best.begin(), best.end(), t), t);
            best.resize(std::min(best.size(), wanted));
        }
        return best;
    };
    auto others = std::async(std::launch::async, everySecond, 1);
    std::vector<Try> best = everySecond(0);
    const std::vector<Try> more = others.get();
    best.insert(best.end(), more.begin(), more.end());
    std::stable_sort(best.begin(), best.end());
    best.resize(std::min(best.size(), wanted));
    return best;
}

/// The path through every way to do the postures; where it leaves doubts, at the clip's own tempo and with
/// the ways from other postures than the form's. The first path stays where neither leaves the order, so that
/// a doubt alone changes no timing.
std::pair<PostureWays, ConnectedPath> closely(const PictureSeries& clip, const ModelPerformance& model,
                                              const ModelPerformance* mirrored, const Try& camera,
                                              double rate)
{
    const std::size_t places = model.places().size();
    PostureWays states = PostureWays::all(model, mirrored, camera.azimuth, camera.distance, rate);
    ConnectedPath path = pathThrough(clip, states, places, pricesAt(rate));
    const bool departed = departs(path, states);
    if (model.rearranged.empty() || (!departed && !isOdd(path, clip, states)))
        return {std::move(states), std::move(path)};
    const double tempo = std::clamp(usualTempo(path, clip, states), 0.5, 2.0);
    PostureWays more = PostureWays::all(model, mirrored, camera.azimuth, camera.distance, rate / tempo);
    more.addRearranged(model, camera.azimuth, camera.distance, rate / tempo);
    ConnectedPath other = pathThrough(clip, more, places, pricesAt(rate, true));
    if (!departed && !departs(other, more)) return {std::move(states), std::move(path)};
    return {std::move(more), std::move(other)};
}

} // namespace

FoundPostures findPostures(const Track& track, std::span<const ModelPerformance> models,
                           std::optional<double> azimuthHint)
{
    const double size = standingSize(track), begin = track.frames.front().time,
                 end = track.frames.back().time;
    const double coarseRate = std::clamp(kCoarseSamples / (end - begin + 1), kLeastRate, kRate);
    const PictureSeries coarse = picturesOf(track, size, coarseRate, begin, end);
    const double usual = usualDistance(track, size);
    std::vector<Try> tries;
    for (std::size_t m = 0; m < models.size(); ++m)
        for (int i = 0; i < kAzimuths; ++i) {
            const double azimuth = 360.0 / kAzimuths * ((i * kAzimuthStride) % kAzimuths);
            if (!azimuthHint || std::abs(wrapDeg(azimuth - *azimuthHint)) <= 30)
                tries.push_back({kUntried, m, azimuth, usual});
        }
    const std::vector<Try> promising = likeliest(coarse, models, coarseRate, tries, kPromising);
    // Lenses differ, and whoever walks towards the camera looks tall now and small then. A mirrored form from
    // the opposite side looks much the same, so that the distance decides.
    tries = {promising.front()};
    for (const Try& t : promising)
        for (double further : {0.7, 0.85, 1.2, 1.5, 2.0})
            tries.push_back({kUntried, t.model, t.azimuth, further * usual});
    const Try around = likeliest(coarse, models, coarseRate, tries, 1).front();
    tries = {around};
    for (double turn : {-10.0, -5.0, 5.0, 10.0})
        tries.push_back({kUntried, around.model, around.azimuth + turn, around.distance});
    const Try best = likeliest(coarse, models, coarseRate, tries, 1).front();

    const ModelPerformance& model = models[best.model];
    const auto mirrored = std::find_if(models.begin(), models.end(),
                                       [&](const ModelPerformance& m) { return m.lead != model.lead; });
    const double rate = std::clamp(kFineSamples / (end - begin + 1), kLongRate, kRate);
    const PictureSeries clip = picturesOf(track, size, rate, begin, end);
    const auto [states, path] =
        closely(clip, model, mirrored == models.end() ? nullptr : &*mirrored, best, rate);
    FoundPostures out{best.model, wrapDeg(best.azimuth), best.distance, path.meanCost, 0, {}};
    out.strangers =
        static_cast<double>(path.strangers) / static_cast<double>(std::max<std::size_t>(1, clip.size()));
    for (std::size_t i = 0; i < path.runs.size(); ++i)
        if (isWhole(path.runs, i, states)) out.runs.push_back(runOf(path.runs[i], clip, states));
    tellOrder(out.runs);
    return out;
}

} // namespace jl
