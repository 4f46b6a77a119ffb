#include "measure/flow.h"
#include "base/angles.h"
#include "base/units.h"
#include <algorithm>
#include <cmath>
#include <complex>

namespace jl
{
namespace
{

/// Options of pauses and smoothness.
/// Chosen on: the quick set; the frequencies follow the published spectral arc length of movement.
struct FlowOptions {
    /// A rest noisier than this cannot be distinguished from movement. x0.5 and x2: none.
    MetresPerSecond noisiest = 0.06;
    /// What moves for no longer does not end a pause. x0.5 and x2: none.
    Seconds twitch = 0.15;
    /// From it on a rest is a stop and no hitch. x0.5 and x2: none.
    Seconds longRest = 0.8;
    /// Factor of the resting speed with which a count is repeated for its uncertainty. x0.5 and x2: none.
    Ratio justAbove = 1.03;
    /// By which a rest must be longer or may be shorter in that repetition. x0.5 and x2: none.
    Seconds justLonger = 0.015;
    /// Hz, end of the spectrum. x0.5: err -1 %; x2: err +0.8 %.
    double highestFrequency = 3;
    /// Of the largest amplitude, where the spectrum ends. x0.5 and x2: none.
    Share leastAmplitude = 0.05;
    /// Factor by which the course is padded with zeros. x0.5 and x2: none.
    int padding = 16;
};
constexpr FlowOptions kOptions;

double countOf(const std::vector<double>& speed, double step, const Resting& resting)
{
    const auto rests = resting.restsOf(speed, step);
    return static_cast<double>(
        std::ranges::count_if(rests, [&](const Rest& r) { return r.begin > 0 && r.end < speed.size(); }));
}

} // namespace

Resting Resting::in(const BodyMotion& m)
{
    Resting resting;
    std::vector<double> speeds;
    for (std::size_t i = 1; i < m.frames.size(); ++i) {
        const auto way = [&](Landmark l) {
            return Eigen::Vector3d(m.frames[i][index(l)] - m.frames[i - 1][index(l)]).norm();
        };
        const double fastest =
            std::max({way(Landmark::LeftWrist), way(Landmark::RightWrist), way(Landmark::LeftHip)});
        if (std::isfinite(fastest)) speeds.push_back(fastest / (m.time[i] - m.time[i - 1]));
    }
    if (speeds.empty()) return resting;
    const auto stillest = speeds.begin() + static_cast<std::ptrdiff_t>(speeds.size() / 20);
    std::nth_element(speeds.begin(), stillest, speeds.end());
    resting.speed = clampTo(1.5 * *stillest, resting.speed, kOptions.noisiest);
    return resting;
}

std::vector<Rest> Resting::restsOf(const std::vector<double>& course, double step) const
{
    std::vector<Rest> rests;
    Rest now;
    double still = 0, moving = 0;
    const auto close = [&] {
        if (still > longer) rests.push_back(now);
        still = 0;
    };
    for (std::size_t i = 0; i < course.size(); ++i) {
        moving = course[i] > speed ? moving + step : 0;
        if (moving > kOptions.twitch) close();
        if (moving > 0) continue;
        if (still == 0) now.begin = i;
        still += step;
        now.end = i + 1;
    }
    close();
    return rests;
}

Pauses pausesOf(const std::vector<double>& speed, double step, const Resting& resting)
{
    const Resting easily{resting.speed * kOptions.justAbove, resting.longer - kOptions.justLonger},
        hardly{resting.speed / kOptions.justAbove, resting.longer + kOptions.justLonger};
    const double most = countOf(speed, step, easily), least = countOf(speed, step, hardly);
    return {countOf(speed, step, resting), 0.5 * std::abs(most - least)};
}

std::vector<double> withoutLongRests(const std::vector<double>& course, const std::vector<Rest>& rests,
                                     double step)
{
    std::vector<double> out;
    std::size_t from = 0;
    for (const Rest& rest : rests) {
        if (static_cast<double>(rest.end - rest.begin) * step < kOptions.longRest) continue;
        out.insert(out.end(), course.begin() + static_cast<std::ptrdiff_t>(from),
                   course.begin() + static_cast<std::ptrdiff_t>(rest.begin));
        from = rest.end;
    }
    out.insert(out.end(), course.begin() + static_cast<std::ptrdiff_t>(from), course.end());
    return out;
}

double smoothnessOf(const std::vector<double>& speed, double step)
{
    // A sample's phase at a frequency is a whole number of parts of the turn.
    const std::size_t parts = speed.size() * kOptions.padding;
    if (parts == 0) return 0;
    const double limit = std::min(kOptions.highestFrequency, 0.5 / step);
    std::vector<std::complex<double>> turn(parts);
    for (std::size_t k = 0; k < parts; ++k)
        turn[k] =
            std::polar(1.0, -2 * std::numbers::pi * static_cast<double>(k) / static_cast<double>(parts));
    std::vector<double> amplitude;
    for (std::size_t k = 0; static_cast<double>(k) <= limit * step * static_cast<double>(parts); ++k) {
        std::complex<double> sum = 0;
        for (std::size_t i = 0, at = 0; i < speed.size(); ++i, at = (at + k) % parts)
            sum += speed[i] * turn[at];
        amplitude.push_back(std::abs(sum));
    }
    const double most = *std::max_element(amplitude.begin(), amplitude.end());
    if (most <= 0) return 0;
    while (amplitude.size() > 2 && amplitude.back() < kOptions.leastAmplitude * most)
        amplitude.pop_back();
    const double along = 1 / static_cast<double>(amplitude.size() - 1);
    double length = 0;
    for (std::size_t i = 1; i < amplitude.size(); ++i)
        length += std::hypot(along, (amplitude[i] - amplitude[i - 1]) / most);
    return -length;
}

} // namespace jl
