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

bool onFloor(const FootPose& foot)
{
    return foot.lift < 0.003;
}

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

/// When a course of speeds first rises above, and last falls below, a tenth of its peak.
struct Travel {
    double start = 0, arrival = 0, peak = 0;
};

Travel travelOf(const std::vector<double>& speed, double begin)
{
    Travel t;
    for (double s : speed)
        t.peak = std::max(t.peak, s);
    const auto moving = [&](double s) { return s > 0.1 * t.peak; };
    const auto first = std::find_if(speed.begin(), speed.end(), moving);
    const auto last = std::find_if(speed.rbegin(), speed.rend(), moving);
    t.start = begin + kStep * static_cast<double>(first - speed.begin());
    t.arrival = begin + kStep * static_cast<double>(speed.size() - (last - speed.rbegin()));
    return t;
}

} // namespace

std::vector<FloorEvent> floorEvents(const Performance& p)
{
    std::vector<FloorEvent> events;
    for (Side side : {Side::Left, Side::Right}) {
        bool down = onFloor(p.poseAt(0).foot[side]);
        for (double t = kStep; t < p.duration(); t += kStep) {
            const bool now = onFloor(p.poseAt(t).foot[side]);
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

PhaseTruth phaseTruth(const Performance& p, const PerformedPhase& phase)
{
    PhaseTruth out;
    out.duration = phase.time - phase.begin;
    const Pose first = p.poseAt(phase.begin), last = p.poseAt(phase.time);
    out.pelvisTurn = last.pelvisHeading - first.pelvisHeading;
    const auto pivot = [&](Side s) {
        return onFloor(first.foot[s]) && (last.foot[s].heel - first.foot[s].heel).norm() < 0.25
                   ? last.foot[s].heading - first.foot[s].heading
                   : 0.0;
    };
    out.leftPivot = pivot(Side::Left);
    out.rightPivot = pivot(Side::Right);

    double low = 1e9, high = -1e9, mostWeight = -1e9, leastWeight = 1e9, back = 0, forth = 0;
    Eigen::Vector2d kneeLow(1e9, 1e9), kneeHigh(-1e9, -1e9);
    std::vector<double> hands, turn, weight;
    Figure before = p.figureAt(phase.begin);
    double pelvisBefore = first.pelvisHeading;
    for (double t = phase.begin + kStep; t <= phase.time; t += kStep) {
        const Figure f = p.figureAt(t);
        const double height = 100 * f.midHip.z() / f.standingHip;
        low = std::min(low, height);
        high = std::max(high, height);
        const double share = shareOn(f, phase.lead);
        mostWeight = std::max(mostWeight, share);
        leastWeight = std::min(leastWeight, share);
        back = std::max(back, mostWeight - share);
        forth = std::max(forth, share - leastWeight);
        if (share > 45 && share < 55) out.doubleTime += kStep;
        const Eigen::Vector2d knee = f.at(sided(Landmark::LeftKnee, phase.lead)).head<2>();
        kneeLow = kneeLow.cwiseMin(knee);
        kneeHigh = kneeHigh.cwiseMax(knee);
        const auto local = [](const Figure& g, Landmark l) {
            return Eigen::Vector3d(g.of(Bone::Thorax).rotation.transpose() * (g.at(l) - g.midShoulder));
        };
        hands.push_back(
            std::max((local(f, Landmark::LeftWrist) - local(before, Landmark::LeftWrist)).norm(),
                     (local(f, Landmark::RightWrist) - local(before, Landmark::RightWrist)).norm()) /
            kStep);
        const double pelvis = p.poseAt(t).pelvisHeading;
        turn.push_back(std::abs(pelvis - pelvisBefore) / kStep);
        weight.push_back(std::abs(share - shareOn(before, phase.lead)) / kStep);
        pelvisBefore = pelvis;
        before = f;
    }
    if (hands.empty()) return out;
    out.bob = high - low;
    out.kneeDrift = (kneeHigh - kneeLow).norm();
    out.backwardShift =
        std::min(back, forth); // the transfer goes one way; the smaller of the two is its error
    const Travel h = travelOf(hands, phase.begin), w = travelOf(weight, phase.begin),
                 g = travelOf(turn, phase.begin);
    if (h.peak > 0.15 && g.peak > 5) out.turnLeads = h.start - g.start;
    if (h.peak > 0.15 && w.peak > 10) out.handsAfterWeight = h.arrival - w.arrival;
    return out;
}

} // namespace jl
