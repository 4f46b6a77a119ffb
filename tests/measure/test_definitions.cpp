#include "base/angles.h"
#include "measure/measure_value.h"
#include "support/near.h"
#include "support/stick_body.h"

using namespace jl;
using Eigen::Vector3d;
using enum Landmark;

namespace
{

double value(Measure m, const BodyPoints& p, Side lead = Side::Right, double heading = 0)
{
    return measureValue(m, p, stickLengths(), lead, heading);
}

BodyPoints with(Landmark l, const Vector3d& at)
{
    BodyPoints p = stickBody();
    p[index(l)] = at;
    return p;
}

/// All points of the upper body turned about the vertical through the origin, right positive, deg.
BodyPoints chestTurned(double deg)
{
    BodyPoints p = stickBody();
    for (Landmark l : {LeftShoulder, RightShoulder, LeftElbow, RightElbow, LeftWrist, RightWrist}) {
        const Vector3d v = p[index(l)];
        p[index(l)] = v.x() * rightOf(deg) + v.y() * forwardOf(deg) + Vector3d(0, 0, v.z());
    }
    return p;
}

} // namespace

/// The definitions of measures on a body of sticks, against what geometry says.
class TestDefinitions : public QObject
{
    Q_OBJECT

private slots:
    void standingIsAllZero()
    {
        const BodyPoints p = stickBody();
        for (Measure m :
             {Measure::HipLeadFlexion, Measure::TrunkLeanForward, Measure::TrunkLeanSide,
              Measure::StanceLength, Measure::FootLeadAngle, Measure::FootRearAngle, Measure::HeelRearLift,
              Measure::ToeLeadLift, Measure::PelvisSquare, Measure::WaistTwist, Measure::PelvisLevel,
              Measure::ShouldersLevel, Measure::HeadTilt, Measure::HeadForward, Measure::SpineRound,
              Measure::GazeHeading, Measure::ElbowLeadFlexion, Measure::ColumnOffset, Measure::HandLeadFront})
            VERIFY_NEAR(value(m, p), 0, m == Measure::HipLeadFlexion ? 5 : 1e-6);
        VERIFY_NEAR(value(Measure::WeightLead, p), 50, 1e-6);
        VERIFY_NEAR(value(Measure::PelvisHeight, p), 100, 1e-6);
        VERIFY_NEAR(value(Measure::ShoulderLeadRaise, p), 100, 1e-6);
        VERIFY_NEAR(value(Measure::ArmLeadReach, p), 100, 1e-6);
        VERIFY_NEAR(value(Measure::FeetParallelWidth, p), 0.30, 1e-9);
        VERIFY_NEAR(value(Measure::HandsApart, p), 0.36, 1e-9);
        VERIFY_NEAR(value(Measure::GazeDrop, p), 5.7 - 3.4, 0.1); // the nose lies 1 cm below the ears
    }

    void kneesBend()
    {
        // Thigh level, shank upright: a right angle.
        BodyPoints p = with(RightKnee, {0.15, 0.42, 0.51});
        p[index(RightAnkle)] = {0.15, 0.42, 0.10};
        p[index(RightHip)] = {0.15, 0, 0.51};
        VERIFY_NEAR(value(Measure::KneeLeadFlexion, p), 90, 1e-6);
        VERIFY_NEAR(value(Measure::KneeRearFlexion, p, Side::Left), 90, 1e-6); // the same leg, called rear
        VERIFY_NEAR(value(Measure::HipRearFlexion, stickBody()), value(Measure::HipLeadFlexion, stickBody()),
                    1e-9);
    }

    void theKneeAgainstItsFoot()
    {
        VERIFY_NEAR(value(Measure::KneeLeadPastToe, with(RightKnee, {0.15, 0.24, 0.5})), 0.04, 1e-9);
        VERIFY_NEAR(value(Measure::KneeLeadPastToe, stickBody()), -0.20, 1e-9);
        VERIFY_NEAR(value(Measure::KneeLeadTrack, with(RightKnee, {0.10, 0.1, 0.5})), -0.05, 1e-9);
        VERIFY_NEAR(value(Measure::KneeLeadTrack, with(LeftKnee, {-0.20, 0.1, 0.5}), Side::Left), 0.05, 1e-9);
        VERIFY_NEAR(value(Measure::KneeRearTrack, with(LeftKnee, {-0.11, 0.1, 0.5})), -0.04, 1e-9);
        // Knees 0.26 apart over ankles 0.30 apart.
        VERIFY_NEAR(value(Measure::KneesOpen, stickBody()), -0.04, 1e-9);
        // A foot turned out by 90 degrees: its axis runs to the right, in front of it lies its own side.
        BodyPoints p = with(RightToe, {0.35, 0, 0.025});
        p[index(RightHeel)] = {0.09, 0, 0.03};
        p[index(RightKnee)] = {0.40, 0.02, 0.5};
        VERIFY_NEAR(value(Measure::KneeLeadPastToe, p), 0.05, 1e-9);
        VERIFY_NEAR(value(Measure::KneeLeadTrack, p), -0.02, 1e-9);
        VERIFY_NEAR(value(Measure::FootLeadAngle, p), 90, 1e-6);
        VERIFY_NEAR(value(Measure::FootRearAngle, p, Side::Left), 90, 1e-6);
    }

