#include "performer/performance.h"
#include "base/angles.h"
#include "performer/sequence_faults.h"
#include <algorithm>
#include <random>

namespace jl
{

double minimumJerk(double share)
{
    const double s = clampTo(share, 0, 1);
    return s * s * s * (10 + s * (-15 + 6 * s));
}

namespace
{

double courseIn(const Window& w, double share)
{
    return minimumJerk((share - w.first) / (w.second - w.first));
}

/// A direction on its shortest way round to another.
Eigen::Vector3d turnedBetween(const Eigen::Vector3d& a, const Eigen::Vector3d& b, double course)
{
    const auto whole = Eigen::Quaterniond::FromTwoVectors(a, b);
    return Eigen::Quaterniond::Identity().slerp(course, whole) * a.normalized();
}

/// Between two footprints: a step is carried over the floor, a turn on the spot eases the toes.
FootPose footBetween(const FootPose& a, const FootPose& b, double course, double heelToBall)
{
    FootPose f;
    f.heel = mix(a.heel, b.heel, course);
    f.heading = mix(a.heading, b.heading, course);
    f.onBall = b.onBall;
    if (b.onBall) { // the ball stays, the heel goes round it
        const Eigen::Vector2d toBall = headingForward(a.heading).head<2>() * heelToBall;
        f.heel = a.heel + toBall - headingForward(f.heading).head<2>() * heelToBall;
        f.pitch = mix(a.pitch, b.pitch, course);
        f.lift = mix(a.lift, b.lift, course);
        return f;
    }
    const double distance = (b.heel - a.heel).norm();
    const double arc = 16 * course * course * (1 - course) * (1 - course);
    f.lift = mix(a.lift, b.lift, course) + (distance > 0.03 ? std::min(0.07, 0.2 * distance) * arc : 0);
    const bool turns = distance <= 0.03 && std::abs(b.heading - a.heading) > 5;
    f.pitch = mix(a.pitch, b.pitch, course) + (turns ? 8 * arc : 0);
    return f;
}

constexpr double kPeel = 28; ///< deg

/// A foot that is about to step forward peels off the floor, heel first, while the weight leaves it: share of
/// kPeel.
double peel(const FootPose& a, const FootPose& b, const Window& feet, double share)
{
    const double ahead = (b.heel - a.heel).dot(headingForward(a.heading).head<2>());
    if (ahead < 0.03 || a.pitch != 0 || a.lift > 0) return 0;
    constexpr double before = 0.22, after = 0.45; // shares of the move around the step's beginning
    const double early = std::min(before, feet.first);
    const double up = early > 0 ? minimumJerk((share - feet.first + early) / (early + 0.05)) : 0;
    return early / before * up * (1 - minimumJerk((share - feet.first - 0.05) / after));
}

Eigen::Vector2d leanInRoom(const Pose& p)
{
    return (headingForward(p.leanDirection) * p.leanForward + headingRight(p.leanDirection) * p.leanSide)
        .head<2>();
}

/// The share of the way at a share of the time, for a move that falters about twice a second.
double faltering(const Moment& m, double share)
{
    if (m.hitch <= 0) return share;
    const double turns = 2 * std::numbers::pi * std::max(1.0, std::round(2 * m.seconds));
    const double inside = clampTo(share, 0, 1);
    return inside - m.hitch * std::sin(turns * inside) / turns;
}

/// Takes the body off the floor in the middle of a move: a bend of the knees, a push, a flight as gravity has
/// it, and the same on landing.
void leap(Pose& p, const Moment& m, double share, const BodyShape& body)
{
    constexpr double gravity = 9.81, push = 0.3; // m/s2, s
    const double flight = std::sqrt(8 * m.jump / gravity), speed = gravity * flight / 2;
    const double off = std::abs(share - 0.5) * m.seconds - flight / 2; // s outside the flight
    if (off > push) return;
    if (off > 0) {
        const double s = 1 - off / push;
        p.pelvisHeight += speed * push * (s * s * s - s * s) / body.standingHipHeight();
        return;
    }
    const double middle = (share - 0.5) * m.seconds, height = m.jump - gravity * middle * middle / 2;
    p.pelvisHeight += height / body.standingHipHeight();
    for (Side side : {Side::Left, Side::Right})
        p.foot[side].lift += height;
}

} // namespace

Pose poseBetween(const Pose& a, const Moment& m, double evenShare, const BodyShape& body)
{
    const Pose& b = m.pose;
    const double share = faltering(m, evenShare);
    const double feet = courseIn(m.feet, share), weight = courseIn(m.weight, share),
                 pelvis = courseIn(m.pelvis, share), hands = courseIn(m.hands, share);
    Pose p = b;
    for (Side s : {Side::Left, Side::Right}) {
        p.foot[s] = footBetween(a.foot[s], b.foot[s], feet, body.heelToBall());
        const double up = clampTo(1 + p.foot[s].pitch / kPeel, 0, 1); // toes that point down already
        p.foot[s].pitch -= kPeel * up * peel(a.foot[s], b.foot[s], m.feet, share);
        p.kneeTrack[s] = mix(a.kneeTrack[s], b.kneeTrack[s], pelvis);
        p.hand[s].place = mix(a.hand[s].place, b.hand[s].place, hands);
        p.hand[s].palm = turnedBetween(a.hand[s].palm, b.hand[s].palm, hands);
        p.hand[s].elbowOut = mix(a.hand[s].elbowOut, b.hand[s].elbowOut, hands);
        p.hand[s].curl = mix(a.hand[s].curl, b.hand[s].curl, hands);
        p.hand[s].drop = mix(a.hand[s].drop, b.hand[s].drop, hands);
    }
    p.weightLeft = mix(a.weightLeft, b.weightLeft, weight);
    p.pelvisHeight = mix(a.pelvisHeight, b.pelvisHeight, weight);
    p.pelvisHeading = mix(a.pelvisHeading, b.pelvisHeading, pelvis);
    p.legReach = mix(a.legReach, b.legReach, weight);
    p.sway = mix(a.sway, b.sway, weight);
    p.pelvisTilt = mix(a.pelvisTilt, b.pelvisTilt, pelvis);
    p.shoulderTilt = mix(a.shoulderTilt, b.shoulderTilt, hands);
    p.shrug = mix(a.shrug, b.shrug, hands);
    p.round = mix(a.round, b.round, hands);
    p.headTilt = mix(a.headTilt, b.headTilt, hands);
    p.thoraxHeading = mix(a.thoraxHeading, b.thoraxHeading, 0.5 * (pelvis + hands));
    // The lean turns through the room, not with the posture's direction.
    const Eigen::Vector2d lean = mix(leanInRoom(a), leanInRoom(b), weight);
    p.leanForward = lean.dot(headingForward(b.leanDirection).head<2>());
    p.leanSide = lean.dot(headingRight(b.leanDirection).head<2>());
    p.headHeading = mix(a.headHeading, b.headHeading, hands);
    p.headPitch = mix(a.headPitch, b.headPitch, hands);
    if (m.jump > 0) leap(p, m, evenShare, body);
    return p;
}

namespace
{

/// Small differences between one good performance and another: a body is not a machine.
void vary(std::vector<Moment>& moments, std::uint32_t seed)
{
    std::mt19937 random(seed);
    std::normal_distribution<double> normal;
    const auto some = [&](double sd) { return sd * clampTo(normal(random), -2, 2); };
    const double pace = 1 + some(0.06);
    const double lean = some(1.2), side = some(0.8), height = some(0.006);
    const Eigen::Vector3d reach(some(0.01), some(0.015), some(2));
    for (Moment& m : moments) {
        m.seconds *= pace * (1 + some(0.07));
        m.hold *= 1 + some(0.15);
        m.pose.pelvisHeight *= 1 + height + some(0.004);
        m.pose.leanForward += lean + some(0.6);
        m.pose.leanSide += side + some(0.4);
        m.pose.pelvisHeading += some(2);
        m.pose.thoraxHeading += some(2);
        m.pose.headHeading += some(3);
        m.pose.headPitch += some(2);
        if (m.pose.weightLeft > 0.15 && m.pose.weightLeft < 0.85) m.pose.weightLeft += some(0.012);
        for (Side s : {Side::Left, Side::Right}) {
            m.pose.hand[s].place += reach + Eigen::Vector3d(some(0.01), some(0.01), some(1.5));
            m.pose.hand[s].elbowOut += some(4);
            m.pose.kneeTrack[s] += some(0.006);
        }
    }
    // Feet: each new place is off a little, and stays so until the foot moves again.
    for (Side s : {Side::Left, Side::Right}) {
        const std::vector<int> place = footPlaces(moments, s);
        Eigen::Vector2d shift(0, 0);
        double turn = 0;
        for (std::size_t i = 0; i < moments.size(); ++i) {
            if (i == 0 || place[i] != place[i - 1]) {
                shift = {some(0.010), some(0.014)};
                turn = some(2);
            }
            moments[i].pose.foot[s].heel += shift;
            moments[i].pose.foot[s].heading += turn;
        }
    }
}

} // namespace

Result<Performance> Performance::create(const Standards& standards, const PerformanceRequest& request)
{
    const FormStandard* form = standards.form(request.form);
    if (!form) return unknownId("form", request.form, idsOf(standards.forms));
    return create(standards, *form, request);
}

Result<Performance> Performance::create(const Standards& standards, const FormStandard& form,
                                        const PerformanceRequest& request)
{
    const SchoolStandard* school = standards.school(request.school);
    if (!school) return unknownId("school", request.school, idsOf(standards.schools));
    std::vector<PerformedFault> done;
    const auto performed = withSequenceFaults(form, request.faults, done);
    if (!performed) return performed.error();
    auto moments = choreograph(standards, *performed, *school, request.lead, request.body, request.manner);
    if (!moments) return moments.error();
    adaptToBody(*moments, request.body);
    if (request.seed != 0) vary(*moments, request.seed);
    auto faults = applyFaults(*moments, request.faults, request.body, [&](const Moment& m) {
        return standards.bandsFor(standards.phase(m.posture, m.phase), *school, request.body.footLength());
    });
    if (!faults) return faults.error();
    faults->insert(faults->begin(), done.begin(), done.end());

    settleBallTurns(*moments, request.body);
    settleHeights(*moments, request.body);

    Performance p;
    p.m_body = request.body;
    p.m_lead = request.lead;
    p.m_moments = std::move(*moments);
    p.m_faults = std::move(*faults);
    double t = 0, phaseBegin = 0;
    for (std::size_t i = 0; i < p.m_moments.size(); ++i) {
        Moment& m = p.m_moments[i];
        m.seconds = i == 0 ? 0 : m.seconds / request.tempo; // the first pose is where the body already is
        m.hold /= request.tempo;
        p.m_begin.push_back(t);
        t += m.seconds;
        if (m.key) {
            p.m_phases.push_back(
                {m.posture, m.phase, m.stance, phaseBegin, t + 0.5 * m.hold, m.heading, m.lead});
            phaseBegin = t + m.hold;
        }
        t += m.hold;
    }
    p.m_duration = t;
    return p;
}

Pose Performance::poseAt(double time) const
{
    const auto after = std::upper_bound(m_begin.begin(), m_begin.end(), time);
    const std::size_t i =
        after == m_begin.begin() ? 0 : static_cast<std::size_t>(after - m_begin.begin()) - 1;
    const Moment& m = m_moments[i];
    if (i == 0 || m.seconds <= 0) return m.pose;
    return poseBetween(m_moments[i - 1].pose, m, (time - m_begin[i]) / m.seconds, m_body);
}

Figure Performance::movingFigureAt(double time) const
{
    constexpr double dt = 0.02;
    Figure f = figureAt(time);
    const double before = std::max(0.0, time - dt), after = std::min(m_duration, time + dt);
    if (after > before)
        f.velocity = (figureAt(after).centreOfMass - figureAt(before).centreOfMass) / (after - before);
    return f;
}

const PerformedPhase& Performance::phaseAt(double time) const
{
    for (const PerformedPhase& p : m_phases)
        if (time <= p.time) return p;
    return m_phases.back();
}

} // namespace jl
