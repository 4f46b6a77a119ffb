#include "lineup/stillness.h"
#include "body/motion.h"
#include <algorithm>

namespace jl
{
namespace
{

constexpr double kStep = 1 / 30.0; // s
constexpr double kLongest = 2;     ///< s, of a stillness to either side

constexpr double kAboveNoise = 2.5; ///< times the noise: its tenth is its stillest, most of it is more

} // namespace

StillnessFinder::StillnessFinder(const Track& track, double standingSize, double noise)
    : m_track(&track), m_size(standingSize), m_slack(kAboveNoise * noise + 2e-4)
{
}

double StillnessFinder::motion(double time) const
{
    return motionAt(*m_track, m_size, time);
}

/// All about a still moment that moves by no more than so much above the least.
Stillness StillnessFinder::spreadFrom(double still, double least, double slack) const
{
    const auto isStill = [&](double t) { return motion(t) < least + slack; };
    const double begin = m_track->frames.front().time, end = m_track->frames.back().time;
    Stillness s{still, still, slack};
    while (s.begin - kStep >= begin && still - s.begin < kLongest && isStill(s.begin - kStep))
        s.begin -= kStep;
    while (s.end + kStep <= end && s.end - still < kLongest && isStill(s.end + kStep))
        s.end += kStep;
    return s;
}

double StillnessFinder::stillestNear(double guess) const
{
    constexpr double reach = 0.5; // s
    const double begin = m_track->frames.front().time, end = m_track->frames.back().time;
    double stillest = std::clamp(guess, begin, end), least = 1e9;
    for (double t = std::max(begin, guess - reach); t <= std::min(end, guess + reach); t += kStep) {
        const double cost = motion(t) + 0.02 * (t - guess) * (t - guess);
        if (cost >= least) continue;
        least = cost;
        stillest = t;
    }
    return stillest;
}

Stillness StillnessFinder::near(double guess, std::optional<double> slack) const
{
    const double still = stillestNear(guess), least = motion(still);
    return spreadFrom(still, least, slack.value_or(m_slack + least));
}

double StillnessFinder::endOf(const Stillness& s) const
{
    double least = motion(s.begin), end = s.end;
    for (double t = s.begin; t <= s.end; t += kStep)
        least = std::min(least, motion(t));
    while (end + kStep <= m_track->frames.back().time && motion(end + kStep) < least + s.slack)
        end += kStep;
    return end;
}

std::vector<Stillness> StillnessFinder::around(double guess) const
{
    constexpr double reach = 0.8; // s
    const double still = stillestNear(guess), least = motion(still), slack = m_slack + least;
    const Stillness nearest = spreadFrom(still, least, slack);
    std::vector<Stillness> all{nearest};
    const auto known = [&](double t) {
        return std::any_of(all.begin(), all.end(),
                           [t](const Stillness& s) { return t >= s.begin - kStep && t <= s.end + kStep; });
    };
    // The path may put a key moment at either end of a pause beside it.
    const double begin = std::max(m_track->frames.front().time, std::min(guess, nearest.begin) - reach);
    const double end = std::min(m_track->frames.back().time, std::max(guess, nearest.end) + reach);
    for (double t = begin; t <= end; t += kStep) {
        if (known(t) || motion(t) >= least + slack) continue;
        const Stillness s = spreadFrom(t, least, slack);
        // A very long one is found in parts.
        if (s.end < nearest.begin || s.begin > nearest.end) all.push_back(s);
    }
    std::sort(all.begin(), all.end(),
              [](const Stillness& a, const Stillness& b) { return a.begin < b.begin; });
    return all;
}

} // namespace jl
