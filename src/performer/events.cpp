#include "performer/events.h"
#include "base/angles.h"
#include "performer/truth.h"
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kStep = 0.01;

double shareOn(const Figure& f, Side side)
{
    return 100 * (side == Side::Left ? f.weightLeft : 1 - f.weightLeft);
}

FloorEvent contactAt(const Performance& p, Side side, double time)
{
    FloorEvent e;
    e.side = side;
    e.time = time;
    const double pitch = p.poseAt(time).foot[side].pitch;
    e.how = pitch > 4 ? "heel" : pitch < -4 ? "toe" : "flat";
    e.flatAt = time;
    while (e.flatAt < p.duration() && std::abs(p.poseAt(e.flatAt).foot[side].pitch) > 2)
        e.flatAt += kStep;
    const Figure f = p.figureAt(time), before = p.figureAt(std::max(0.0, time - 0.03));
    e.weight = shareOn(f, side);
    for (double t = time; t <= std::min(p.duration(), time + 0.25); t += 0.05)
        e.weightAfter = std::max(e.weightAfter, shareOn(p.figureAt(t), side));
    e.drop = (before.midHip.z() - f.midHip.z()) / 0.03;
    return e;
}

} // namespace

std::vector<FloorEvent> floorEvents(const Performance& p)
{
    std::vector<FloorEvent> events;
    for (Side side : {Side::Left, Side::Right}) {
        bool down = p.poseAt(0).foot[side].onFloor();
        for (double t = kStep; t < p.duration(); t += kStep) {
            const bool now = p.poseAt(t).foot[side].onFloor();
            if (now && !down) events.push_back(contactAt(p, side, t));
            if (!now && down) {
                FloorEvent e;
                e.kind = FloorEvent::Kind::Lift;
                e.side = side;
                e.time = t;
                e.weight = shareOn(p.figureAt(t - kStep), side);
                events.push_back(e);
            }
            down = now;
        }
    }
    std::sort(events.begin(), events.end(), [](const auto& a, const auto& b) { return a.time < b.time; });
    return events;
}

} // namespace jl
