#include "lineup/leg_swaps.h"
#include "base/two_state_path.h"
#include "base/units.h"
#include "body/motion.h"
#include "lineup/body_lines.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace jl
{
namespace
{

/// Costs of the two-state path that finds left-right swaps of the legs, in the unit of Dissimilarity.
/// Chosen on: the quick set (validate --quick).
struct LegSwapOptions {
    /// Of a swapped frame: the network is right more often than not. x0.5 and x2: none.
    Cost swapped = 0.01;
    /// For a squared standing size of jump. A leg that jumps costs as much as a few tenths of a second of
    /// dissimilarity. x0.5 and x2: none.
    Ratio jump = 8;
    /// Standing sizes at which the jump of one point is clipped. x0.5 and x2: none.
    Ratio largestJump = 0.12;
};
constexpr LegSwapOptions kOptions;

constexpr std::array kLegPoints{Landmark::LeftKnee, Landmark::LeftAnkle, Landmark::LeftHeel,
                                Landmark::LeftToe};

/// How far the legs jump between two frames when they keep their names, or change them.
double jump(const BodyFrame& a, const BodyFrame& b, bool change, double size)
{
    double sum = 0;
    for (Landmark left : kLegPoints)
        for (Side s : {Side::Left, Side::Right}) {
            const double d = (b.at(sided(left, change ? other(s) : s)) - a.at(sided(left, s))).norm() / size;
            sum += std::pow(std::min(d, kOptions.largestJump), 2);
        }
    return kOptions.jump * sum;
}

} // namespace

std::vector<bool> swappedLegs(const Track& track, const LineUp& lineUp, const ModelPerformance& model)
{
    const double size = standingSize(track);
    const double frameTime = track.framesPerSecond > 0 ? 1 / track.framesPerSecond : 1 / 30.0;
    const double perFrame = frameTime * 15; // the prices are those of 15 frames a second
    const ModelPictures pictures(model, lineUp.azimuth, lineUp.distance);

    const BodyFrame* before = nullptr;
    return twoStatePath(track.frames.size(), {}, [&](std::size_t i) -> std::optional<TwoStateCosts> {
        const BodyFrame& f = track.frames[i];
        if (!f.seen) return {};
        const PostureRun* run = lineUp.runAt(f.time);
        // On other feet, or turned, the model decides nothing.
        const bool asModel = run && !run->otherSide && run->turned == 0 && !run->rearranged;
        const Dissimilarity d =
            asModel ? dissimilarity(bodyLines(f, size), pictures.at(lineUp.modelTimeAt(f.time)))
                    : Dissimilarity{};
        TwoStateCosts costs{{perFrame * d.legs, perFrame * (d.swappedLegs + kOptions.swapped)}};
        if (before) {
            costs.keep = jump(*before, f, false, size);
            costs.change = jump(*before, f, true, size);
        }
        before = &f;
        return costs;
    });
}

std::vector<bool> spellsWithin(double longest, std::vector<bool> exchanged, const Track& track)
{
    for (auto begin = exchanged.begin(); begin != exchanged.end();) {
        begin = std::find(begin, exchanged.end(), true);
        const auto end = std::find(begin, exchanged.end(), false);
        if (begin == end) break;
        const auto timeAt = [&](auto it) {
            return track.frames[static_cast<std::size_t>(it - exchanged.begin())].time;
        };
        if (timeAt(end - 1) - timeAt(begin) > longest) std::fill(begin, end, false);
        begin = end;
    }
    return exchanged;
}

Track withLegsUnswapped(Track track, const std::vector<bool>& exchanged)
{
    for (std::size_t i = 0; i < track.frames.size(); ++i) {
        if (!exchanged[i]) continue;
        BodyFrame& f = track.frames[i];
        for (Landmark left : kLegPoints) {
            const std::size_t l = index(left), r = index(sided(left, Side::Right));
            std::swap(f.point[l], f.point[r]);
            std::swap(f.metric[l], f.metric[r]);
            std::swap(f.visibility[l], f.visibility[r]);
        }
    }
    return track;
}

} // namespace jl
