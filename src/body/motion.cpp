#include "body/motion.h"
#include <algorithm>
#include <array>
#include <numeric>

namespace jl
{

double tallestDecile(std::vector<double> extents)
{
    if (extents.empty()) return 1;
    const auto at = extents.begin() + static_cast<std::ptrdiff_t>(extents.size() * 9 / 10);
    std::nth_element(extents.begin(), at, extents.end());
    return std::max(*at, 1e-6);
}

double standingSize(const Track& track)
{
    std::vector<double> extents;
    for (const BodyFrame& f : track.frames)
        if (f.seen)
            extents.push_back((f.mid(Landmark::LeftAnkle, Landmark::RightAnkle) -
                               f.mid(Landmark::LeftEar, Landmark::RightEar))
                                  .norm());
    return tallestDecile(std::move(extents));
}

double motionAt(const Track& track, double size, double time, int leftOut)
{
    using enum Landmark;
    const std::size_t first = track.nearest(time - 0.1);
    const std::size_t last =
        std::min(std::max(track.nearest(time + 0.1), first + 1), track.frames.size() - 1);
    constexpr std::array points{LeftHip,   RightHip,     LeftWrist,     RightWrist, LeftKnee,
                                RightKnee, LeftShoulder, RightShoulder, LeftToe,    RightToe};
    std::array<double, points.size()> square{};
    std::vector<double> speeds;
    for (std::size_t k = 0; k < points.size(); ++k) {
        speeds.clear();
        for (std::size_t i = first + 1; i <= last; ++i) {
            const BodyFrame &a = track.frames[i - 1], &b = track.frames[i];
            if (!a.seen || !b.seen) continue;
            const double dt = b.time - a.time;
            speeds.push_back((b.at(points[k]) - a.at(points[k])).squaredNorm() / (size * size * dt * dt));
        }
        if (speeds.empty()) return 1e9;
        std::sort(speeds.begin(), speeds.end());
        square[k] = 0.5 * (speeds[(speeds.size() - 1) / 2] + speeds[speeds.size() / 2]);
    }
    std::sort(square.begin(), square.end());
    return std::accumulate(square.begin(), square.end() - leftOut, 0.0);
}

double motionQuantile(const Track& track, double size, double share, int leftOut)
{
    constexpr double step = 0.1, unseen = 1e8; // s
    if (track.frames.empty()) return 0;
    std::vector<double> seen;
    for (double t = track.frames.front().time; t < track.frames.back().time; t += step)
        if (const double m = motionAt(track, size, t, leftOut); m < unseen) seen.push_back(m);
    if (seen.empty()) return 0;
    const auto at = seen.begin() + static_cast<std::ptrdiff_t>(share * static_cast<double>(seen.size() - 1));
    std::nth_element(seen.begin(), at, seen.end());
    return *at;
}

std::vector<double> stillMoments(const Track& track)
{
    constexpr double step = 1 / 15.0, apart = 0.4;
    if (track.frames.size() < 2) return {};
    const double size = standingSize(track), begin = track.frames.front().time;
    std::vector<double> motion;
    for (double t = begin; t <= track.frames.back().time; t += step)
        motion.push_back(motionAt(track, size, t, 3)); // a misread leg must not hide a hold
    std::vector<double> seen;
    std::copy_if(motion.begin(), motion.end(), std::back_inserter(seen), [](double m) { return m < 1e8; });
    if (seen.empty()) return {};
    const auto middle = seen.begin() + static_cast<std::ptrdiff_t>(seen.size() / 2);
    std::nth_element(seen.begin(), middle, seen.end());
    const double usual = *middle;

    std::vector<double> moments;
    const auto reach = static_cast<std::ptrdiff_t>(apart / step);
    const auto count = static_cast<std::ptrdiff_t>(motion.size());
    for (std::ptrdiff_t i = 0; i < count; ++i) {
        const auto low = motion.begin() + std::max<std::ptrdiff_t>(0, i - reach),
                   high = motion.begin() + std::min(count, i + reach + 1);
        if (motion[i] > usual || motion[i] > *std::min_element(low, high)) continue;
        const double t = begin + static_cast<double>(i) * step;
        if (moments.empty() || t - moments.back() >= apart) moments.push_back(t);
    }
    return moments;
}

} // namespace jl
