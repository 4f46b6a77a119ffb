#include "base/angles.h"
#include "measure/foot_pivot.h"
#include "measure/touch_downs.h"
#include "support/near.h"
#include <QtTest>
#include <random>

using namespace jl;
using Eigen::Vector2d;

namespace
{

constexpr double kLength = 0.267, kBall = 0.75 * kLength;

/// A foot after a turn (deg, to the right) about a point so far ahead of its heel, m.
FootPlace turned(const FootPlace& foot, double deg, double about)
{
    const Vector2d centre = foot.heel + (foot.toe - foot.heel).normalized() * about;
    const double c = std::cos(deg / kDegPerRad), s = std::sin(deg / kDegPerRad);
    const auto turn = [&](const Vector2d& p) {
        const Vector2d d = p - centre;
        return Vector2d(centre + Vector2d(c * d.x() + s * d.y(), c * d.y() - s * d.x()));
    };
    return {turn(foot.heel), turn(foot.toe)};
}

const FootPlace kFoot{{0.3, -0.2}, Vector2d(0.3, -0.2) + kLength* Vector2d(0.6, 0.8)};

} // namespace

class TestFootPivot : public QObject
{
    Q_OBJECT

private slots:
    void aFootTurnsAboutOneOfItsPoints_data()
    {
        QTest::addColumn<double>("deg");
        QTest::addColumn<double>("about");
        QTest::addColumn<double>("told");
        QTest::newRow("heel, a little") << 26.0 << 0.0 << 0.0;
        QTest::newRow("heel, to the left") << -45.0 << 0.0 << 0.0;
        QTest::newRow("ball") << 60.0 << kBall << 100.0;
        QTest::newRow("ball, to the left") << -130.0 << kBall << 100.0;
        QTest::newRow("whole foot") << 90.0 << 0.5 * kBall << 50.0;
        QTest::newRow("behind the heel, a foot that slides") << 40.0 << -0.5 * kBall << -50.0;
    }
    void aFootTurnsAboutOneOfItsPoints()
    {
        QFETCH(double, deg);
        QFETCH(double, about);
        QFETCH(double, told);
        const FootPivot pivot = footPivot(kFoot, turned(kFoot, deg, about));
        VERIFY_NEAR(pivot.amount, deg, 1e-9);
        QVERIFY(pivot.about);
        VERIFY_NEAR(*pivot.about, told, 1e-6);
    }

    void aSmallTurnDoesNotTellItsPoint()
    {
        const FootPivot pivot = footPivot(kFoot, turned(kFoot, 20, kBall));
        VERIFY_NEAR(pivot.amount, 20, 1e-9);
        QVERIFY(!pivot.about);
    }

    void aLargeTurnTellsItBetter()
    {
        const double small = footPivot(kFoot, turned(kFoot, 30, 0)).aboutSpread,
                     large = footPivot(kFoot, turned(kFoot, 120, 0)).aboutSpread;
        VERIFY_NEAR(large, 100 * 0.02 / kBall / std::sqrt(3), 1e-6); // the chord of a third of a circle
        QVERIFY(small > 3 * large);
    }

    /// Points 1 cm off (1 sd) tell heel from ball in a turn of an eighth.
    void roughPointsStillTellHeelFromBall()
    {
        std::mt19937 random(5);
        std::normal_distribution<double> error(0, 0.01);
        const auto rough = [&](const FootPlace& f) {
            const auto off = [&] { return Vector2d(error(random), error(random)); };
            return FootPlace{f.heel + off(), f.toe + off()};
        };
        int right = 0;
        for (int i = 0; i < 200; ++i) {
            const bool onBall = i % 2;
            const FootPivot pivot = footPivot(rough(kFoot), rough(turned(kFoot, 45, onBall ? kBall : 0)));
            right += pivot.about && (*pivot.about > 50) == onBall;
        }
        QVERIFY2(right >= 196, qPrintable(QString::number(right)));
    }

    void touchesAreCountedOnTheWayUp_data()
    {
        QTest::addColumn<QList<double>>("height");
        QTest::addColumn<double>("count");
        QTest::newRow("lifted only") << QList<double>{0, 0.05, 0.2, 0.3} << 0.0;
        QTest::newRow("touched once") << QList<double>{0.2, 0.1, 0.01, 0.1, 0.2} << 1.0;
        QTest::newRow("trembles at the floor") << QList<double>{0.2, 0.01, 0.06, 0.02, 0.07, 0.2} << 1.0;
        QTest::newRow("put down for good") << QList<double>{0.2, 0.1, 0.01, 0.0, 0.0} << 0.0;
        QTest::newRow("twice") << QList<double>{0.2, 0.0, 0.2, 0.0, 0.2} << 2.0;
        QTest::newRow("stays well above") << QList<double>{0.2, 0.09, 0.2, 0.08, 0.2} << 0.0;
        QTest::newRow("not seen on the way") << QList<double>{0.2, std::nan(""), 0.0, 0.2} << 1.0;
        QTest::newRow("nothing") << QList<double>{} << 0.0;
    }
    void touchesAreCountedOnTheWayUp()
    {
        QFETCH(QList<double>, height);
        QFETCH(double, count);
        QCOMPARE(touchDownsOf({height.begin(), height.end()}).count, count);
    }

    void aTouchThatMayBeNoneIsUncertain()
    {
        QCOMPARE(touchDownsOf({0.2, 0.0, 0.2}).spread, 0.0);
        QCOMPARE(touchDownsOf({0.2, 0.05, 0.2}).spread, 0.5); // 5 cm above the floor, or on it
        QCOMPARE(touchDownsOf({0.2, 0.03, 0.2}).spread, 0.5);
    }
};

QTEST_APPLESS_MAIN(TestFootPivot)
#include "test_foot_pivot.moc"
