#include "measure/floor_contact.h"
#include "performer/events.h"
#include "support/body_motion.h"
#include "support/forms.h"
#include "support/near.h"

using namespace jl;

namespace
{

/// Steps are to be expected around where the performer makes them.
ExpectedSteps aroundTheStepsOf(const Performance& p, double framesPerSecond = 30)
{
    ExpectedSteps expected;
    for (Side side : {Side::Left, Side::Right})
        for (double t = 0; t < p.duration(); t += 1 / framesPerSecond) {
            bool steps = false;
            for (double near = t - 0.35; near <= t + 0.35; near += 0.05)
                steps |= near > 0 && p.poseAt(near).foot[side].lift > 0.003;
            expected[static_cast<std::size_t>(side)].push_back(steps);
        }
    return expected;
}

} // namespace

/// When feet meet the floor and leave it.
class TestFloorContact : public QObject
{
    Q_OBJECT

private slots:
    void feetMeetTheFloorWhenTheyDo_data()
    {
        QTest::addColumn<QString>("form");
        QTest::addColumn<double>("share");
        QTest::newRow("brush-walk") << "brush-walk" << 0.8;
        QTest::newRow("kick-section") << "kick-section" << 0.8;
        QTest::newRow("cloud-line") << "cloud-line" << 0.8;
        QTest::newRow("sparrow-tail") << "sparrow-tail" << 0.65; // one of its three steps only gathers
    }

    void feetMeetTheFloorWhenTheyDo()
    {
        QFETCH(QString, form);
        QFETCH(double, share);
        const auto p = performForm(form.toStdString());
        const std::vector<FloorEvent> events = floorEvents(p);
        const FloorContact contact = floorContact(motionOf(p, 30, 0.003), aroundTheStepsOf(p));
        std::size_t found = 0;
        for (const FloorEvent& e : events)
            for (const FootEvent& m : contact.footEvents) {
                if (m.side != e.side || m.lift != (e.kind == FloorEvent::Kind::Lift)) continue;
                if (std::abs(m.time - e.time) > 0.2) continue;
                ++found;
                break;
            }
        // Small, slow gathering steps hardly differ from resting.
        QVERIFY2(static_cast<double>(found) >= share * static_cast<double>(events.size()),
                 qPrintable(QString("%1 of %2").arg(found).arg(events.size())));
        QVERIFY2(contact.footEvents.size() <= found + 2,
                 qPrintable(QString("%1 meetings for %2").arg(contact.footEvents.size()).arg(found)));
    }

    void stepsLandOnTheirHeels()
    {
        const auto p = performForm("brush-walk");
        int heels = 0;
        for (const FootEvent& m : floorContact(motionOf(p)).footEvents)
            if (!m.lift && m.how == "heel") {
                ++heels;
                QVERIFY(m.flatAt > m.time);
            }
        QVERIFY(heels >= 3);
    }

    void aPointThatJumpsIsNoStep()
    {
        BodyMotion m = motionOf(performForm("stand"), 20);
        for (std::size_t i = 10; i < 12; ++i)
            for (Landmark l : {Landmark::LeftHeel, Landmark::LeftToe})
                m.frames[i][index(l)] += Eigen::Vector3d(0.3, 0, 0.1);
        QVERIFY(floorContact(m).footEvents.empty());
        QVERIFY(floorContact(BodyMotion{}).footEvents.empty());
    }

    void aJumpIsALeapAndAKickIsNone()
    {
        for (const bool jump : {true, false}) {
            PerformanceRequest request = requestFor("double-kick");
            request.manner.jump = jump;
            const FloorContact contact = floorContact(motionOf(performAs(request), 30));
            QCOMPARE(contact.leaps.size(), std::size_t(jump ? 1 : 0));
            if (jump) VERIFY_NEAR(contact.leaps[0].height, 0.1, 0.03);
        }
    }

    void anExpectedStepMayBeSmaller()
    {
        // A foot that rises eight centimetres and sinks again in half a second, on its place.
        BodyMotion m;
        m.framesPerSecond = 20;
        const BodyPoints stand = performForm("stand").figureAt(0).landmark;
        for (int i = 0; i < 60; ++i) {
            m.time.push_back(i / 20.0);
            BodyPoints p = stand;
            const double rise = i < 25 || i > 35 ? 0 : 0.08 * std::sin((i - 25) * std::numbers::pi / 10);
            for (Landmark l : {Landmark::LeftHeel, Landmark::LeftToe})
                p[index(l)].z() += rise;
            m.frames.push_back(p);
        }
        const ExpectedSteps never{std::vector<bool>(60, false), std::vector<bool>(60, false)},
            then{std::vector<bool>(60, true), std::vector<bool>(60, true)};
        QVERIFY(floorContact(m, never).footEvents.empty());
        QCOMPARE(floorContact(m, then).footEvents.size(), std::size_t(2));
    }
};

QTEST_APPLESS_MAIN(TestFloorContact)
#include "test_floor_contact.moc"
