#include "body/framing.h"
#include <algorithm>
#include <cmath>
#include <span>

namespace jl
{
namespace
{

constexpr double kMargin = 0.01; ///< of the picture
constexpr double kMost = 0.3;    ///< of the frames may lack head or feet

using enum Landmark;
constexpr std::array kFeet{LeftAnkle, RightAnkle, LeftHeel, RightHeel, LeftToe, RightToe};
constexpr std::array kHead{Nose, LeftEar, RightEar};

bool noneInside(const Track& track, const BodyFrame& f, std::span<const Landmark> points)
{
    const double w = track.width, h = track.height;
    return std::none_of(points.begin(), points.end(), [&](Landmark l) {
        const Eigen::Vector2d& p = f.at(l);
        return p.x() > kMargin * w && p.x() < (1 - kMargin) * w && p.y() > kMargin * h &&
               p.y() < (1 - kMargin) * h;
    });
}

std::string percent(double share)
{
    return std::to_string(std::lround(100 * share)) + " %";
}

} // namespace

Framing framingOf(const Track& track)
{
    Framing out;
    double seen = 0;
    for (const BodyFrame& f : track.frames) {
        if (!f.seen) continue;
        ++seen;
        out.feetCut += noneInside(track, f, kFeet);
        out.headCut += noneInside(track, f, kHead);
    }
    if (seen > 0) {
        out.feetCut /= seen;
        out.headCut /= seen;
    }
    return out;
}

std::string framingTrouble(const Framing& framing)
{
    if (framing.feetCut > kMost)
        return "the feet are outside of the picture in " + percent(framing.feetCut) + " of the clip";
    if (framing.headCut > kMost)
        return "the head is outside of the picture in " + percent(framing.headCut) + " of the clip";
    return {};
}

} // namespace jl
