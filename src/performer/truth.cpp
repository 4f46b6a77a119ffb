#include "performer/truth.h"
#include "base/angles.h"

namespace jl
{
namespace
{

using Eigen::Vector3d;

double angleBetween(const Vector3d& a, const Vector3d& b)
{
    return std::atan2(a.cross(b).norm(), a.dot(b)) * kDegPerRad;
}

double bendAt(const Figure& f, Landmark first, Landmark joint, Landmark last)
{
    return 180 - angleBetween(f.at(first) - f.at(joint), f.at(last) - f.at(joint));
}

double hipFold(const Figure& f, Side side)
{
    const Vector3d trunk = f.midShoulder - f.midHip;
    const Vector3d thigh = f.at(sided(Landmark::LeftKnee, side)) - f.at(sided(Landmark::LeftHip, side));
    return 180 - angleBetween(trunk, thigh);
}

Vector3d footAxis(const Figure& f, Side side)
{
    Vector3d axis = f.at(sided(Landmark::LeftToe, side)) - f.at(sided(Landmark::LeftHeel, side));
    axis.z() = 0;
    return axis.normalized();
}

} // namespace

double trueMeasure(Measure m, const Figure& f, Side lead, double headingDeg)
{
    const Side rear = other(lead);
    const Vector3d forward = headingForward(headingDeg), right = headingRight(headingDeg);
    const auto flexion = [&](Side s) {
        return bendAt(f, sided(Landmark::LeftHip, s), sided(Landmark::LeftKnee, s),
                      sided(Landmark::LeftAnkle, s));
    };
    const auto elbow = [&](Side s) {
        return bendAt(f, sided(Landmark::LeftShoulder, s), sided(Landmark::LeftElbow, s),
                      sided(Landmark::LeftWrist, s));
    };
    const Vector3d heels = f.at(sided(Landmark::LeftHeel, lead)) - f.at(sided(Landmark::LeftHeel, rear));
    const Vector3d trunk = f.midShoulder - f.midHip;
    const Vector3d knee = f.at(sided(Landmark::LeftKnee, lead));
    const Vector3d axis = footAxis(f, lead);
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
        return (knee - f.at(sided(Landmark::LeftToe, lead))).dot(axis);
    case Measure::KneeLeadTrack: {
        const Vector3d toTheRight(axis.y(), -axis.x(), 0);
        return (knee - f.at(sided(Landmark::LeftHeel, lead))).dot(toTheRight) *
               (lead == Side::Right ? 1 : -1);
    }
    case Measure::StanceLength:
        return heels.dot(forward);
    case Measure::StanceWidth:
        return heels.dot(right) * (lead == Side::Right ? 1 : -1);
    case Measure::TrunkLeanForward:
        return std::atan2(trunk.dot(forward), trunk.z()) * kDegPerRad;
    case Measure::TrunkLeanSide:
        return std::atan2(trunk.dot(right), trunk.z()) * kDegPerRad;
    case Measure::WeightLead:
        return 100 * (lead == Side::Left ? f.weightLeft : 1 - f.weightLeft);
    }
    return 0;
}

} // namespace jl
