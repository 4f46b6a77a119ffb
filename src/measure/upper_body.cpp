#include "measure/measure_value_parts.h"
#include <limits>

namespace jl
{

using Eigen::Vector3d;

namespace
{

using enum Landmark;

/// The nose point lies below the line in which the face looks, seen from the middle of the ears.
constexpr double kNoseDrop = 3.4; // deg

double elbow(const JointGeometry& r, Side s)
{
    const Vector3d e = r.of(LeftElbow, s);
    return r.angle(e - r.of(LeftShoulder, s), r.of(LeftWrist, s) - e);
}

/// The upper arm out of the vertical plane through shoulder and wrist, outward positive.
double flare(const JointGeometry& r, Side s)
{
    const Vector3d shoulder = r.of(LeftShoulder, s), outer = r.outward(s) * r.chest().col(0);
    Vector3d normal = (r.of(LeftWrist, s) - shoulder).cross(Vector3d::UnitZ());
    if (normal.norm() < 1e-9) normal = outer;
    if (normal.dot(outer) < 0) normal = -normal;
    return 90 - r.angle(r.of(LeftElbow, s) - shoulder, normal);
}

double forearmsApart(const JointGeometry& r)
{
    const auto level = [&](Side s) {
        Vector3d d = r.of(LeftWrist, s) - r.of(LeftElbow, s);
        d.z() = 0;
        return d;
    };
    return r.angle(level(Side::Left), level(Side::Right));
}

double handHeight(const JointGeometry& r, Side s)
{
    const Vector3d trunk = r.trunk();
    return 100 * (r.of(LeftWrist, s) - r.mid(LeftHip)).dot(trunk) / trunk.squaredNorm();
}

/// The wrist from the middle of the shoulders along an axis of the chest (0 right, 1 forward).
double handAlong(const JointGeometry& r, Side s, int axis)
{
    return (r.of(LeftWrist, s) - r.mid(LeftShoulder)).dot(r.chest().col(axis));
}

/// Out of the palm, square to the fingers and to the line of the knuckles.
Vector3d palmOf(const JointGeometry& r, Side s)
{
    const Vector3d knuckles = r.of(LeftIndex, s) - r.of(LeftPinky, s),
                   fingers = 0.5 * (r.of(LeftIndex, s) + r.of(LeftPinky, s)) - r.of(LeftWrist, s);
    return r.outward(s) * knuckles.cross(fingers);
}

double armReach(const JointGeometry& r, const BodyLengths& lengths, Side s)
{
    return 100 * (r.of(LeftWrist, s) - r.of(LeftShoulder, s)).norm() / lengths.arm;
}

double shoulderRaise(const JointGeometry& r, const BodyLengths& lengths, Side s)
{
    return 100 * (r.of(LeftEar, s) - r.of(LeftShoulder, s)).z() / lengths.shoulderToEar;
}

double headForward(const JointGeometry& r)
{
    return (r.mid(LeftEar) - r.mid(LeftShoulder)).dot(forwardOf(r.facing(r.across(LeftShoulder))));
}

double spineRound(const JointGeometry& r)
{
    const Vector3d head = r.mid(LeftEar) - r.mid(LeftShoulder);
    const Eigen::Matrix3d chest = r.chest();
    return std::atan2(head.dot(chest.col(1)), head.dot(chest.col(2))) * kDegPerRad;
}

} // namespace

double upperBodyValue(Measure m, const JointGeometry& r, const BodyLengths& lengths, Side lead,
                      double headingDeg)
{
    const Side rear = other(lead);
    const Vector3d face = r.at(Nose) - r.mid(LeftEar);
    switch (m) {
    case Measure::ElbowLeadFlexion:
        return elbow(r, lead);
    case Measure::ElbowRearFlexion:
        return elbow(r, rear);
    case Measure::ElbowLeadBelow:
        return (r.of(LeftShoulder, lead) - r.of(LeftElbow, lead)).z();
    case Measure::ElbowRearBelow:
        return (r.of(LeftShoulder, rear) - r.of(LeftElbow, rear)).z();
    case Measure::ElbowLeadFlare:
        return flare(r, lead);
    case Measure::ElbowRearFlare:
        return flare(r, rear);
    case Measure::ArmLeadReach:
        return armReach(r, lengths, lead);
    case Measure::ArmRearReach:
        return armReach(r, lengths, rear);
    case Measure::HandLeadHeight:
        return handHeight(r, lead);
    case Measure::HandRearHeight:
        return handHeight(r, rear);
    case Measure::HandLeadCentre:
        return r.outward(lead) * handAlong(r, lead, 0);
    case Measure::HandRearCentre:
        return r.outward(rear) * handAlong(r, rear, 0);
    case Measure::HandLeadFront:
        return handAlong(r, lead, 1);
    case Measure::HandRearFront:
        return handAlong(r, rear, 1);
    case Measure::PalmLeadUp:
        return r.rise(palmOf(r, lead));
    case Measure::PalmRearUp:
        return r.rise(palmOf(r, rear));
    case Measure::HandsApart:
        return r.across(LeftWrist).norm();
    case Measure::ArmsParallel:
        return forearmsApart(r);
    case Measure::ArmOverLeg:
        return wrapDeg(r.heading(r.of(LeftWrist, lead) - r.of(LeftShoulder, lead)) -
                       r.heading(r.of(LeftAnkle, lead) - r.of(LeftHip, lead)));
    case Measure::ShouldersLevel:
        return r.rise(r.across(LeftShoulder));
    case Measure::ShoulderLeadRaise:
        return shoulderRaise(r, lengths, lead);
    case Measure::ShoulderRearRaise:
        return shoulderRaise(r, lengths, rear);
    case Measure::SpineRound:
        return spineRound(r);
    case Measure::HeadForward:
        return headForward(r);
    case Measure::HeadTilt:
        return r.rise(r.across(LeftEar));
    case Measure::GazeHeading:
        return wrapDeg(r.heading(face) - headingDeg);
    case Measure::GazeDrop:
        return -r.rise(face) - kNoseDrop;
    default:
        return std::numeric_limits<double>::quiet_NaN();
    }
}

} // namespace jl
