#include "form/posture_search.h"
#include "base/angles.h"
#include "base/parallel.h"
#include "body/motion.h"
#include "form/connected_warping.h"
#include "form/posture_ways.h"
#include <algorithm>
#include <array>
#include <cmath>
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
/// Of a posture: less of it, in the middle of a clip, is another one's edge.
constexpr double kFragment = 0.4;
constexpr int kAzimuths = 12;     ///< all round; then between the likeliest of them
constexpr int kAzimuthStride = 5; ///< the next one tried is far from the last: a good one is met early
constexpr double kHintReach = 30; ///< deg
constexpr double kUntried = std::numeric_limits<double>::infinity();
constexpr std::size_t kPromising = 4; ///< directions for which the camera's distance is sought

/// Prices for a rate. Where the states go at the clip's own tempo and know every way, haste is suspicious, a
/// return need not pay for pictures that do not fit, and departures are cheap: whether they are believed is
/// asked afterwards.
ConnectedOptions pricesAt(double rate, bool everyWay = false)
{
    ConnectedOptions o; // as for kRate; a departure costs as much in seconds at any rate
    if (everyWay) {
        o.skip = 0.04;
        o.back = 0.1;
    }
    const double by = rate / kRate, cheaper = everyWay ? 0.5 : 1;
    for (double* price :
         {&o.unfinished, &o.leftOut, &o.eachLeftOut, &o.again, &o.back, &o.lateStart, &o.beam})
        *price *= by * cheaper;
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

int placeOf(const ConnectedPath& path, std::size_t i, const PostureWays& states)
{
    return states.segment(path.runs[i].segment).item;
}

/// Whether a path begins from the opening stance, but not with what the form begins with.
bool skipsBeginning(const ConnectedPath& path, const PostureWays& states)
{
    if (path.runs.empty() || placeOf(path, 0, states) < 2) return false;
    const PostureWays::Way& way = states.way(path.runs.front().segment);
    return way.rearranged && way.after == 0;
}

/// Whether a run leaves the model's order or its usual ways. A clip may begin anywhere.
bool departsAt(const ConnectedPath& path, std::size_t i, const PostureWays& states)
{
    const PostureWays::Way& way = states.way(path.runs[i].segment);
    return way.otherSide || way.turned != 0 ||
           (i > 0 ? placeOf(path, i, states) != placeOf(path, i - 1, states) + 1
                  : skipsBeginning(path, states));
}

bool departs(const ConnectedPath& path, const PostureWays& states)
{
    for (std::size_t i = 0; i < path.runs.size(); ++i)
        if (departsAt(path, i, states)) return true;
    return false;
}

/// The places about which a path leaves doubts, with their neighbours: where it leaves the model's order, or
/// goes through a posture much more unlike it than what is usual there (whoever walks aside is further from
/// the model's picture for a while) or in the clip (whoever stands on other feet is so for postures on end),
/// or much faster or slower (it may have been done twice).
std::vector<bool> doubtfulPlaces(const ConnectedPath& path, const PictureSeries& clip,
                                 const PostureWays& states, std::size_t places)
{
    constexpr double unlike = 1.5, hasty = 2, sluggish = 0.6; // times what is usual there
    constexpr double most = 2.25;                             // times what is usual in the clip
    constexpr std::size_t neighbours = 4;                     // on either side
    constexpr int about = 3;                                  // places
    std::vector<bool> doubtful(places, false);
    const auto doubt = [&](int from, int to) {
        for (int k = std::max(0, from - about); k <= std::min(to + about, static_cast<int>(places) - 1); ++k)
            doubtful[static_cast<std::size_t>(k)] = true;
    };
    if (path.runs.empty()) return doubtful;
    const double tempo = usualTempo(path, clip, states);
    std::vector<double> unlikeness;
    for (const WarpedRun& run : path.runs)
        unlikeness.push_back(unlikenessOf(run, clip, states));
    const double much = most * middleOf(unlikeness);
    for (std::size_t i = 0; i < path.runs.size(); ++i) {
        const WarpedRun& run = path.runs[i];
        const int place = placeOf(path, i, states), before = i > 0 ? placeOf(path, i - 1, states) : place - 1;
        if (place != before + 1) doubt(std::min(place, before), std::max(place, before));
        if (i == 0 && place == 2) doubt(place, place); // its beginning may have been left out
        const std::size_t first = i < neighbours ? 0 : i - neighbours;
        const std::size_t last = std::min(unlikeness.size(), i + neighbours + 1);
        const double usual = middleOf({unlikeness.begin() + static_cast<std::ptrdiff_t>(first),
                                       unlikeness.begin() + static_cast<std::ptrdiff_t>(last)});
        const double faster = tempoOf(run, clip, states) / tempo;
        const bool isOdd = run.steps.size() > 2 && (faster > hasty || faster < sluggish);
        if (isOdd || unlikeness[i] > std::min(unlike * usual, much)) doubt(place, place);
    }
    return doubtful;
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

/// Standing, as long as the run after it has not begun to move.
PostureRun openingBefore(PostureRun& first, const ModelPerformance& model)
{
    constexpr double moved = 0.1; // s of the model
    const ModelPerformance::Place place = model.places().front();
    const double still = first.timePairs.front().second + moved;
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
                const PostureWays states(models[t.model], t.azimuth, t.distance, rate);
                t.cost = pathThrough(clip, states, models[t.model].places().size(), prices).meanCost;
            }
            best.insert(std::upper_bound(best.begin(), best.end(), t), t);
            best.resize(std::min(best.size(), wanted));
        }
        return best;
    };
    std::array<std::vector<Try>, 2> found;
    inParallel(found.size(), [&](std::size_t first) { found[first] = everySecond(first); });
    std::vector<Try> best = std::move(found[0]);
    best.insert(best.end(), found[1].begin(), found[1].end());
    std::stable_sort(best.begin(), best.end());
    best.resize(std::min(best.size(), wanted));
    return best;
}

