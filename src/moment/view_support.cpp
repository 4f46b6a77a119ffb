#include "moment/view_support.h"
#include "base/units.h"
#include "body/joint_geometry.h"

namespace jl
{

using Eigen::Vector3d;

namespace
{

/// How far a camera may stand from square to the plane of a measure.
/// Chosen on: the 160 clips of seed 11; beyond them values are not given.
struct ViewLimits {
    /// Measures of the side view. x0.5: n -1 %; x2: err -0.7 %, n +5 %.
    Degrees side = 25;
    /// Weight, from square to the line between the feet. x0.5: err +0.8 %, n -2 %; x2: err +0.7 %, n +3 %.
    Degrees weight = 40;
    /// Measures of the front view. x0.5: err +0.7 %; x2: none.
    Degrees front = 12;
    /// Lean aside, from front or back. x0.5 and x2: none.
    Degrees leanAside = 20;
    /// A line out of the picture plane. x0.5: n -2 %; x2: err -0.5 %, u -0.6 %, n +3 %.
    Degrees line = 25;
};
constexpr ViewLimits kLimits;

/// What one camera can see of a body that stands like the prior.
struct Sight {
    double azimuth;
    const MomentPrior& prior;
    JointGeometry joints{prior.points};

    static double apart(double a, double b) { return std::abs(wrapDeg(a - b)); }
    double fromFront() const { return apart(azimuth, prior.heading); }
    double fromSide() const { return std::abs(fromFront() - 90); }
    bool fromSideOf(double heading) const { return std::abs(apart(azimuth, heading) - 90) <= kLimits.side; }
    bool fromFrontOrBehind(double limit) const { return fromFront() <= limit || fromFront() >= 180 - limit; }

    /// Angle of a line out of the plane that faces the camera, 0 (in the picture plane) to 90 deg.
    double outOfPicture(const Vector3d& line) const
    {
        return std::asin(clampTo(std::abs(line.normalized().dot(forwardOf(azimuth))), 0, 1)) * kDegPerRad;
    }
    bool inPicture(const Vector3d& line) const { return outOfPicture(line) <= kLimits.line; }
    bool armInPicture(Side s) const
    {
        using enum Landmark;
        return inPicture(joints.of(LeftElbow, s) - joints.of(LeftShoulder, s)) &&
               inPicture(joints.of(LeftWrist, s) - joints.of(LeftElbow, s));
    }
    double footTurn(Side s) const
    {
        using enum Landmark;
        return apart(joints.heading(joints.of(LeftToe, s) - joints.of(LeftHeel, s)), prior.heading);
    }
    bool legInPlane(Side s) const { return fromSide() <= kLimits.side && footTurn(s) <= kLimits.side; }
    bool footTowards(Side s) const { return fromFront() <= kLimits.front && footTurn(s) <= kLimits.side; }
    double chestHeading() const { return joints.facing(joints.across(Landmark::LeftShoulder)); }
    double pelvisHeading() const { return joints.facing(joints.across(Landmark::LeftHip)); }
    double faceHeading() const
    {
        return joints.heading(joints.at(Landmark::Nose) - joints.mid(Landmark::LeftEar));
    }
    bool feetAcross() const
    {
        const Eigen::Vector2d line = joints.footCentre(prior.lead) - joints.footCentre(other(prior.lead));
        return outOfPicture({line.x(), line.y(), 0}) <= kLimits.weight;
    }
};

} // namespace

bool supported(Measure m, double azimuth, const MomentPrior& prior)
{
    using enum Landmark;
    const Sight sight{azimuth, prior};
    const JointGeometry& r = sight.joints;
    const Side lead = prior.lead, rear = other(lead);
    switch (m) {
    case Measure::KneeLeadFlexion:
    case Measure::HipLeadFlexion:
    case Measure::KneeLeadPastToe:
        return sight.legInPlane(lead);
    case Measure::KneeRearFlexion:
    case Measure::HipRearFlexion:
        return sight.legInPlane(rear);
    case Measure::StanceLength:
    case Measure::TrunkLeanForward:
    case Measure::TrunkRearLegLine:
        return sight.fromSide() <= kLimits.side;
    case Measure::KneeLeadTrack:
        return sight.footTowards(lead);
    case Measure::KneeRearTrack:
        return sight.footTowards(rear);
    case Measure::TrunkLeanSide:
        return sight.fromFrontOrBehind(kLimits.leanAside);
    case Measure::StanceWidth:
    case Measure::FeetParallelWidth:
    case Measure::KneesOpen:
        return sight.fromFrontOrBehind(kLimits.front);
    case Measure::LegLeadSplay:
    case Measure::LegRearSplay:
    case Measure::PelvisLevel:
        return sight.inPicture(r.across(LeftHip));
    case Measure::ShouldersLevel:
        return sight.inPicture(r.across(LeftShoulder));
    case Measure::HeadTilt:
        return sight.inPicture(r.across(LeftEar));
    case Measure::WeightLead:
        return sight.feetAcross();
    case Measure::ElbowLeadFlexion:
        return sight.armInPicture(lead);
    case Measure::ElbowRearFlexion:
        return sight.armInPicture(rear);
    case Measure::ArmLeadReach:
        return sight.inPicture(r.of(LeftWrist, lead) - r.of(LeftShoulder, lead));
    case Measure::ArmRearReach:
        return sight.inPicture(r.of(LeftWrist, rear) - r.of(LeftShoulder, rear));
    case Measure::HandsApart:
        return sight.inPicture(r.across(LeftWrist));
    case Measure::HandLeadCentre:
    case Measure::HandRearCentre:
        return sight.inPicture(r.across(LeftShoulder));
    case Measure::HandLeadFront:
    case Measure::HandRearFront:
    case Measure::HeadForward:
    case Measure::SpineRound:
        return sight.fromSideOf(sight.chestHeading());
    case Measure::ColumnOffset:
        return sight.fromSideOf(sight.pelvisHeading());
    case Measure::GazeDrop:
        return sight.fromSideOf(sight.faceHeading());
    // Heights can be read from everywhere.
    case Measure::HeelRearLift:
    case Measure::ToeLeadLift:
    case Measure::PelvisHeight:
    case Measure::ShoulderLeadRaise:
    case Measure::ShoulderRearRaise:
    case Measure::ElbowLeadBelow:
    case Measure::ElbowRearBelow:
    case Measure::HandLeadHeight:
    case Measure::HandRearHeight:
        return true;
    // Headings need depth: two clips filmed at once.
    case Measure::FootLeadAngle:
    case Measure::FootRearAngle:
    case Measure::BalanceMargin:
    case Measure::PelvisSquare:
    case Measure::WaistTwist:
    case Measure::ElbowLeadFlare:
    case Measure::ElbowRearFlare:
    case Measure::PalmLeadUp:
    case Measure::PalmRearUp:
    case Measure::ArmsParallel:
    case Measure::ArmOverLeg:
    case Measure::GazeHeading:
        break;
    }
    return false;
}

} // namespace jl
