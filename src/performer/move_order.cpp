#include "performer/move_order.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kMoveOrderStep = 0.01;
constexpr double kGone = 0.12;       ///< share; a leg with less has been left
constexpr double kResting = 0.1;     ///< of its peak; slower than that a movement has not begun or is over
constexpr double kTogether = 0.3;    ///< s; what begins so soon after another move begins together with it
constexpr double kLeastShift = 0.08; ///< m the centre of mass goes over the floor in a shift of weight
constexpr double kLeastTurn = 8;     ///< deg
constexpr double kLeastSink = 0.025; ///< m

/// The first moment at which a foot that stood leaves the floor.
std::optional<std::pair<double, Side>> liftIn(const Performance& p, const PerformedPhase& phase)
{
    for (Side side : {Side::Left, Side::Right}) {
        if (!p.poseAt(phase.begin).foot[side].onFloor()) continue;
        for (double t = phase.begin; t < phase.time; t += kMoveOrderStep)
            if (!p.poseAt(t).foot[side].onFloor()) return std::pair(t, side);
    }
    return {};
}

std::optional<double> shiftAfterLift(const Performance& p, const PerformedPhase& phase)
{
    const auto lift = liftIn(p, phase);
    if (!lift) return {};
    const auto [lifted, side] = *lift;
    // Where the pose has the weight, since a body on one leg has all of it there by definition.
    double t = lifted;
    for (; t < phase.time && !p.poseAt(t).foot[side].onFloor(); t += kMoveOrderStep) {
        const double left = p.poseAt(t).weightLeft;
        if ((side == Side::Left ? left : 1 - left) < kGone) break;
    }
    return t - lifted;
}

/// The speed of something over a stretch of time, as share of its peak; empty when it hardly moves.
struct Course {
    double begin = 0;
    std::vector<double> speed;

    bool moves(double t) const
    {
        const auto i = static_cast<std::size_t>(std::max(0.0, std::round((t - begin) / kMoveOrderStep)));
        return i < speed.size() && speed[i] > kResting;
    }
};

/// `least`: a way shorter than that is no movement.
template <class Where, class Way>
Course courseOf(const Where& where, const Way& wayTo, double begin, double end, double least)
{
    Course c{begin, {}};
    double way = 0, peak = 0;
    auto before = where(begin);
    for (double t = begin + kMoveOrderStep; t <= end; t += kMoveOrderStep) {
        const auto now = where(t);
        const double moved = wayTo(before, now);
        way += moved;
        peak = std::max(peak, moved);
        c.speed.push_back(moved);
        before = now;
    }
    if (way < least) return {begin, {}};
    for (double& s : c.speed)
        s /= peak;
    return c;
}

std::optional<double> startOf(const Course& c)
{
    const auto first = std::find_if(c.speed.begin(), c.speed.end(), [](double s) { return s > kResting; });
    if (first == c.speed.end()) return {};
    return c.begin + kMoveOrderStep * static_cast<double>(first - c.speed.begin());
}

std::optional<double> overlapOf(const Course& first, std::optional<double> second)
{
    if (first.speed.empty() || !second) return {};
    double t = *second;
    while (!first.moves(t) && t < *second + kTogether)
        t += kMoveOrderStep;
    if (!first.moves(t)) {
        t = *second;
        while (t > first.begin && !first.moves(t))
            t -= kMoveOrderStep;
        if (t <= first.begin) return {}; // it had not begun either
        return t - *second;
    }
    while (first.moves(t))
        t += kMoveOrderStep;
    return t - *second;
}

} // namespace

MoveOrder moveOrder(const Performance& p, const PerformedPhase& phase)
{
    double since = phase.begin;
    for (const PerformedPhase& each : p.phases())
        if (each.time < phase.time) since = each.begin;
    const auto mass = [&](double t) { return Eigen::Vector2d(p.figureAt(t).centreOfMass.head<2>()); };
    const auto pelvis = [&](double t) { return p.poseAt(t).pelvisHeading; };
    const auto shoulders = [&](double t) { return p.figureAt(t).midShoulder.z(); };
    const auto apart = [](const Eigen::Vector2d& a, const Eigen::Vector2d& b) { return (b - a).norm(); };
    const auto turned = [](double a, double b) { return std::abs(b - a); };
    const auto sunk = [](double a, double b) { return std::max(0.0, a - b); };
    const Course shift = courseOf(mass, apart, since, phase.time, kLeastShift),
                 turn = courseOf(pelvis, turned, since, phase.time, kLeastTurn),
                 turnNow = courseOf(pelvis, turned, phase.begin, phase.time, kLeastTurn),
                 sink = courseOf(shoulders, sunk, phase.begin, phase.time, kLeastSink);
    MoveOrder order;
    order.shiftStep = shiftAfterLift(p, phase);
    order.shiftTurn = overlapOf(shift, startOf(turnNow));
    if (const auto lift = liftIn(p, phase))
        order.turnStep = overlapOf(turn, lift->first);
    else
        order.shiftSink = overlapOf(shift, startOf(sink));
    return order;
}

} // namespace jl
