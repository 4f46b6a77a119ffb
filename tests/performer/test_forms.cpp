#include "base/angles.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/shipped.h"
#include <set>

using namespace jl;
using Eigen::Vector3d;

namespace
{

double bend(const Figure& f, Landmark a, Landmark joint, Landmark b)
{
    const Vector3d u = f.at(a) - f.at(joint), v = f.at(b) - f.at(joint);
    return 180 - std::atan2(u.cross(v).norm(), u.dot(v)) * kDegPerRad;
}

/// Distance of a point from the line piece a to b.
double distanceTo(const Vector3d& p, const Vector3d& a, const Vector3d& b)
{
    const double t = clampTo((p - a).dot(b - a) / (b - a).squaredNorm(), 0, 1);
    return (p - a - t * (b - a)).norm();
}

QString at(const Performance& p, double t)
{
    const PerformedPhase& phase = p.phaseAt(t);
    return QString("%1 %2 at %3 s").arg(phase.posture.c_str(), phase.phase.c_str()).arg(t);
}

} // namespace

/// What must hold for every moment of every form, whatever posture it is.
class TestForms : public QObject
{
    Q_OBJECT

private slots:
    void forms_data()
    {
        QTest::addColumn<QString>("form");
        for (const FormStandard& f : shipped().standards.forms)
            QTest::newRow(f.id.c_str()) << QString::fromStdString(f.id);
    }

    void speedIsContinuous_data() { forms_data(); }
    void speedIsContinuous()
    {
        QFETCH(QString, form);
        const auto p = performForm(form.toStdString(), Side::Right, 3, "tall");
        constexpr double dt = 0.01;
        Figure a = p.figureAt(0), b = p.figureAt(dt);
        for (double t = 2 * dt; t < p.duration(); t += dt) {
            const Figure c = p.figureAt(t);
            for (Landmark l :
                 {Landmark::LeftWrist, Landmark::RightWrist, Landmark::LeftAnkle, Landmark::RightAnkle,
                  Landmark::LeftKnee, Landmark::RightKnee, Landmark::LeftHip, Landmark::LeftShoulder,
                  Landmark::LeftElbow, Landmark::RightElbow}) {
                const double speed = (c.at(l) - b.at(l)).norm() / dt;
                const double jolt = (c.at(l) - 2 * b.at(l) + a.at(l)).norm() / dt; // change of velocity, m/s
                QVERIFY2(speed < 3.5 && jolt < 0.8, qPrintable(QString("point %1: %2 m/s, jolt %3 m/s, %4")
                                                                   .arg(static_cast<int>(l))
                                                                   .arg(speed)
                                                                   .arg(jolt)
                                                                   .arg(at(p, t))));
            }
            a = b;
            b = c;
        }
    }

    void standingFeetStay_data() { forms_data(); }
    void standingFeetStay()
    {
        QFETCH(QString, form);
        const auto p = performForm(form.toStdString(), Side::Left, 5, "small");
        constexpr double dt = 0.02;
        for (Side s : {Side::Left, Side::Right}) {
            Vector3d heel = Vector3d::Zero(), ball = heel; // where the foot stood when it was set down
            bool standing = false;
            for (double t = 0; t < p.duration(); t += dt) {
                const FootPose foot = p.poseAt(t).foot[s];
                const Vector3d h(foot.heel.x(), foot.heel.y(), 0);
                const Vector3d b = h + headingForward(foot.heading) * p.body().heelToBall();
                if (foot.lift > 1e-6) {
                    standing = false;
                    continue;
                }
                if (standing && (h - heel).norm() > 0.003 && (b - ball).norm() > 0.003)
                    QFAIL(qPrintable(QString("foot %1 slides %2 cm, %3")
                                         .arg(static_cast<int>(s))
                                         .arg(100 * (h - heel).norm())
                                         .arg(at(p, t))));
                // It may turn on the heel and then on the ball, so each is followed while the other stands.
                if (!standing || (h - heel).norm() <= 0.003) ball = b;
                if (!standing || (b - ball).norm() <= 0.003) heel = h;
                standing = true;
            }
        }
    }

