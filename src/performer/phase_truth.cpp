#include "performer/phase_truth.h"
#include "base/angles.h"
#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <complex>

namespace jl
{
namespace
{

constexpr double kTruthStep = 0.01;
constexpr double kStill = 0.02;      ///< m/s, a hand or the pelvis slower than this rests
constexpr double kRaised = 0.12;     ///< m, a foot this high is carried, not gathered
constexpr double kPause = 0.3;       ///< s
constexpr double kInEllipse = 5.991; ///< chi square of two dimensions that holds 95 %

double share(const Figure& f, Side side)
{
    return 100 * (side == Side::Left ? f.weightLeft : 1 - f.weightLeft);
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
    t.start = begin + kTruthStep * static_cast<double>(first - speed.begin());
    t.arrival = begin + kTruthStep * static_cast<double>(speed.size() - (last - speed.rbegin()));
    return t;
}

/// Area of the 95 % ellipse of points on the floor, m2.
double ellipseArea(const std::vector<Eigen::Vector2d>& points)
{
    if (points.size() < 3) return 0;
    Eigen::Vector2d mean = Eigen::Vector2d::Zero();
    for (const auto& p : points)
        mean += p / static_cast<double>(points.size());
    Eigen::Matrix2d covariance = Eigen::Matrix2d::Zero();
    for (const auto& p : points)
        covariance += (p - mean) * (p - mean).transpose() / static_cast<double>(points.size() - 1);
    return std::numbers::pi * kInEllipse * std::sqrt(std::max(0.0, covariance.determinant()));
}

/// Stops of all that moves between its first and last movement.
int pausesIn(const std::vector<double>& fastest)
{
    const auto moving = [](double s) { return s > kStill; };
    const auto first = std::find_if(fastest.begin(), fastest.end(), moving);
    const auto last = std::find_if(fastest.rbegin(), fastest.rend(), moving).base();
    int pauses = 0, still = 0;
    for (auto s = first; s < last; ++s) {
        still = moving(*s) ? 0 : still + 1;
        pauses += still == static_cast<int>(kPause / kTruthStep);
    }
    return pauses;
}

/// Which feet are in the air: left and right.
std::array<bool, 2> offFloor(const Pose& pose)
{
    return {pose.foot[Side::Left].offFloor(), pose.foot[Side::Right].offFloor()};
}

bool staysOnFloor(const Performance& p, const PerformedPhase& phase, Side side)
{
    for (double t = phase.begin; t <= phase.time; t += kTruthStep)
        if (!p.poseAt(t).foot[side].onFloor()) return false;
    return true;
}

Pivot pivotOf(const Performance& p, const PerformedPhase& phase, Side side)
{
    const FootPose first = p.poseAt(phase.begin).foot[side], last = p.poseAt(phase.time).foot[side];
    Pivot pivot{wrapDeg(last.heading - first.heading), {}};
    if (std::abs(pivot.amount) < 3 || !staysOnFloor(p, phase, side)) return pivot;
    // Where on the foot's axis the point lies that stayed: the heel's way across the foot over the angle.
    const Eigen::Vector3d across = headingRight(first.heading + 0.5 * pivot.amount);
    const double aside = across.head<2>().dot(last.heel - first.heel);
    const double centre = -aside / (2 * std::sin(0.5 * pivot.amount / kDegPerRad)) / p.body().heelToBall();
    pivot.about = 100 * centre;
    return pivot;
}

/// Touch-downs of a foot that had been well off the floor; a foot that gathers beside the other one is not.
int touchesOf(const Performance& p, const PerformedPhase& phase, Side side)
{
    int touches = 0;
    bool raised = false, touched = false;
    for (double t = phase.begin; t <= phase.time; t += kTruthStep) {
        const FootPose foot = p.poseAt(t).foot[side];
        touched |= raised && foot.onFloor();
        if (foot.onFloor()) raised = false;
        if (foot.lift > kRaised) {
            touches += touched;
            touched = false;
            raised = true;
        }
    }
    return touches;
}

void addFlow(PhaseTruth& out, const Performance& p, const PerformedPhase& phase,
             const std::vector<double>& hands)
{
    std::vector<double> pelvis, fastest;
    std::vector<Eigen::Vector2d> held;
    Figure before = p.figureAt(phase.begin);
    for (double t = phase.begin + kTruthStep; t <= phase.time; t += kTruthStep) {
        const Figure f = p.figureAt(t);
        pelvis.push_back((f.midHip - before.midHip).norm() / kTruthStep);
        fastest.push_back(std::max(pelvis.back(), hands[pelvis.size() - 1]));
        const Pose pose = p.poseAt(t);
        if (pose.foot[Side::Left].offFloor() != pose.foot[Side::Right].offFloor())
            out.oneLegTime += kTruthStep;
        before = f;
    }
    for (double t = phase.time - 0.15; t <= phase.time + 0.15; t += kTruthStep)
        held.emplace_back(p.figureAt(t).centreOfMass.head<2>());
    out.sway = ellipseArea(held);
    out.pauses = pausesIn(fastest);
    out.smoothness = std::min(spectralArcLength(hands, kTruthStep), spectralArcLength(pelvis, kTruthStep));
}

} // namespace

double spectralArcLength(const std::vector<double>& speed, double step)
{
    constexpr double highest = 10, threshold = 0.05; // Hz, share of the largest amplitude
    const double df =
        1 / (step * static_cast<double>(speed.size()) * 16); // as if padded to 16 times the length
    std::vector<double> amplitude;
    for (double f = 0; f <= highest; f += df) {
        std::complex<double> sum = 0;
        for (std::size_t i = 0; i < speed.size(); ++i)
            sum += std::polar(speed[i], -2 * std::numbers::pi * f * step * static_cast<double>(i));
        amplitude.push_back(std::abs(sum));
    }
    const double most = *std::max_element(amplitude.begin(), amplitude.end());
    if (most <= 0) return 0;
    std::size_t end = amplitude.size();
    while (end > 2 && amplitude[end - 1] < threshold * most)
        --end;
    const double across = 1 / static_cast<double>(end - 1);
    double length = 0;
    for (std::size_t i = 1; i < end; ++i)
        length += std::hypot(across, (amplitude[i] - amplitude[i - 1]) / most);
    return -length;
}

PhaseTruth phaseTruth(const Performance& p, const PerformedPhase& phase)
{
    PhaseTruth out;
    out.duration = phase.time - phase.begin;
    const Pose first = p.poseAt(phase.begin), last = p.poseAt(phase.time);
    out.pelvisTurn = last.pelvisHeading - first.pelvisHeading;
    for (Side s : {Side::Left, Side::Right})
        out.pivot[s] = pivotOf(p, phase, s);
    if (phase.stance == StanceKind::OneLeg) // elsewhere a touch on the way is part of the step
        out.touches = touchesOf(p, phase, Side::Left) + touchesOf(p, phase, Side::Right);
    out.order = moveOrder(p, phase);

    double low = 1e9, high = -1e9, mostWeight = -1e9, leastWeight = 1e9, back = 0, forth = 0;
    Eigen::Vector2d kneeLow(1e9, 1e9), kneeHigh(-1e9, -1e9);
    std::vector<double> hands, turn, weight;
    Figure before = p.figureAt(phase.begin);
    Pose poseBefore = first;
    for (double t = phase.begin + kTruthStep; t <= phase.time; t += kTruthStep) {
        const Figure f = p.figureAt(t);
        const double height = 100 * f.midHip.z() / f.standingHip;
        low = std::min(low, height);
        high = std::max(high, height);
        const double now = share(f, phase.lead);
        mostWeight = std::max(mostWeight, now);
        leastWeight = std::min(leastWeight, now);
        back = std::max(back, mostWeight - now);
        forth = std::max(forth, now - leastWeight);
        if (now > 45 && now < 55) out.doubleTime += kTruthStep;
        const Eigen::Vector2d knee = f.at(sided(Landmark::LeftKnee, phase.lead)).head<2>();
        kneeLow = kneeLow.cwiseMin(knee);
        kneeHigh = kneeHigh.cwiseMax(knee);
        const auto local = [](const Figure& g, Landmark l) {
            return Eigen::Vector3d(g.of(Bone::Thorax).rotation.transpose() * (g.at(l) - g.midShoulder));
        };
        hands.push_back(
            std::max((local(f, Landmark::LeftWrist) - local(before, Landmark::LeftWrist)).norm(),
                     (local(f, Landmark::RightWrist) - local(before, Landmark::RightWrist)).norm()) /
            kTruthStep);
        const Pose pose = p.poseAt(t);
        turn.push_back(std::abs(pose.pelvisHeading - poseBefore.pelvisHeading) / kTruthStep);
        // What a foot carried when it left the floor, or carries at once when it touches, is no shift.
        weight.push_back(offFloor(pose) == offFloor(poseBefore)
                             ? std::abs(now - share(before, phase.lead)) / kTruthStep
                             : 0);
        poseBefore = pose;
        before = f;
    }
    if (hands.empty()) return out;
    addFlow(out, p, phase, hands);
    out.bob = high - low;
    out.kneeDrift = (kneeHigh - kneeLow).norm();
    out.backwardShift =
        std::min(back, forth); // the transfer goes one way; the smaller of the two is its error
    const Travel h = travelOf(hands, phase.begin), w = travelOf(weight, phase.begin),
                 g = travelOf(turn, phase.begin);
    if (h.peak > 0.15 && g.peak > 5) out.turnLeads = h.start - g.start;
    if (h.peak > 0.15) out.handsArrive = h.arrival;
    if (h.peak > 0.15 && w.peak > 10) out.handsAfterWeight = h.arrival - w.arrival;
    return out;
}

} // namespace jl
