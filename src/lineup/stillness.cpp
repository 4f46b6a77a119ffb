#include "lineup/stillness.h"
#include "base/units.h"
#include "body/motion.h"
#include <algorithm>

namespace jl
{
namespace
{

/// Options of finding stillnesses near a predicted arrival.
/// Chosen on: the quick set (validate --quick).
struct StillnessOptions {
    /// Between two moments that are compared. x0.5 and x2: none.
    Seconds step = 1 / 30.0;
    /// Of a stillness, to either side. x0.5 and x2: none.
    Seconds longest = 2;
    /// Times the noise of the stillest tenth of the clip, up to which the body is still.
    /// x0.5: none; x2: err +0.5 %, key -2.4.
    Ratio aboveNoise = 2.5;
    /// About the prediction, in which the stillest moment is searched. x0.5: key -0.6; x2: err +0.7 %.
    Seconds nearReach = 0.5;
    /// Beyond that stillness, in which others are searched. x0.5 and x2: none.
    Seconds aroundReach = 0.8;
};
constexpr StillnessOptions kOptions;

} // namespace

StillnessFinder::StillnessFinder(const Track& track, double standingSize, double noise)
    : m_track(&track), m_size(standingSize), m_slack(kOptions.aboveNoise * noise + 2e-4)
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
    while (s.begin - kOptions.step >= begin && still - s.begin < kOptions.longest &&
           isStill(s.begin - kOptions.step))
        s.begin -= kOptions.step;
    while (s.end + kOptions.step <= end && s.end - still < kOptions.longest && isStill(s.end + kOptions.step))
        s.end += kOptions.step;
    return s;
}

double StillnessFinder::stillestNear(double guess) const
{
    const double begin = m_track->frames.front().time, end = m_track->frames.back().time;
    double stillest = std::clamp(guess, begin, end), least = 1e9;
    for (double t = std::max(begin, guess - kOptions.nearReach);
         t <= std::min(end, guess + kOptions.nearReach); t += kOptions.step) {
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
    for (double t = s.begin; t <= s.end; t += kOptions.step)
        least = std::min(least, motion(t));
    while (end + kOptions.step <= m_track->frames.back().time &&
           motion(end + kOptions.step) < least + s.slack)
        end += kOptions.step;
    return end;
}

std::vector<Stillness> StillnessFinder::around(double guess) const
{
    const double still = stillestNear(guess), least = motion(still), slack = m_slack + least;
    const Stillness nearest = spreadFrom(still, least, slack);
    std::vector<Stillness> all{nearest};
    const auto known = [&](double t) {
        return std::any_of(all.begin(), all.end(), [t](const Stillness& s) {
            return t >= s.begin - kOptions.step && t <= s.end + kOptions.step;
        });
    };
    // The path may put a key moment at either end of a pause beside it.
    const double begin =
        std::max(m_track->frames.front().time, std::min(guess, nearest.begin) - kOptions.aroundReach);
    const double end =
        std::min(m_track->frames.back().time, std::max(guess, nearest.end) + kOptions.aroundReach);
    for (double t = begin; t <= end; t += kOptions.step) {
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
