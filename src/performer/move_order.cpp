#include "performer/move_order.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kStep = 0.01;
constexpr double kGone = 0.12;       ///< share; a leg with less has been left
constexpr double kResting = 0.1;     ///< of its peak; slower than that a movement has not begun or is over
constexpr double kLeastShift = 0.15; ///< change of share that is a shift of weight
constexpr double kLeastTurn = 8;     ///< deg
constexpr double kLeastSink = 0.025; ///< m

/// The first moment at which a foot that stood leaves the floor.
std::optional<std::pair<double, Side>> liftIn(const Performance& p, const PerformedPhase& phase)
{
    for (Side side : {Side::Left, Side::Right}) {
        if (!p.poseAt(phase.begin).foot[side].onFloor()) continue;
        for (double t = phase.begin; t < phase.time; t += kStep)
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
    for (; t < phase.time && !p.poseAt(t).foot[side].onFloor(); t += kStep) {
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
        const auto i = static_cast<std::size_t>(std::max(0.0, std::round((t - begin) / kStep)));
        return i < speed.size() && speed[i] > kResting;
    }
};

/// `least`: a way shorter than that is no movement. Only sinking counts when `oneWay`.
template <class Where>
Course courseOf(const Where& where, double begin, double end, double least, bool oneWay = false)
{
    Course c{begin, {}};
    double way = 0, peak = 0, before = where(begin);
    for (double t = begin + kStep; t <= end; t += kStep) {
        const double now = where(t), moved = oneWay ? std::max(0.0, before - now) : std::abs(now - before);
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

std::optional<double> startOf(const Course& c, double from)
{
    for (std::size_t i = 0; i < c.speed.size(); ++i) {
        const double t = c.begin + kStep * static_cast<double>(i);
        if (t >= from && c.speed[i] > kResting) return t;
    }
    return {};
}

std::optional<double> overlapOf(const Course& first, std::optional<double> second)
{
    if (first.speed.empty() || !second) return {};
    double t = *second;
    if (!first.moves(t)) {
        const auto start = startOf(first, first.begin);
        while (t > first.begin && !first.moves(t))
            t -= kStep;
        if (!start || t <= *start) return {}; // it had not begun either
        return t - *second;
    }
    while (first.moves(t))
        t += kStep;
    return t - *second;
}

} // namespace

MoveOrder moveOrder(const Performance& p, const PerformedPhase& phase)
{
    double since = phase.begin;
    for (const PerformedPhase& each : p.phases())
        if (each.time < phase.time) since = each.begin;
    const auto weight = [&](double t) { return p.poseAt(t).weightLeft; };
    const auto pelvis = [&](double t) { return p.poseAt(t).pelvisHeading; };
    const auto shoulders = [&](double t) { return p.figureAt(t).midShoulder.z(); };
    const Course shift = courseOf(weight, since, phase.time, kLeastShift),
                 turn = courseOf(pelvis, since, phase.time, kLeastTurn),
                 turnNow = courseOf(pelvis, phase.begin, phase.time, kLeastTurn),
                 sink = courseOf(shoulders, phase.begin, phase.time, kLeastSink, true);
    MoveOrder order;
    order.shiftStep = shiftAfterLift(p, phase);
    if (const auto lift = liftIn(p, phase)) order.turnStep = overlapOf(turn, lift->first);
    order.shiftTurn = overlapOf(shift, startOf(turnNow, phase.begin));
    order.shiftSink = overlapOf(shift, startOf(sink, phase.begin));
    return order;
}

} // namespace jl