    void jointsKeepTheirRange_data() { forms_data(); }
    void jointsKeepTheirRange()
    {
        QFETCH(QString, form);
        using enum Landmark;
        const auto p = performForm(form.toStdString(), Side::Right, 2, "broad");
        for (double t = 0; t < p.duration(); t += 0.05) {
            const Figure f = p.figureAt(t);
            const Pose pose = p.poseAt(t);
            for (Side s : {Side::Left, Side::Right}) {
                const double knee = bend(f, sided(LeftHip, s), sided(LeftKnee, s), sided(LeftAnkle, s));
                const double elbow =
                    bend(f, sided(LeftShoulder, s), sided(LeftElbow, s), sided(LeftWrist, s));
                QVERIFY2(knee > 1 && knee < 150, qPrintable(QString("knee %1, %2").arg(knee).arg(at(p, t))));
                QVERIFY2(elbow > 1 && elbow < 150,
                         qPrintable(QString("elbow %1, %2").arg(elbow).arg(at(p, t))));
                // Hip, knee and ankle together turn a foot in by some 60 degrees and out by some 100.
                const double turn =
                    wrapDeg(pose.foot[s].heading - pose.pelvisHeading) * (s == Side::Right ? 1 : -1);
                QVERIFY2(turn > -56 && turn < 100,
                         qPrintable(QString("foot turned %1, %2").arg(turn).arg(at(p, t))));
                QVERIFY2(f.at(sided(LeftKnee, s)).z() > 0.05 && f.at(sided(LeftToe, s)).z() > -0.01,
                         qPrintable(QString("under the floor, %1").arg(at(p, t))));
            }
            const double twist = wrapDeg(pose.thoraxHeading - pose.pelvisHeading);
            QVERIFY2(std::abs(twist) < 50, qPrintable(QString("twist %1, %2").arg(twist).arg(at(p, t))));
            const double look = wrapDeg(pose.headHeading - pose.thoraxHeading);
            QVERIFY2(std::abs(look) < 90, qPrintable(QString("head turned %1, %2").arg(look).arg(at(p, t))));
        }
    }

    void limbsStayOutOfTheBody_data() { forms_data(); }
    void limbsStayOutOfTheBody()
    {
        QFETCH(QString, form);
        using enum Landmark;
        const auto p = performForm(form.toStdString());
        const double k = p.body().scale();
        for (double t = 0; t < p.duration(); t += 0.05) {
            const Figure f = p.figureAt(t);
            for (Side s : {Side::Left, Side::Right}) {
                const Vector3d wrist = f.at(sided(LeftWrist, s));
                QVERIFY2(distanceTo(wrist, f.midHip, f.midShoulder) > 0.11 * k,
                         qPrintable(QString("a wrist in the trunk, %1").arg(at(p, t))));
                QVERIFY2((wrist - f.of(Bone::Head).origin).norm() > 0.12 * k,
                         qPrintable(QString("a wrist in the head, %1").arg(at(p, t))));
            }
            const double shins = std::min(distanceTo(f.at(LeftAnkle), f.at(RightKnee), f.at(RightAnkle)),
                                          distanceTo(f.at(RightAnkle), f.at(LeftKnee), f.at(LeftAnkle)));
            QVERIFY2(shins > 0.07 * k,
                     qPrintable(QString("one shin in the other (%1 m), %2").arg(shins).arg(at(p, t))));
            QVERIFY2((f.at(LeftKnee) - f.at(RightKnee)).norm() > 0.06 * k,
                     qPrintable(QString("one knee in the other, %1").arg(at(p, t))));
        }
    }

