#include "camera/synchrony.h"
#include "base/units.h"
#include "body/motion.h"
#include "camera/joints.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

/// Options of the offset between two clips from vertical speeds, checked against sound.
/// Chosen on: 180 pairs of exact points with network errors; the spread of sound follows from 3 ms a metre.
struct SynchronyOptions {
    /// Between two samples of the speeds that are compared. x0.5 and x2: none.
    Seconds step = 1 / 30.0;
    /// To either side, over which a speed is taken. Over less than a frame the speeds become steps, and clips
    /// of one frame rate seem whole frames apart. x0.5 and x2: none.
    Seconds reach = 0.2;
    /// Standing sizes a second at which a speed is clipped: a point that jumps counts no more.
    /// x0.5 and x2: none.
    double fast = 0.15;
    /// Steps about an offset by sound in which the movements are compared. x0.5 and x2: none.
    Eigen::Index near = 3;
    /// Of the best likeness, which the movements must reach at the offset by sound. x0.5 and x2: none.
    Share leastShare = 0.7;
    /// Standard deviation of an offset by movement. x0.5 and x2: none.
    Seconds movementSpread = 0.1;
    /// Standard deviation of an offset by sound: one camera may stand some metres farther away.
    /// x0.5 and x2: none.
    Seconds soundSpread = 0.05;
};
constexpr SynchronyOptions kOptions;

/// Speeds up and down of the joints, standing sizes a second, one column a time step.
Eigen::MatrixXd speedsOf(const Track& track)
{
    const double size = standingSize(track), begin = track.frames.front().time;
    const auto count = static_cast<Eigen::Index>((track.frames.back().time - begin) / kOptions.step);
    Eigen::MatrixXd speeds = Eigen::MatrixXd::Zero(kJoints.size(), std::max<Eigen::Index>(count, 0));
    for (Eigen::Index i = 0; i < count; ++i) {
        const double t = begin + static_cast<double>(i) * kOptions.step;
        const BodyFrame a = frameAt(track, t - kOptions.reach), b = frameAt(track, t + kOptions.reach);
        if (!a.seen || !b.seen) continue;
        for (std::size_t k = 0; k < kJoints.size(); ++k)
            speeds(static_cast<Eigen::Index>(k), i) =
                std::clamp((b.at(kJoints[k]).y() - a.at(kJoints[k]).y()) / (2 * kOptions.reach * size),
                           -kOptions.fast, kOptions.fast);
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
    const Synchrony byMovement{moved.lag * kOptions.step + begin, moved.likeness, kOptions.movementSpread,
                               false};
    const auto sounds = matchSounds(first.loudness, second.loudness);
    if (!sounds) return byMovement;
    const auto lag = static_cast<Eigen::Index>(std::lround((sounds->offset - begin) / kOptions.step));
    if (lag < lowest + kOptions.near || lag > highest - kOptions.near) return byMovement;
    const double likeness = bestLag(a, b, lag - kOptions.near, lag + kOptions.near).likeness;
    if (likeness < kOptions.leastShare * moved.likeness) return byMovement;
    return Synchrony{sounds->offset, likeness, kOptions.soundSpread, true};
}

} // namespace jl