    void stancesAreAlongAndAcrossTheirDirection()
    {
        BodyPoints p = stickBody();
        p[index(RightHeel)] = {0.05, 0.50, 0.03};
        p[index(RightToe)] = {0.05, 0.76, 0.025};
        VERIFY_NEAR(value(Measure::StanceLength, p), 0.56, 1e-9);
        VERIFY_NEAR(value(Measure::StanceWidth, p), 0.20, 1e-9);
        VERIFY_NEAR(value(Measure::StanceLength, p, Side::Left), -0.56, 1e-9);
        // Seen along another heading the same two feet have another length and width.
        VERIFY_NEAR(value(Measure::StanceLength, p, Side::Right, 90), 0.20, 1e-9);
        VERIFY_NEAR(value(Measure::StanceWidth, p, Side::Right, 90), -0.56, 1e-9);
        p[index(LeftHeel)].z() = 0.05;
        VERIFY_NEAR(value(Measure::HeelRearLift, p), 0.02, 1e-9);
        p[index(RightToe)].z() = 0.085;
        VERIFY_NEAR(value(Measure::ToeLeadLift, p), 0.06, 1e-9);
    }

    void theTrunkLeansAndTheSpineRounds()
    {
        BodyPoints p = stickBody();
        for (Landmark l : {LeftShoulder, RightShoulder, LeftEar, RightEar})
            p[index(l)].y() += 0.5 * std::tan(20 * kRadPerDeg);
        VERIFY_NEAR(value(Measure::TrunkLeanForward, p), 20, 1e-6);
        VERIFY_NEAR(value(Measure::TrunkLeanForward, p, Side::Right, 180), -20, 1e-6);
        VERIFY_NEAR(value(Measure::TrunkLeanSide, p, Side::Right, 90), -20, 1e-6);
        VERIFY_NEAR(value(Measure::SpineRound, p), -20, 1e-6); // the head stayed upright over the shoulders
        p = stickBody();
        for (Landmark l : {LeftEar, RightEar})
            p[index(l)].y() = 0.19;
        VERIFY_NEAR(value(Measure::SpineRound, p), 45, 1e-6);
        VERIFY_NEAR(value(Measure::HeadForward, p), 0.19, 1e-9);
        VERIFY_NEAR(value(Measure::ColumnOffset, p), 0.75 * 0.19, 1e-9);
        // Rear heel, mid-hip and shoulders in one line.
        p = stickBody();
        p[index(LeftHeel)] = {0, -0.89, 0.03};
        for (Landmark l : {LeftShoulder, RightShoulder})
            p[index(l)] = {p[index(l)].x(), 0.5, 1.42};
        VERIFY_NEAR(value(Measure::TrunkRearLegLine, p), 0, 1e-6);
    }

    void partsTurnAgainstEachOther()
    {
        VERIFY_NEAR(value(Measure::WaistTwist, chestTurned(35)), 35, 1e-6);
        VERIFY_NEAR(value(Measure::WaistTwist, chestTurned(-20)), -20, 1e-6);
        VERIFY_NEAR(value(Measure::PelvisSquare, stickBody(), Side::Right, 30), -30, 1e-6);
        VERIFY_NEAR(value(Measure::PelvisSquare, stickBody(), Side::Right, -170), 170, 1e-6);
        VERIFY_NEAR(value(Measure::GazeHeading, with(Nose, {0.10, 0, 1.6})), 90, 1e-6);
        BodyPoints p = stickBody();
        p[index(RightHip)].z() += 0.02;
        VERIFY_NEAR(value(Measure::PelvisLevel, p), std::atan2(0.02, 0.2) * kDegPerRad, 1e-6);
        p = stickBody();
        p[index(LeftShoulder)].z() += 0.03;
        VERIFY_NEAR(value(Measure::ShouldersLevel, p), -std::atan2(0.03, 0.36) * kDegPerRad, 1e-6);
        VERIFY_NEAR(value(Measure::ShoulderRearRaise, p), 100 * 0.16 / 0.19, 1e-6);
        p = stickBody();
        p[index(RightEar)].z() += 0.02;
        VERIFY_NEAR(value(Measure::HeadTilt, p), std::atan2(0.02, 0.16) * kDegPerRad, 1e-6);
    }

