#include "form/stillness.h"
#include "body/motion.h"
#include <algorithm>

namespace jl
{
namespace
{

constexpr double kStep = 1 / 30.0; // s
constexpr double kLongest = 2;     ///< s, of a stillness to either side

double mayMove(double least)
{
    return 2.5 * least + 2e-4; // noise makes one moment of a hold a little stiller than the others
}

/// All about a still moment that moves no more than the limit.
Stillness spreadFrom(const Track& track, double size, double still, double limit)
{
    const auto isStill = [&](double t) { return motionAt(track, size, t) < limit; };
    Stillness s{still, still};
    while (s.begin - kStep >= track.frames.front().time && still - s.begin < kLongest &&
           isStill(s.begin - kStep))
        s.begin -= kStep;
    while (s.end + kStep <= track.frames.back().time && s.end - still < kLongest && isStill(s.end + kStep))
        s.end += kStep;
    return s;
}

double stillestNear(const Track& track, double size, double guess)
{
    constexpr double reach = 0.5; // s
    const double begin = track.frames.front().time, end = track.frames.back().time;
    double stillest = std::clamp(guess, begin, end), least = 1e9;
    for (double t = std::max(begin, guess - reach); t <= std::min(end, guess + reach); t += kStep) {
        const double cost = motionAt(track, size, t) + 0.02 * (t - guess) * (t - guess);
        if (cost >= least) continue;
        least = cost;
        stillest = t;
    }
    return stillest;
}

} // namespace

Stillness stillnessNear(const Track& track, double standingSize, double guess)
{
    const double still = stillestNear(track, standingSize, guess);
    return spreadFrom(track, standingSize, still, mayMove(motionAt(track, standingSize, still)));
}

std::vector<Stillness> stillnessesAround(const Track& track, double standingSize, double guess)
{
    constexpr double reach = 0.8; // s
    const double still = stillestNear(track, standingSize, guess);
    const double limit = mayMove(motionAt(track, standingSize, still));
    const Stillness nearest = spreadFrom(track, standingSize, still, limit);
    std::vector<Stillness> all{nearest};
    const auto known = [&](double t) {
        return std::any_of(all.begin(), all.end(),
                           [t](const Stillness& s) { return t >= s.begin - kStep && t <= s.end + kStep; });
    };
    // The path may put a key moment at either end of a pause beside it.
    const double begin = std::max(track.frames.front().time, std::min(guess, nearest.begin) - reach);
    const double end = std::min(track.frames.back().time, std::max(guess, nearest.end) + reach);
    for (double t = begin; t <= end; t += kStep) {
        if (known(t) || motionAt(track, standingSize, t) >= limit) continue;
        const Stillness s = spreadFrom(track, standingSize, t, limit);
        // A very long one is found in parts.
        if (s.end < nearest.begin || s.begin > nearest.end) all.push_back(s);
    }
    std::sort(all.begin(), all.end(),
              [](const Stillness& a, const Stillness& b) { return a.begin < b.begin; });
    return all;
}

} // namespace jl
