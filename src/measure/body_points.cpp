#include "measure/body_points.h"
#include "base/angles.h"
#include "body/mass_model.h"
#include <Eigen/Geometry>
#include <cmath>
#include <limits>

namespace jl
{

using Eigen::Vector2d;
using Eigen::Vector3d;

Vector3d forwardOf(double headingDeg)
{
    const double h = headingDeg * kRadPerDeg;
    return {std::sin(h), std::cos(h), 0};
}

Vector3d rightOf(double headingDeg)
{
    return forwardOf(headingDeg + 90);
}

namespace
{

/// Reads points of one side, and the few constructions that all measures share.
struct JointReader {
    const BodyPoints& p;

    const Vector3d& at(Landmark l) const { return p[index(l)]; }
    Vector3d of(Landmark left, Side s) const { return at(sided(left, s)); }
    Vector3d trunk() const
    {
        using enum Landmark;
        return 0.5 * (at(LeftShoulder) + at(RightShoulder) - at(LeftHip) - at(RightHip));
    }
    Vector2d footCentre(Side s) const
    {
        return 0.5 * (of(Landmark::LeftHeel, s) + of(Landmark::LeftToe, s)).head<2>();
    }
    Vector2d footForward(Side s) const
    {
        return (of(Landmark::LeftToe, s) - of(Landmark::LeftHeel, s)).head<2>().normalized();
    }
    double bend(Vector3d upper,
                Vector3d lower) const // between the directions of two bones that follow each other
    {
        return std::acos(clampTo(upper.normalized().dot(lower.normalized()), -1, 1)) * kDegPerRad;
    }
    double knee(Side s) const
    {
        const Vector3d k = of(Landmark::LeftKnee, s);
        return bend(k - of(Landmark::LeftHip, s), of(Landmark::LeftAnkle, s) - k);
    }
    double hip(Side s) const { return bend(-trunk(), of(Landmark::LeftKnee, s) - of(Landmark::LeftHip, s)); }
    double elbow(Side s) const
    {
        const Vector3d e = of(Landmark::LeftElbow, s);
        return bend(e - of(Landmark::LeftShoulder, s), of(Landmark::LeftWrist, s) - e);
    }
    double weight(Side lead) const
    {
        const Vector2d front = footCentre(lead), rear = footCentre(other(lead)), line = front - rear;
        return 100 * (centreOfMass(p).head<2>() - rear).dot(line) / line.squaredNorm();
    }
};

} // namespace

double measureValue(Measure m, const BodyPoints& points, Side lead, double headingDeg)
{
    const JointReader r{points};
    const Side rear = other(lead);
    const Vector3d forward = forwardOf(headingDeg), right = rightOf(headingDeg);
    const double leadSign = lead == Side::Right ? 1 : -1;
    using enum Landmark;
    switch (m) {
    case Measure::KneeLeadFlexion:
        return r.knee(lead);
    case Measure::KneeRearFlexion:
        return r.knee(rear);
    case Measure::HipLeadFlexion:
        return r.hip(lead);
    case Measure::HipRearFlexion:
        return r.hip(rear);
    case Measure::ElbowLeadFlexion:
        return r.elbow(lead);
    case Measure::ElbowRearFlexion:
        return r.elbow(rear);
    case Measure::KneeLeadPastToe:
        return (r.of(LeftKnee, lead) - r.of(LeftToe, lead)).head<2>().dot(r.footForward(lead));
    case Measure::KneeLeadTrack: {
        const Vector2d f = r.footForward(lead), d = (r.of(LeftKnee, lead) - r.of(LeftToe, lead)).head<2>();
        return leadSign * (d.x() * f.y() - d.y() * f.x());
    }
    case Measure::StanceLength:
        return (r.of(LeftHeel, lead) - r.of(LeftHeel, rear)).dot(forward);
    case Measure::StanceWidth:
        return leadSign * (r.of(LeftHeel, lead) - r.of(LeftHeel, rear)).dot(right);
    case Measure::TrunkLeanForward:
        return std::atan2(r.trunk().dot(forward), r.trunk().z()) * kDegPerRad;
    case Measure::TrunkLeanSide:
        return std::atan2(r.trunk().dot(right), r.trunk().z()) * kDegPerRad;
    case Measure::WeightLead:
        return r.weight(lead);
    default: // not read from clips
        break;
    }
    return std::numeric_limits<double>::quiet_NaN();
}

} // namespace jl
