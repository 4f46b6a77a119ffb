#include "performer/move_faults.h"
#include "base/angles.h"
#include "performer/performance.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace jl
{
namespace
{

/// A moment half way through the move to moments[i], from where the move goes on.
Moment& halfway(std::vector<Moment>& moments, std::size_t i, const BodyShape& body)
{
    Moment half = moments[i];
    half.pose = poseBetween(moments[i - 1].pose, moments[i], 0.5, body);
    half.key = false;
    half.hold = 0;
    half.seconds *= 0.5;
    half.feet = half.weight = half.pelvis = half.hands = {0, 1};
    moments[i].seconds *= 0.5;
    moments[i].feet = moments[i].weight = moments[i].pelvis = moments[i].hands = {0, 1};
    return *moments.insert(moments.begin() + static_cast<std::ptrdiff_t>(i), half);
}

bool steps(const std::vector<Moment>& moments, std::size_t i)
{
    return std::ranges::any_of(std::array{Side::Left, Side::Right}, [&](Side s) {
        return (moments[i].pose.foot[s].heel - moments[i - 1].pose.foot[s].heel).norm() > 0.03;
    });
}

/// The step begins while a good part of the shift before it is still to come.
bool stepTooSoon(std::vector<Moment>& moments, std::size_t i, double overlap)
{
    constexpr double late = 0.4; // share of the shift
    if (i < 2 || !steps(moments, i)) return false;
    Moment &shift = moments[i - 1], &step = moments[i];
    const double gone = shift.pose.weightLeft - moments[i - 2].pose.weightLeft;
    const double rest = step.pose.weightLeft - shift.pose.weightLeft;
    if (std::abs(gone) < 0.25 || std::abs(rest) > 0.2) return false;
    shift.pose.weightLeft -= late * gone;
    step.weight = {0, clampTo(overlap / (0.7 * step.seconds), 0.2, 1)}; // most of it is over by then
    step.feet.first = 0;
    return true;
}

/// Whether a foot turns on its heel in the move to moments[i], by so much as the rules call a turn and by
/// more than `least`, deg.
bool turnsOnHeel(const std::vector<Moment>& moments, std::size_t i, Side side, double least)
{
    constexpr double kTurn = 25;
    if (i == 0) return false;
    const std::vector<int> place = footPlaces(moments, side);
    const FootPose &before = moments[i - 1].pose.foot[side], &now = moments[i].pose.foot[side];
    return place[i] == place[i - 1] && !now.onBall &&
           std::abs(now.heading - before.heading) >= std::max(kTurn, least);
}

} // namespace

bool isMoveFault(const std::string& id)
{
    constexpr std::array<std::string_view, 10> ids{
        "rushed",     "dragged",     "jerky",   "order-wrong",    "arms-first",
        "hands-late", "hands-early", "bobbing", "transfer-jerks", "stops"};
    return std::find(ids.begin(), ids.end(), id) != ids.end();
}

bool spoilMove(std::vector<Moment>& moments, std::size_t& i, const FaultRequest& fault, const BodyShape& body)
{
    Moment& m = moments[i];
    if (i == 0 || m.seconds < 0.8) return false;
    const double late = clampTo(fault.size / m.seconds, 0, 0.7);
    const bool shifts = std::abs(m.pose.weightLeft - moments[i - 1].pose.weightLeft) > 0.25;
    if (fault.id == "rushed") {
        m.seconds *= 1 - fault.size;
    } else if (fault.id == "dragged") {
        m.seconds *= 1 + fault.size;
    } else if (fault.id == "jerky") {
        m.hitch = fault.size;
    } else if (fault.id == "order-wrong") {
        return stepTooSoon(moments, i, fault.size);
    } else if (fault.id == "arms-first") {
        if (std::abs(m.pose.pelvisHeading - moments[i - 1].pose.pelvisHeading) < 8) return false;
        m.hands.first = 0;
        m.pelvis.first = std::min(late, m.pelvis.second - 0.2);
    } else if (fault.id == "hands-late" || fault.id == "hands-early") {
        if (!shifts) return false;
        Window& early = fault.id == "hands-late" ? m.weight : m.hands;
        Window& last = fault.id == "hands-late" ? m.hands : m.weight;
        last.second = 1;
        early = {0, std::max(0.25, 1 - late)};
    } else if (fault.id == "bobbing" || fault.id == "transfer-jerks" || fault.id == "stops") {
        if (steps(moments, i) || !shifts) return false;
        const bool toLeft = m.pose.weightLeft > moments[i - 1].pose.weightLeft;
        Moment& half = halfway(moments, i, body); // from here on m may be gone
        if (fault.id == "stops") half.hold = fault.size;
        if (fault.id == "bobbing") half.pose.pelvisHeight += 2 * fault.size / 100;
        if (fault.id == "transfer-jerks") { // forward, back, and forward again
            const double back = fault.size / 100 * (toLeft ? 1 : -1);
            Moment more = half;
            half.pose.weightLeft = clampTo(half.pose.weightLeft + 0.5 * back, 0, 1);
            more.pose.weightLeft = clampTo(half.pose.weightLeft - back, 0, 1);
            moments.insert(moments.begin() + static_cast<std::ptrdiff_t>(++i), more);
        }
        ++i;
    } else {
        return false;
    }
    return true;
}

void touchDown(std::vector<Moment>& moments, std::size_t& i, const BodyShape& body)
{
    const Side lead = moments[i].lead;
    if (i == 0 || !moments[i].pose.foot[lead].offFloor() || !moments[i - 1].pose.foot[lead].offFloor())
        return;
    FootPose& foot = halfway(moments, i, body).pose.foot[lead];
    foot.lift = 0;
    foot.pitch = -15;
    ++i;
}

bool turnShort(std::vector<Moment>& moments, std::size_t i, Side side, double size)
{
    if (!turnsOnHeel(moments, i, side, size)) return false;
    const std::vector<int> place = footPlaces(moments, side);
    const auto foot = [&](std::size_t k) -> FootPose& { return moments[k].pose.foot[side]; };
    const double turn = foot(i).heading - foot(i - 1).heading, wished = foot(i).heading;
    for (std::size_t k = i; k < moments.size() && place[k] == place[i] && foot(k).heading == wished; ++k)
        foot(k).heading -= turn > 0 ? size : -size;
    return true;
}

bool turnOnBall(std::vector<Moment>& moments, std::size_t i, Side side)
{
    if (!turnsOnHeel(moments, i, side, 0)) return false;
    moments[i].pose.foot[side].onBall = true;
    return true;
}

bool driftKnee(std::vector<Moment>& moments, std::size_t i, double size)
{
    if (i == 0) return false;
    Moment& m = moments[i];
    const Pose& before = moments[i - 1].pose;
    const bool turnsOnly = (m.stance == StanceKind::Bow || m.stance == StanceKind::Sit) &&
                           std::abs(m.pose.weightLeft - before.weightLeft) < 0.12 &&
                           std::abs(m.pose.pelvisHeading - before.pelvisHeading) > 8;
    if (turnsOnly) m.pose.kneeTrack[m.lead] += size;
    return turnsOnly;
}

} // namespace jl
