#include "performer/truth.h"
#include "performer/truth_parts.h"
#include <algorithm>
#include <limits>

namespace jl
{
namespace
{

using namespace truth;
using Eigen::Vector2d;

double bendAt(const Figure& f, Landmark first, Landmark joint, Landmark last)
{
    return 180 - angleBetween(f.at(first) - f.at(joint), f.at(last) - f.at(joint));
}

double hipFold(const Figure& f, Side side)
{
    const Vector3d thigh = f.at(sided(Landmark::LeftKnee, side)) - f.at(sided(Landmark::LeftHip, side));
    return 180 - angleBetween(f.midShoulder - f.midHip, thigh);
}

double outward(Side side)
{
    return side == Side::Left ? -1 : 1;
}

double footAngle(const Figure& f, Side side, double headingDeg)
{
    return outward(side) * wrapDeg(headingOf(footAxis(f, side)) - headingDeg);
}

double kneeBeside(const Figure& f, Side side)
{
    const Vector3d axis = footAxis(f, side), toTheRight(axis.y(), -axis.x(), 0);
    return outward(side) *
           (f.at(sided(Landmark::LeftKnee, side)) - f.at(sided(Landmark::LeftHeel, side))).dot(toTheRight);
}

double splay(const Figure& f, Side side)
{
    const Vector3d leg = f.at(sided(Landmark::LeftAnkle, side)) - f.at(sided(Landmark::LeftHip, side));
    Vector3d across = f.at(Landmark::RightHip) - f.at(Landmark::LeftHip);
    across.z() = 0;
    return std::atan2(outward(side) * leg.dot(across.normalized()), -leg.z()) * kDegPerRad;
}

double feetWidth(const Figure& f)
{
    const Vector3d axis = (footAxis(f, Side::Left) + footAxis(f, Side::Right)).normalized();
    const Vector3d toTheRight(axis.y(), -axis.x(), 0);
    return (f.at(Landmark::RightHeel) - f.at(Landmark::LeftHeel)).dot(toTheRight);
}

double between(const Figure& f, Landmark left, const Vector3d& right)
{
    return (f.at(sided(left, Side::Right)) - f.at(left)).dot(right);
}

/// Corners of a foot's sole that lie on the floor.
void addSole(const Figure& f, Side side, std::vector<Vector2d>& points)
{
    const BoneFrame& foot = f.of(sided(Bone::LeftFoot, side));
    for (double y : {-0.085, 0.205})
        for (double x : {-0.5 * f.footBreadth, 0.5 * f.footBreadth}) {
            const Vector3d p = foot.place(Vector3d(x, y * f.scale, 0));
            if (p.z() < 0.012 * f.scale) points.emplace_back(p.head<2>());
        }
}

double cross(const Vector2d& a, const Vector2d& b)
{
    return a.x() * b.y() - a.y() * b.x();
}

/// The convex hull, counterclockwise (Andrew's monotone chain).
std::vector<Vector2d> hullOf(std::vector<Vector2d> p)
{
    std::sort(p.begin(), p.end(), [](const Vector2d& a, const Vector2d& b) {
        return a.x() < b.x() || (a.x() == b.x() && a.y() < b.y());
    });
    std::vector<Vector2d> hull;
    for (int round = 0; round < 2; ++round) {
        const std::size_t start = hull.size();
        for (const Vector2d& q : p) {
            while (hull.size() >= start + 2 &&
                   cross(hull.back() - hull[hull.size() - 2], q - hull[hull.size() - 2]) <= 0)
                hull.pop_back();
            hull.push_back(q);
        }
        hull.pop_back();
        std::reverse(p.begin(), p.end());
    }
    return hull;
}

} // namespace

double trueBalanceMargin(const Figure& f)
{
    std::vector<Vector2d> soles;
    for (Side side : {Side::Left, Side::Right})
        addSole(f, side, soles);
    if (soles.size() < 3) return -std::numeric_limits<double>::infinity();
    const double pendulum = std::sqrt(9.81 / std::max(0.2, f.centreOfMass.z()));
    const Vector2d reach = f.centreOfMass.head<2>() + f.velocity.head<2>() / pendulum;
    const std::vector<Vector2d> hull = hullOf(soles);
    double margin = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < hull.size(); ++i) {
        const Vector2d edge = (hull[(i + 1) % hull.size()] - hull[i]).normalized();
        margin = std::min(margin, cross(edge, reach - hull[i]));
    }
    return margin;
}

