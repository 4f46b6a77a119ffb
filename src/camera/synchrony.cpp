#include "camera/synchrony.h"
#include "body/motion.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kStep = 1 / 30.0; ///< s, of the speeds that are compared
/// s to either side over which a speed is taken. Over less than a frame the speeds would be steps, and clips
/// of one frame rate would always seem whole frames apart.
constexpr double kReach = 0.2;
constexpr double kFast = 0.15;    ///< standing sizes a second; a point that jumps counts as no more than this
constexpr Eigen::Index kNear = 3; ///< steps about an offset by sound in which the movements are compared
constexpr double kLeastShare = 0.7;     ///< of the best likeness, which an offset by sound must have
constexpr double kMovementSpread = 0.1; ///< s
/// s; sound needs 3 ms a metre, and one camera may stand some metres farther away: it tells the neighbourhood
/// surely, and the lines of sight then tell the rest.
constexpr double kSoundSpread = 0.05;
constexpr std::array kMovers{Landmark::LeftWrist,  Landmark::RightWrist,   Landmark::LeftElbow,
                             Landmark::RightElbow, Landmark::LeftShoulder, Landmark::RightShoulder,
                             Landmark::LeftHip,    Landmark::RightHip,     Landmark::LeftKnee,
                             Landmark::RightKnee,  Landmark::LeftAnkle,    Landmark::RightAnkle};

/// Speeds up and down of the movers, standing sizes a second, one column a time step.
Eigen::MatrixXd speedsOf(const Track& track)
{
    const double size = standingSize(track), begin = track.frames.front().time;
    const auto count = static_cast<Eigen::Index>((track.frames.back().time - begin) / kStep);
    Eigen::MatrixXd speeds = Eigen::MatrixXd::Zero(kMovers.size(), std::max<Eigen::Index>(count, 0));
    for (Eigen::Index i = 0; i < count; ++i) {
        const double t = begin + static_cast<double>(i) * kStep;
        const BodyFrame a = frameAt(track, t - kReach), b = frameAt(track, t + kReach);
        if (!a.seen || !b.seen) continue;
        for (std::size_t k = 0; k < kMovers.size(); ++k)
            speeds(static_cast<Eigen::Index>(k), i) = std::clamp(
                (b.at(kMovers[k]).y() - a.at(kMovers[k]).y()) / (2 * kReach * size), -kFast, kFast);
    }
    return speeds;
}

double likeness(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b, Eigen::Index lag)
{
    const Eigen::Index from = std::max<Eigen::Index>(0, -lag), to = std::min(a.cols(), b.cols() - lag);
    const auto pa = a.middleCols(from, to - from), pb = b.middleCols(from + lag, to - from);
    const double size = std::sqrt(pa.squaredNorm() * pb.squaredNorm());
    return size > 0 ? pa.cwiseProduct(pb).sum() / size : 0;
}

struct Best {
    double lag = 0; ///< steps, with the fraction
    double likeness = -2;
};

Best bestLag(const Eigen::MatrixXd& a, const Eigen::MatrixXd& b, Eigen::Index lowest, Eigen::Index highest)
{
    Eigen::Index best = lowest;
    double most = -2;
    for (Eigen::Index lag = lowest; lag <= highest; ++lag) {
        const double l = likeness(a, b, lag);
        if (l > most) {
            most = l;
            best = lag;
        }
    }
    double part = 0;
    if (best > lowest && best < highest) {
        const double before = likeness(a, b, best - 1), after = likeness(a, b, best + 1);
        const double bend = before - 2 * most + after;
        if (bend < 0) part = 0.5 * (before - after) / bend;
    }
    return {static_cast<double>(best) + part, most};
}

} // namespace

BodyFrame frameAt(const Track& track, double time)
{
    const std::size_t near = track.nearest(time);
    const bool later = track.frames[near].time > time;
    if ((later && near == 0) || (!later && near + 1 == track.frames.size())) return track.frames[near];
    const BodyFrame &a = track.frames[later ? near - 1 : near], &b = track.frames[later ? near : near + 1];
    if (a.seen && b.seen && b.time > a.time) return between(a, b, time);
    return a.seen ? b : a;
}

std::optional<Synchrony> synchronise(const Track& first, const Track& second)
{
    if (first.frames.size() < 10 || second.frames.size() < 10) return {};
    const Eigen::MatrixXd a = speedsOf(first), b = speedsOf(second);
    const Eigen::Index shorter = std::min(a.cols(), b.cols());
    if (shorter < 30) return {};
    const Eigen::Index lowest = shorter / 2 - a.cols(), highest = b.cols() - shorter / 2;
    const Best moved = bestLag(a, b, lowest, highest);
    const double begin = second.frames.front().time - first.frames.front().time;
    const Synchrony byMovement{moved.lag * kStep + begin, moved.likeness, kMovementSpread, false};
    const auto sounds = matchSounds(first.loudness, second.loudness);
    if (!sounds) return byMovement;
    const auto lag = static_cast<Eigen::Index>(std::lround((sounds->offset - begin) / kStep));
    if (lag < lowest + kNear || lag > highest - kNear) return byMovement;
    const double likeness = bestLag(a, b, lag - kNear, lag + kNear).likeness;
    if (likeness < kLeastShare * moved.likeness) return byMovement;
    return Synchrony{sounds->offset, likeness, kSoundSpread, true};
}

} // namespace jl