/// Ways to do the postures, and the path of a clip through them.
struct Way {
    PostureWays states;
    ConnectedPath path;
};

/// Through the postures as the form has them, whatever that costs.
Way inFormsOrder(const PictureSeries& clip, const ModelPerformance& model, const FoundCamera& camera,
                 double rate)
{
    constexpr double never = 50, beam = 3;
    ConnectedOptions prices = pricesAt(rate);
    for (double* price : {&prices.unfinished, &prices.leftOut, &prices.again, &prices.back})
        *price = never;
    prices.beam = beam;
    PostureWays states(model, camera.azimuth, camera.distance, rate);
    ConnectedPath path = pathThrough(clip, states, model.places().size(), prices);
    return {std::move(states), std::move(path)};
}

/// Of each sample.
std::vector<double> unlikenessAlong(const Way& way, const PictureSeries& clip)
{
    std::vector<double> out(clip.size(), ConnectedOptions{}.stranger);
    for (const WarpedRun& run : way.path.runs)
        for (const auto& [i, j] : run.steps)
            out[static_cast<std::size_t>(i)] = tolerantUnlikeness(clip.lines[i], way.states.linesAt(j));
    return out;
}

/// The samples in and next to the postures that depart from the form.
std::vector<bool> aboutDepartures(const Way& way, std::size_t samples)
{
    std::vector<bool> about(samples, false);
    const auto& runs = way.path.runs;
    for (std::size_t i = 0; i < runs.size(); ++i) {
        if (!departsAt(way.path, i, way.states)) continue;
        const WarpedRun &from = runs[i > 0 ? i - 1 : 0], &to = runs[std::min(i + 1, runs.size() - 1)];
        std::fill(about.begin() + from.steps.front().first, about.begin() + to.steps.back().first + 1, true);
    }
    return about;
}

