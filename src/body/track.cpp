#include "body/track.h"
#include "body/savitzky_golay.h"
#include <algorithm>
#include <cmath>

namespace jl
{

double Track::seenShare() const
{
    if (frames.empty()) return 0;
    const auto seen = std::count_if(frames.begin(), frames.end(), [](const BodyFrame& f) { return f.seen; });
    return static_cast<double>(seen) / static_cast<double>(frames.size());
}

std::size_t Track::nearest(double time) const
{
    const auto after = std::lower_bound(frames.begin(), frames.end(), time,
                                        [](const BodyFrame& f, double t) { return f.time < t; });
    if (after == frames.begin()) return 0;
    if (after == frames.end()) return frames.size() - 1;
    const auto before = std::prev(after);
    return static_cast<std::size_t>((time - before->time <= after->time - time ? before : after) -
                                    frames.begin());
}

BodyFrame between(const BodyFrame& a, const BodyFrame& b, double time)
{
    BodyFrame f;
    f.time = time;
    f.seen = true;
    f.score = std::min(a.score, b.score);
    const double w = (time - a.time) / (b.time - a.time);
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        f.point[k] = (1 - w) * a.point[k] + w * b.point[k];
        f.metric[k] = a.metric[k] + static_cast<float>(w) * (b.metric[k] - a.metric[k]);
        f.visibility[k] = std::min(a.visibility[k], b.visibility[k]);
        f.placed[k] = std::max(a.placed[k], b.placed[k]);
    }
    f.cameraShift = (1 - w) * a.cameraShift + w * b.cameraShift;
    f.cameraLost = a.cameraLost || b.cameraLost;
    return f;
}

Eigen::Vector2d midHip(const BodyFrame& f)
{
    return f.mid(Landmark::LeftHip, Landmark::RightHip);
}

Eigen::Vector2d midShoulder(const BodyFrame& f)
{
    return f.mid(Landmark::LeftShoulder, Landmark::RightShoulder);
}

namespace
{

/// A body that is being hidden, and one that comes out again, is misread before it is lost (a tenth of its
/// height off in one made-up crossing): beside gaps longer than maxGap it counts as unseen too.
void leaveOutHalfHidden(std::vector<BodyFrame>& frames, double maxGap)
{
    constexpr double halfHidden = 0.15; // s
    const auto isSeen = [](const BodyFrame& f) { return f.seen; };
    std::vector<std::pair<double, double>> gaps; // from the last moment seen to the next
    for (auto f = frames.begin(); f != frames.end();) {
        const auto lost = std::find_if_not(f, frames.end(), isSeen),
                   found = std::find_if(lost, frames.end(), isSeen);
        if (lost != frames.begin() && found != frames.end() && found->time - (lost - 1)->time > maxGap)
            gaps.emplace_back((lost - 1)->time, found->time);
        f = found;
    }
    for (BodyFrame& f : frames)
        for (const auto& [lost, found] : gaps)
            if (f.time > lost - halfHidden && f.time < found + halfHidden) f.seen = false;
}

void bridgeGaps(Track& track, double maxGap)
{
    auto& frames = track.frames;
    for (std::size_t i = 1; i < frames.size(); ++i) {
        if (frames[i].seen || !frames[i - 1].seen) continue;
        std::size_t end = i;
        while (end < frames.size() && !frames[end].seen)
            ++end;
        if (end == frames.size() || frames[end].time - frames[i - 1].time > maxGap) {
            i = end;
            continue;
        }
        const BodyFrame a = frames[i - 1], b = frames[end];
        for (; i < end; ++i) {
            frames[i] = between(a, b, frames[i].time);
            for (float& v : frames[i].visibility)
                v *= 0.5F; // nobody was seen there
        }
    }
}

} // namespace

Track steadied(Track track)
{
    for (BodyFrame& f : track.frames)
        for (Eigen::Vector2d& p : f.point)
            p -= f.cameraShift;
    return track;
}

BodyFrame asFilmed(const BodyFrame& frame)
{
    BodyFrame out = frame;
    for (Eigen::Vector2d& p : out.point)
        p += frame.cameraShift;
    return out;
}

Track smoothed(Track track, double window, double maxGap)
{
    leaveOutHalfHidden(track.frames, maxGap);
    bridgeGaps(track, maxGap);
    auto& frames = track.frames;
    const double fps = track.framesPerSecond > 0 ? track.framesPerSecond : 30;
    const int half = std::max(1, static_cast<int>(std::lround(window * fps / 2)));
    std::vector<double> series;
    for (std::size_t begin = 0; begin < frames.size();) {
        if (!frames[begin].seen) {
            ++begin;
            continue;
        }
        std::size_t end = begin;
        while (end < frames.size() && frames[end].seen)
            ++end;
        series.resize(end - begin);
        const auto filter = [&](auto&& coordinate) {
            for (std::size_t i = begin; i < end; ++i)
                series[i - begin] = coordinate(frames[i]);
            savitzkyGolay(series, half);
            for (std::size_t i = begin; i < end; ++i)
                coordinate(frames[i]) = series[i - begin];
        };
        for (std::size_t k = 0; k < kLandmarkCount; ++k)
            for (int axis = 0; axis < 2; ++axis)
                filter([=](BodyFrame& f) -> double& { return f.point[k][axis]; });
        begin = end;
    }
    return track;
}

} // namespace jl