    void armsReachBendAndFlare()
    {
        BodyPoints p = stickBody();
        p[index(RightElbow)] = {0.18, 0.28, 1.42}; // upper arm level ahead, forearm up
        p[index(RightWrist)] = {0.18, 0.28, 1.68};
        VERIFY_NEAR(value(Measure::ElbowLeadFlexion, p), 90, 1e-6);
        VERIFY_NEAR(value(Measure::ElbowLeadBelow, p), 0, 1e-9);
        VERIFY_NEAR(value(Measure::ElbowRearBelow, p), 0.28, 1e-9);
        VERIFY_NEAR(value(Measure::ArmLeadReach, p), 100 * std::hypot(0.28, 0.26) / 0.54, 1e-6);
        VERIFY_NEAR(value(Measure::HandLeadHeight, p), 100 * (1.68 - 0.92) / 0.5, 1e-6);
        VERIFY_NEAR(value(Measure::HandLeadFront, p), 0.28, 1e-9);
        VERIFY_NEAR(value(Measure::HandLeadCentre, p), 0.18, 1e-9);
        VERIFY_NEAR(value(Measure::HandRearCentre, p), 0.18, 1e-9);
        VERIFY_NEAR(value(Measure::ElbowLeadFlare, p), 0, 1e-6);
        p[index(RightElbow)] = {0.18 + 0.14, 0.2425, 1.42}; // swung out by 30 degrees
        VERIFY_NEAR(value(Measure::ElbowLeadFlare, p), 30, 0.1);
        // Both forearms ahead and parallel; then one turned by a right angle.
        p = stickBody();
        p[index(RightWrist)] = {0.18, 0.26, 1.14};
        p[index(LeftWrist)] = {-0.18, 0.26, 1.14};
        VERIFY_NEAR(value(Measure::ArmsParallel, p), 0, 1e-6);
        p[index(LeftWrist)] = {0.08, 0, 1.14};
        VERIFY_NEAR(value(Measure::ArmsParallel, p), 90, 1e-6);
        VERIFY_NEAR(value(Measure::HandRearCentre, p), -0.08, 1e-9); // it crossed the middle
    }

    void theArmOverItsLeg()
    {
        BodyPoints p = stickBody();
        p[index(RightAnkle)] = {0.10, 0.6, 0.8}; // kicked straight ahead of the hip
        p[index(RightWrist)] = {0.18, 0.5, 1.42};
        VERIFY_NEAR(value(Measure::ArmOverLeg, p), 0, 1e-6);
        p[index(RightWrist)] = {0.68, 0.5, 1.42};
        VERIFY_NEAR(value(Measure::ArmOverLeg, p), 45, 1e-6);
    }

    void legsSplay()
    {
        BodyPoints p = stickBody();
        p[index(RightAnkle)] = {0.10 + 0.83, 0, 0.09}; // as far out as down
        VERIFY_NEAR(value(Measure::LegLeadSplay, p), 45, 1e-6);
        VERIFY_NEAR(value(Measure::LegRearSplay, p), std::atan2(0.05, 0.83) * kDegPerRad, 1e-6);
    }

    void weightFollowsTheBody()
    {
        BodyPoints p = stickBody();
        for (std::size_t i = 0; i < index(LeftKnee); ++i)
            p[i].x() += 0.15; // all but the legs over the right foot
        QVERIFY(value(Measure::WeightLead, p) > 75);
        VERIFY_NEAR(value(Measure::WeightLead, p) + value(Measure::WeightLead, p, Side::Left), 100, 1e-6);
    }

    void balanceIsTheWayToTheNearestEdge()
    {
        // The soles reach 0.19 m to either side and, with what lies beyond their points, from -0.0782 to
        // 0.2026 m; the centre of mass of this body lies over the ankles.
        const double margin = value(Measure::BalanceMargin, stickBody());
        QVERIFY(margin > 0.07 && margin < 0.10);
        BodyPoints p = stickBody();
        for (std::size_t i = 0; i < index(LeftKnee); ++i)
            p[i].y() -= 0.30; // falling backwards
        QVERIFY(value(Measure::BalanceMargin, p) < -0.1);
        // On one leg only its own sole carries.
        p = stickBody();
        for (Landmark l : {LeftHeel, LeftToe, LeftAnkle})
            p[index(l)].z() += 0.2;
        QVERIFY(value(Measure::BalanceMargin, p) < -0.08);
        for (Landmark l : {RightHeel, RightToe})
            p[index(l)].z() += 0.2;
        QVERIFY(std::isnan(value(Measure::BalanceMargin, p))); // in the air there is no edge
    }

    void usualLengthsGrowWithTheHeight()
    {
        const BodyLengths a = BodyLengths::usual(1.70), b = BodyLengths::usual(1.87);
        VERIFY_NEAR(b.arm / a.arm, 1.1, 1e-9);
        VERIFY_NEAR(b.standingHip / a.standingHip, 1.1, 1e-9);
        VERIFY_NEAR(b.toe / a.toe, 1.1, 1e-9);
    }
};

QTEST_APPLESS_MAIN(TestDefinitions)
#include "test_definitions.moc"