    void leftMirrorsRight_data() { forms_data(); }
    void leftMirrorsRight()
    {
        QFETCH(QString, form);
        const auto right = performForm(form.toStdString()),
                   left = performForm(form.toStdString(), Side::Left);
        QCOMPARE(right.phases().size(), left.phases().size());
        for (std::size_t i = 0; i < right.phases().size(); ++i) {
            const PerformedPhase &a = right.phases()[i], &b = left.phases()[i];
            QCOMPARE(a.lead, other(b.lead));
            const Figure f = right.figureAt(a.time), g = left.figureAt(b.time);
            for (std::size_t k = 0; k < kLandmarkCount; ++k) {
                const Vector3d twin = g.landmark[index(mirrored(static_cast<Landmark>(k)))];
                QVERIFY((f.landmark[k] - Vector3d(-twin.x(), twin.y(), twin.z())).norm() < 1e-6);
            }
            using enum Measure;
            const std::set towardsTheRight{TrunkLeanSide,  PelvisSquare, WaistTwist, PelvisLevel,
                                           ShouldersLevel, ArmOverLeg,   HeadTilt,   GazeHeading};
            for (const MeasureInfo& m : allMeasures()) { // and so does the truth about it
                const double sign = towardsTheRight.contains(m.measure) ? -1 : 1;
                VERIFY_NEAR(trueMeasure(m.measure, f, a.lead, a.heading),
                            sign * trueMeasure(m.measure, g, b.lead, b.heading), 1e-5);
            }
        }
    }

    void theLongFormTakesItsTime()
    {
        const auto p = performForm("full-24");
        QVERIFY(p.duration() > 240 && p.duration() < 360);
        QCOMPARE(p.phases().back().heading, 0.0); // it ends where it looked at the beginning
        double farthest = 0;
        for (const PerformedPhase& phase : p.phases())
            farthest = std::max(farthest, p.figureAt(phase.time).midHip.head<2>().norm());
        QVERIFY(farthest > 1.5 && farthest < 7); // a room is enough
    }

    void oneLegCarriesAllOfIt()
    {
        for (const char* posture : {"heel-kick", "golden-rooster", "shoot-tiger"}) {
            const auto p = performForm(posture);
            for (const PerformedPhase& phase : p.phases()) {
                if (phase.stance != StanceKind::OneLeg) continue;
                const Figure f = p.figureAt(phase.time);
                QCOMPARE(trueMeasure(Measure::WeightLead, f, phase.lead, phase.heading), 0.0);
                QVERIFY(f.at(sided(Landmark::LeftAnkle, phase.lead)).z() > 0.25 * p.body().height / 1.7);
            }
        }
    }

    void turnsOnTheBallKeepTheBall()
    {
        std::vector<Moment> moments(3);
        const BodyShape body = shipped().bodies.front();
        moments[1].pose.foot[Side::Left].heading = 40;
        moments[1].pose.foot[Side::Left].onBall = true;
        moments[2].pose.foot[Side::Left] = moments[1].pose.foot[Side::Left];
        moments[2].pose.foot[Side::Left].onBall = false;
        settleBallTurns(moments, body);
        const auto ball = [&](const Moment& m) {
            const FootPose& f = m.pose.foot[Side::Left];
            return Eigen::Vector2d(f.heel + headingForward(f.heading).head<2>() * body.heelToBall());
        };
        QVERIFY((ball(moments[1]) - ball(moments[0])).norm() < 1e-9);
        QVERIFY((ball(moments[2]) - ball(moments[0])).norm() < 1e-9); // and the heel stays where it went
        QCOMPARE(footPlaces(moments, Side::Left), (std::vector<int>{0, 0, 0}));
        moments[2].pose.foot[Side::Left].heel.x() += 0.2;
        QCOMPARE(footPlaces(moments, Side::Left), (std::vector<int>{0, 0, 1}));
    }
};

QTEST_APPLESS_MAIN(TestForms)
#include "test_forms.moc"
