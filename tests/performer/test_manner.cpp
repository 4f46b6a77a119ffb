#include "base/angles.h"
#include "performer/events.h"
#include "support/forms.h"
#include "support/near.h"

using namespace jl;

namespace
{

Performance performIn(const Manner& manner, const char* form, const char* school = "upright-broad",
                      const char* body = "teacher")
{
    auto request = requestFor(form, school, body);
    request.manner = manner;
    return performAs(request);
}

double handHeight(const char* school, const char* posture, const char* phase)
{
    const auto p = performIn({}, posture, school);
    return valueAt(p, phaseOf(p, posture, phase), Measure::HandLeadHeight);
}

/// How far the fingers are bent towards the palm against the hand, deg.
double fist(const Figure& f, Side s)
{
    const Eigen::Matrix3d &hand = f.of(sided(Bone::LeftHand, s)).rotation,
                          &fingers = f.of(sided(Bone::LeftFingers, s)).rotation;
    return std::atan2(fingers.col(1).dot(hand.col(2)), fingers.col(1).dot(hand.col(1))) * kDegPerRad;
}

} // namespace

/// How a performer chooses to do a form: stance height, the jump, the school's hands and hand shapes.
class TestManner : public QObject
{
    Q_OBJECT

private slots:
    void stancesGoHighAndLowAndStayKind()
    {
        const auto middle = performIn({}, "sparrow-tail");
        for (const auto& [level, height] : stanceLevels()) {
            const auto p = performIn({height, false}, "sparrow-tail");
            for (std::size_t i = 0; i < p.phases().size(); ++i) {
                const PerformedPhase& phase = p.phases()[i];
                if (phase.stance != StanceKind::Bow) continue;
                const double change = valueAt(p, phase, Measure::PelvisHeight) -
                                      valueAt(middle, middle.phases()[i], Measure::PelvisHeight);
                QVERIFY2(
                    height == 0 ? std::abs(change) < 1e-9 : change * height > 0 && std::abs(change) > 1.5,
                    qPrintable(QString("%1 %2: %3").arg(level.c_str(), phase.posture.c_str()).arg(change)));
                QVERIFY(valueAt(p, phase, Measure::KneeLeadPastToe) < 0.02);
                QVERIFY(std::abs(valueAt(p, phase, Measure::TrunkLeanForward)) < 6);
            }
        }
    }

    void aJumpLeavesTheFloorAsLongAsGravityHasIt()
    {
        const auto flying = [](const Performance& p) {
            double most = 0, time = 0;
            for (double t = 0; t < p.duration(); t += 0.005) {
                const Pose pose = p.poseAt(t);
                const double low = std::min(pose.foot[Side::Left].lift, pose.foot[Side::Right].lift);
                if (low > 1e-4) time += 0.005;
                most = std::max(most, low);
            }
            return std::pair(most, time);
        };
        const auto [height, time] = flying(performIn({0, true}, "double-kick"));
        QVERIFY(height > 0.05);
        VERIFY_NEAR(time, std::sqrt(8 * height / 9.81), 0.06);
        QCOMPARE(flying(performIn({}, "double-kick")).second, 0.0);
        // Whoever may not kick may not jump either.
        QCOMPARE(flying(performIn({0, true}, "double-kick", "upright-broad", "elder-careful")).second, 0.0);
    }

    void theJumpIsSmooth()
    {
        const auto p = performIn({0, true}, "double-kick");
        constexpr double dt = 0.01;
        for (double t = 2 * dt; t < p.duration(); t += dt) {
            const double a = p.figureAt(t - 2 * dt).midHip.z(), b = p.figureAt(t - dt).midHip.z(),
                         c = p.figureAt(t).midHip.z();
            QVERIFY(std::abs(c - 2 * b + a) / dt < 0.5); // change of velocity, m/s
        }
    }

    void schoolsHoldTheirHandsApart()
    {
        const double broad = handHeight("upright-broad", "roll-back", "sit");
        QVERIFY(handHeight("inclined-straight", "roll-back", "sit") > broad + 15); // near the chest
        QVERIFY(handHeight("compact", "roll-back", "sit") > broad + 30);           // shoulder level kept
        QVERIFY(handHeight("spiral", "roll-back", "sit") < broad - 8);             // near the belt
        QVERIFY(handHeight("compact", "push", "arrive") > handHeight("gentle", "push", "arrive") + 12);
    }

    void fistsAndHooksCloseAndOpen()
    {
        const auto punch = performIn({}, "deflect-parry-punch");
        const PerformedPhase& hit = phaseOf(punch, "deflect-parry-punch", "punch");
        QVERIFY(fist(punch.figureAt(hit.time), other(hit.lead)) > 100);
        VERIFY_NEAR(fist(punch.figureAt(hit.time), hit.lead), 0, 1e-6);

        const auto whip = performIn({}, "single-whip");
        const PerformedPhase& open = phaseOf(whip, "single-whip", "fill");
        const Figure f = whip.figureAt(open.time);
        const Eigen::Vector3d fingers = f.of(sided(Bone::LeftFingers, other(open.lead))).rotation.col(1);
        QVERIFY(fingers.z() < -0.7); // they hang from the wrist
        QVERIFY(f.of(sided(Bone::LeftFingers, open.lead)).rotation.col(1).z() > 0);

        const auto form = performIn({}, "full-24"); // what was closed opens again
        VERIFY_NEAR(fist(form.figureAt(form.phases().back().time), Side::Left), 0, 1e-6);
        VERIFY_NEAR(fist(form.figureAt(form.phases().back().time), Side::Right), 0, 1e-6);
    }

    void nobodyFallsIntoAStep()
    {
        for (const char* body : {"teacher", "tall", "small"}) {
            int contacts = 0;
            for (const FloorEvent& e : floorEvents(performIn({}, "full-24", "upright-broad", body))) {
                if (e.kind != FloorEvent::Kind::Contact) continue;
                ++contacts;
                QVERIFY2(e.drop < 0.16, qPrintable(QString("%1 m/s at %2 s").arg(e.drop).arg(e.time)));
            }
            QVERIFY(contacts > 40);
        }
    }

    void kneesThatBendLessTakeShorterSteps()
    {
        const auto careful = performIn({}, "ward-off", "upright-broad", "elder-careful"),
                   free = performIn({}, "ward-off");
        const auto length = [](const Performance& p) {
            return valueAt(p, phaseOf(p, "ward-off", "arrive"), Measure::StanceLength) /
                   p.body().footLength();
        };
        QVERIFY(length(careful) < length(free) - 0.1);
        QVERIFY(length(careful) > 1.79); // still a stance of its school
    }
};

QTEST_APPLESS_MAIN(TestManner)
#include "test_manner.moc"
