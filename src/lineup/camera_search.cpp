#include "lineup/camera_search.h"
#include "base/angles.h"
#include "base/parallel.h"
#include "base/units.h"
#include "body/motion.h"
#include "lineup/posture_path.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace jl
{
namespace
{

/// Options of the search for the camera's direction and distance.
/// Chosen on: the quick set (validate --quick).
struct CameraSearchOptions {
    /// Samples a second at most. x0.5 and x2: none.
    double rate = 5;
    /// Samples a second in long clips, at least. x0.5 and x2: none.
    double leastRate = 0.9;
    /// Samples of the whole clip that are aimed at. x0.5 and x2: none.
    Ratio coarseSamples = 240;
    /// Directions all round; then between the best of them. x0.5: err +0.6 %; x2: err -0.7 %.
    int azimuths = 12;
    /// Order in which they are tried: far apart, so that a good one is met early. No influence on the result.
    /// x0.5: u +0.7 %, key -0.8; x2: err +0.5 %.
    int azimuthStride = 5;
    /// About a hinted direction. x0.5 and x2: none.
    Degrees hintReach = 30;
    /// Directions for which the distance is searched. x0.5 and x2: none.
    std::size_t promising = 4;
};
constexpr CameraSearchOptions kOptions;
constexpr double kUntried = std::numeric_limits<double>::infinity();

/// A side, a direction and a distance of the camera, and how well they explain the clip.
struct Try {
    double cost = kUntried;
    std::size_t model = 0;
    double azimuth = 0, distance = 0;
    bool operator<(const Try& t) const { return cost < t.cost; }
};

/// The best of the tries, in order. What has a cost already is not tried again. Two threads share the work;
/// each gives a try up as soon as it costs more than what the thread itself has found, so that the outcome
/// does not depend on which is faster.
std::vector<Try> likeliest(const PictureSeries& clip, std::span<const ModelPerformance> models, double rate,
                           const std::vector<Try>& tries, std::size_t wanted)
{
    const auto everySecond = [&](std::size_t first) {
        ConnectedOptions prices = transitionCostsAt(rate);
        std::vector<Try> best;
        for (std::size_t i = first; i < tries.size(); i += 2) {
            Try t = tries[i];
            prices.limit = best.size() < wanted ? kUntried : best.back().cost;
            if (t.cost == kUntried) {
                t.cost = PosturePath(clip, PostureWays(models[t.model], t.azimuth, t.distance, rate), prices)
                             .meanCost();
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

/// A clip's pictures at the rate in which cameras are compared.
struct CoarseClip {
    double rate;
    PictureSeries pictures;

    explicit CoarseClip(const Track& track)
    {
        const double begin = track.frames.front().time, end = track.frames.back().time;
        rate = std::clamp(kOptions.coarseSamples / (end - begin + 1), kOptions.leastRate, kOptions.rate);
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
        if (!azimuthHint || std::abs(wrapDeg(azimuth - *azimuthHint)) <= kOptions.hintReach)
            tries.push_back({kUntried, model, azimuth, usual});
    };
    for (std::size_t m = 0; m < models.size(); ++m)
        for (int i = 0; i < kOptions.azimuths; ++i)
            tryAt(m, 360.0 / kOptions.azimuths * ((i * kOptions.azimuthStride) % kOptions.azimuths));
    tries = best(tries, kOptions.promising);
    const std::vector<Try> between{tries.begin(),
                                   tries.begin() + std::min<std::ptrdiff_t>(2, std::ssize(tries))};
    for (const Try& t : between)
        for (double turn : {-180.0 / kOptions.azimuths, 180.0 / kOptions.azimuths})
            tryAt(t.model, t.azimuth + turn);
    const std::vector<Try> promising = best(tries, kOptions.promising);
    // Lenses differ, and a body that walks towards the camera looks tall now and small then. A mirrored form
    // from the opposite side looks much the same, so that the distance decides.
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

} // namespace jl