/// Whether departures fit so much better than the form's own order, where they are, that they are to be
/// believed. A body that is unlike the model everywhere fits other postures by chance: the worse the clip
/// fits, the more departures must explain.
bool isBelieved(const Way& departing, const Way& inOrder, const PictureSeries& clip)
{
    constexpr double more = 11; // times the mean unlikeness of a sample
    const std::vector<bool> about = aboutDepartures(departing, clip.size());
    const std::vector<double> with = unlikenessAlong(departing, clip),
                              without = unlikenessAlong(inOrder, clip);
    double sumWith = 0, sumWithout = 0, n = 0;
    for (std::size_t i = 0; i < about.size(); ++i) {
        if (!about[i]) continue;
        sumWith += with[i];
        sumWithout += without[i];
        ++n;
    }
    return sumWithout > sumWith * (1 + more * sumWith / std::max(1.0, n));
}

/// Whether a clip that begins in the middle of a posture would show it on the other side or turned. Where
/// postures alternate that is another one, and what went before is not known: nothing is said about it.
bool beginsAside(const Way& way)
{
    constexpr double missing = 0.4; // s of the model
    if (way.path.runs.empty()) return false;
    const WarpedRun& first = way.path.runs.front();
    const PostureWays::Way& how = way.states.way(first.segment);
    const double begin = way.states.modelTimeAt(way.states.segment(first.segment).begin);
    return (how.otherSide || how.turned != 0) &&
           way.states.modelTimeAt(first.steps.front().second) > begin + missing;
}

/// The path through the postures as the form has them; where every way is looked for and it leaves
/// doubts, at the clip's own tempo through every way to do them. The first path stays where neither leaves
/// the order, so that a doubt alone changes no timing; the form's order where what leaves it is not believed.
Way closely(const PictureSeries& clip, const ModelPerformance& model, const ModelPerformance* mirrored,
            const FoundCamera& camera, double rate, PostureLook look)
{
    const std::size_t places = model.places().size();
    Way first{PostureWays(model, camera.azimuth, camera.distance, rate), {}};
    first.path = pathThrough(clip, first.states, places, pricesAt(rate));
    if (look == PostureLook::AsInForm) return first;
    const std::vector<bool> doubtful = doubtfulPlaces(first.path, clip, first.states, places);
    if (std::find(doubtful.begin(), doubtful.end(), true) == doubtful.end()) return first;
    const double tempo = std::clamp(usualTempo(first.path, clip, first.states), 0.5, 2.0);
    Way other{PostureWays(model, camera.azimuth, camera.distance, rate / tempo), {}};
    other.states.addTurned(doubtful, mirrored);
    other.states.addRearranged(doubtful);
    ConnectedOptions prices = pricesAt(rate, true);
    other.path = pathThrough(clip, other.states, places, prices);
    if (other.path.meanCost > first.path.meanCost) { // the better one was given up on the way
        prices.beam *= 4;
        other.path = pathThrough(clip, other.states, places, prices);
    }
    const bool departed = departs(first.path, first.states), departsNow = departs(other.path, other.states);
    if (!departed && !departsNow) return first;
    if (!departsNow) return other;
    Way inOrder = inFormsOrder(clip, model, camera, rate);
    const bool believed = !beginsAside(other) && isBelieved(other, inOrder, clip);
    return believed ? std::move(other) : std::move(inOrder);
}

/// A clip's pictures at the rate in which cameras are told apart.
struct CoarseClip {
    double rate;
    PictureSeries pictures;

    explicit CoarseClip(const Track& track)
    {
        const double begin = track.frames.front().time, end = track.frames.back().time;
        rate = std::clamp(kCoarseSamples / (end - begin + 1), kLeastRate, kRate);
        pictures = picturesOf(track, standingSize(track), rate, begin, end);
    }
};

FoundCamera cameraOf(const Try& t)
{
    return {t.model, wrapDeg(t.azimuth), t.distance};
}

} // namespace