double trueMeasure(Measure m, const Figure& f, Side lead, double headingDeg)
{
    using enum Landmark;
    const Side rear = other(lead);
    const Vector3d forward = headingForward(headingDeg), right = headingRight(headingDeg);
    const auto flexion = [&](Side s) {
        return bendAt(f, sided(LeftHip, s), sided(LeftKnee, s), sided(LeftAnkle, s));
    };
    const auto elbow = [&](Side s) {
        return bendAt(f, sided(LeftShoulder, s), sided(LeftElbow, s), sided(LeftWrist, s));
    };
    const auto belowShoulder = [&](Side s) {
        return f.at(sided(LeftShoulder, s)).z() - f.at(sided(LeftElbow, s)).z();
    };
    const Vector3d heels = f.at(sided(LeftHeel, lead)) - f.at(sided(LeftHeel, rear));
    const Vector3d trunk = f.midShoulder - f.midHip;
    const Vector3d hips = f.at(RightHip) - f.at(LeftHip),
                   shoulders = f.at(RightShoulder) - f.at(LeftShoulder);
    // The floor normal of a line from left to right points forward: its heading is 90 degrees to the left.
    const double pelvisHeading = headingOf(hips) - 90, thoraxHeading = headingOf(shoulders) - 90;
    switch (m) {
    case Measure::KneeLeadFlexion:
        return flexion(lead);
    case Measure::KneeRearFlexion:
        return flexion(rear);
    case Measure::HipLeadFlexion:
        return hipFold(f, lead);
    case Measure::HipRearFlexion:
        return hipFold(f, rear);
    case Measure::ElbowLeadFlexion:
        return elbow(lead);
    case Measure::ElbowRearFlexion:
        return elbow(rear);
    case Measure::KneeLeadPastToe:
        return (f.at(sided(LeftKnee, lead)) - f.at(sided(LeftToe, lead))).dot(footAxis(f, lead));
    case Measure::KneeLeadTrack:
        return kneeBeside(f, lead);
    case Measure::StanceLength:
        return heels.dot(forward);
    case Measure::StanceWidth:
        return heels.dot(right) * outward(lead);
    case Measure::TrunkLeanForward:
        return std::atan2(trunk.dot(forward), trunk.z()) * kDegPerRad;
    case Measure::TrunkLeanSide:
        return std::atan2(trunk.dot(right), trunk.z()) * kDegPerRad;
    case Measure::WeightLead:
        return 100 * (lead == Side::Left ? f.weightLeft : 1 - f.weightLeft);
    case Measure::FootLeadAngle:
        return footAngle(f, lead, headingDeg);
    case Measure::FootRearAngle:
        return footAngle(f, rear, headingDeg);
    case Measure::HeelRearLift:
        return f.at(sided(LeftHeel, rear)).z() - 0.030 * f.scale;
    case Measure::ToeLeadLift:
        return f.at(sided(LeftToe, lead)).z() - 0.025 * f.scale;
    case Measure::FeetParallelWidth:
        return feetWidth(f);
    case Measure::LegLeadSplay:
        return splay(f, lead);
    case Measure::LegRearSplay:
        return splay(f, rear);
    case Measure::BalanceMargin:
        return trueBalanceMargin(f);
    case Measure::KneeRearTrack:
        return kneeBeside(f, rear);
    case Measure::KneesOpen:
        return between(f, LeftKnee, right) - between(f, LeftAnkle, right);
    case Measure::PelvisSquare:
        return wrapDeg(pelvisHeading - headingDeg);
    case Measure::WaistTwist:
        return wrapDeg(thoraxHeading - pelvisHeading);
    case Measure::PelvisLevel:
        return levelOf(hips);
    case Measure::PelvisHeight:
        return 100 * f.midHip.z() / f.standingHip;
    case Measure::TrunkRearLegLine:
        return angleBetween(trunk, f.midHip - f.at(sided(LeftHeel, rear)));
    case Measure::SpineRound:
        return spineRound(f);
    case Measure::ColumnOffset:
        return columnOffset(f);
    case Measure::ShouldersLevel:
        return levelOf(shoulders);
    case Measure::ShoulderLeadRaise:
        return shoulderRaise(f, lead);
    case Measure::ShoulderRearRaise:
        return shoulderRaise(f, rear);
    case Measure::ElbowLeadBelow:
        return belowShoulder(lead);
    case Measure::ElbowRearBelow:
        return belowShoulder(rear);
    case Measure::ElbowLeadFlare:
        return elbowFlare(f, lead);
    case Measure::ElbowRearFlare:
        return elbowFlare(f, rear);
    case Measure::ArmLeadReach:
        return armReach(f, lead);
    case Measure::ArmRearReach:
        return armReach(f, rear);
    case Measure::HandLeadHeight:
        return handHeight(f, lead);
    case Measure::HandRearHeight:
        return handHeight(f, rear);
    case Measure::HandLeadCentre:
        return handCentre(f, lead);
    case Measure::HandRearCentre:
        return handCentre(f, rear);
    case Measure::HandLeadFront:
        return handFront(f, lead);
    case Measure::HandRearFront:
        return handFront(f, rear);
    case Measure::PalmLeadUp:
        return palmUp(f, lead);
    case Measure::PalmRearUp:
        return palmUp(f, rear);
    case Measure::HandsApart:
        return (f.at(RightWrist) - f.at(LeftWrist)).norm();
    case Measure::ArmsParallel:
        return armsParallel(f);
    case Measure::ArmOverLeg:
        return armOverLeg(f, lead);
    case Measure::HeadForward:
        return headForward(f);
    case Measure::HeadTilt:
        return levelOf(f.at(RightEar) - f.at(LeftEar));
    case Measure::GazeHeading:
        return gazeHeading(f, headingDeg);
    case Measure::GazeDrop:
        return gazeDrop(f);
    }
    return 0;
}

} // namespace jl
