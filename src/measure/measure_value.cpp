#include "measure/measure_value.h"
#include "body/mass_model.h"
#include "measure/measure_value_parts.h"
#include <algorithm>

namespace jl
{

using Eigen::Vector2d;
using Eigen::Vector3d;

namespace
{

using enum Landmark;

double knee(const JointGeometry& r, Side s)
{
    const Vector3d k = r.of(LeftKnee, s);
    return r.angle(k - r.of(LeftHip, s), r.of(LeftAnkle, s) - k);
}

double hip(const JointGeometry& r, Side s)
{
    return r.angle(-r.trunk(), r.of(LeftKnee, s) - r.of(LeftHip, s));
}

/// How far the knee's plumb falls outside the foot's axis.
double kneeTrack(const JointGeometry& r, Side s)
{
    const Vector2d f = r.footForward(s), d = (r.of(LeftKnee, s) - r.of(LeftToe, s)).head<2>();
    return r.outward(s) * (d.x() * f.y() - d.y() * f.x());
}

double footAngle(const JointGeometry& r, Side s, double headingDeg)
{
    const Vector3d foot = r.of(LeftToe, s) - r.of(LeftHeel, s);
    return r.outward(s) * wrapDeg(r.heading(foot) - headingDeg);
}

double splay(const JointGeometry& r, Side s)
{
    Vector3d aside = r.across(LeftHip);
    aside.z() = 0;
    const Vector3d leg = r.of(LeftAnkle, s) - r.of(LeftHip, s);
    return std::atan2(r.outward(s) * leg.dot(aside.normalized()), -leg.z()) * kDegPerRad;
}

double feetWidth(const JointGeometry& r)
{
    const Vector2d along = (r.footForward(Side::Left) + r.footForward(Side::Right)).normalized();
    return r.across(LeftHeel).head<2>().dot(Vector2d(along.y(), -along.x()));
}

double weight(const JointGeometry& r, Side lead)
{
    const Vector2d front = r.footCentre(lead), rear = r.footCentre(other(lead)), line = front - rear;
    return 100 * (centreOfMass(r.p).head<2>() - rear).dot(line) / line.squaredNorm();
}

/// Largest horizontal distance of ear, shoulder, hip and ankle from their mean, along the pelvis' heading.
double columnOffset(const JointGeometry& r)
{
    const Vector3d forward = forwardOf(r.facing(r.across(LeftHip)));
    std::array<double, 4> at{r.mid(LeftEar).dot(forward), r.mid(LeftShoulder).dot(forward),
                             r.mid(LeftHip).dot(forward), r.mid(LeftAnkle).dot(forward)};
    const double mean = 0.25 * (at[0] + at[1] + at[2] + at[3]);
    for (double& a : at)
        a = std::abs(a - mean);
    return *std::max_element(at.begin(), at.end());
}

} // namespace

double measureValue(Measure m, const BodyPoints& points, const BodyLengths& lengths, Side lead,
                    double headingDeg)
{
    const JointGeometry r{points};
    const Side rear = other(lead);
    const Vector3d forward = forwardOf(headingDeg), right = rightOf(headingDeg);
    switch (m) {
    case Measure::KneeLeadFlexion:
        return knee(r, lead);
    case Measure::KneeRearFlexion:
        return knee(r, rear);
    case Measure::HipLeadFlexion:
        return hip(r, lead);
    case Measure::HipRearFlexion:
        return hip(r, rear);
    case Measure::KneeLeadPastToe:
        return (r.of(LeftKnee, lead) - r.of(LeftToe, lead)).head<2>().dot(r.footForward(lead));
    case Measure::KneeLeadTrack:
        return kneeTrack(r, lead);
    case Measure::KneeRearTrack:
        return kneeTrack(r, rear);
    case Measure::KneesOpen:
        return (r.across(LeftKnee) - r.across(LeftAnkle)).dot(right);
    case Measure::StanceLength:
        return (r.of(LeftHeel, lead) - r.of(LeftHeel, rear)).dot(forward);
    case Measure::StanceWidth:
        return r.outward(lead) * (r.of(LeftHeel, lead) - r.of(LeftHeel, rear)).dot(right);
    case Measure::FeetParallelWidth:
        return feetWidth(r);
    case Measure::FootLeadAngle:
        return footAngle(r, lead, headingDeg);
    case Measure::FootRearAngle:
        return footAngle(r, rear, headingDeg);
    case Measure::HeelRearLift:
        return r.of(LeftHeel, rear).z() - lengths.heel;
    case Measure::ToeLeadLift:
        return r.of(LeftToe, lead).z() - lengths.toe;
    case Measure::LegLeadSplay:
        return splay(r, lead);
    case Measure::LegRearSplay:
        return splay(r, rear);
    case Measure::WeightLead:
        return weight(r, lead);
    case Measure::BalanceMargin:
        return balanceMargin(r, lengths);
    case Measure::PelvisSquare:
        return wrapDeg(r.facing(r.across(LeftHip)) - headingDeg);
    case Measure::WaistTwist:
        return r.waistTwist();
    case Measure::PelvisLevel:
        return r.rise(r.across(LeftHip));
    case Measure::PelvisHeight:
        return 100 * r.mid(LeftHip).z() / lengths.standingHip;
    case Measure::TrunkLeanForward:
        return std::atan2(r.trunk().dot(forward), r.trunk().z()) * kDegPerRad;
    case Measure::TrunkLeanSide:
        return std::atan2(r.trunk().dot(right), r.trunk().z()) * kDegPerRad;
    case Measure::TrunkRearLegLine:
        return r.angle(r.trunk(), r.mid(LeftHip) - r.of(LeftHeel, rear));
    case Measure::ColumnOffset:
        return columnOffset(r);
    default:
        return upperBodyValue(m, r, lengths, lead, headingDeg);
    }
}

} // namespace jl