FoundCamera findCamera(const Track& track, std::span<const ModelPerformance> models,
                       std::optional<double> azimuthHint)
{
    const CoarseClip clip(track);
    const auto best = [&](const std::vector<Try>& tries, std::size_t wanted) {
        return likeliest(clip.pictures, models, clip.rate, tries, wanted);
    };
    const double usual = usualDistance(track, standingSize(track));
    std::vector<Try> tries;
    const auto tryAt = [&](std::size_t model, double azimuth) {
        if (!azimuthHint || std::abs(wrapDeg(azimuth - *azimuthHint)) <= kHintReach)
            tries.push_back({kUntried, model, azimuth, usual});
    };
    for (std::size_t m = 0; m < models.size(); ++m)
        for (int i = 0; i < kAzimuths; ++i)
            tryAt(m, 360.0 / kAzimuths * ((i * kAzimuthStride) % kAzimuths));
    tries = best(tries, kPromising);
    const std::vector<Try> between{tries.begin(),
                                   tries.begin() + std::min<std::ptrdiff_t>(2, std::ssize(tries))};
    for (const Try& t : between)
        for (double turn : {-180.0 / kAzimuths, 180.0 / kAzimuths})
            tryAt(t.model, t.azimuth + turn);
    const std::vector<Try> promising = best(tries, kPromising);
    // Lenses differ, and whoever walks towards the camera looks tall now and small then. A mirrored form from
    // the opposite side looks much the same, so that the distance decides.
    tries = {promising.front()};
    for (const Try& t : promising)
        for (double further : {0.7, 0.85, 1.2, 1.5, 2.0})
            tries.push_back({kUntried, t.model, t.azimuth, further * usual});
    const Try around = best(tries, 1).front();
    tries = {around};
    for (double turn : {-10.0, -5.0, 5.0, 10.0})
        tries.push_back({kUntried, around.model, around.azimuth + turn, around.distance});
    return cameraOf(best(tries, 1).front());
}

FoundCamera findCameraNear(const Track& track, std::span<const ModelPerformance> models,
                           const FoundCamera& known)
{
    const CoarseClip clip(track);
    std::vector<Try> tries;
    for (double turn : {0.0, -5.0, 5.0})
        for (double further : {1.0, 0.85, 1.2})
            tries.push_back({kUntried, known.model, known.azimuth + turn, further * known.distance});
    return cameraOf(likeliest(clip.pictures, models, clip.rate, tries, 1).front());
}

FoundPostures findPostures(const Track& track, std::span<const ModelPerformance> models,
                           const FoundCamera& camera, PostureLook look)
{
    const ModelPerformance& model = models[camera.model];
    const auto mirrored = std::find_if(models.begin(), models.end(),
                                       [&](const ModelPerformance& m) { return m.lead != model.lead; });
    const double begin = track.frames.front().time, end = track.frames.back().time;
    const double rate = std::clamp(kFineSamples / (end - begin + 1), kLongRate, kRate);
    const PictureSeries clip = picturesOf(track, standingSize(track), rate, begin, end);
    const auto [states, path] =
        closely(clip, model, mirrored == models.end() ? nullptr : &*mirrored, camera, rate, look);
    FoundPostures out{path.meanCost, 0, {}};
    out.strangers =
        static_cast<double>(path.strangers) / static_cast<double>(std::max<std::size_t>(1, clip.size()));
    for (std::size_t i = 0; i < path.runs.size(); ++i)
        if (isWhole(path.runs, i, states)) out.runs.push_back(runOf(path.runs[i], clip, states));
    const bool beganLate = skipsBeginning(path, states) && isWhole(path.runs, 0, states);
    if (beganLate && out.runs.front().timePairs.size() > 3)
        out.runs.insert(out.runs.begin(), openingBefore(out.runs.front(), model));
    tellOrder(out.runs);
    return out;
}

} // namespace jl
