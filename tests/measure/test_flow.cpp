#include "measure/flow.h"
#include "support/near.h"
#include <QtTest>
#include <random>

using namespace jl;

namespace
{

constexpr double kStep = 0.01; // s

/// Speeds (m/s) that hold for so long (s), one after another.
std::vector<double> course(std::initializer_list<std::pair<double, double>> stretches)
{
    std::vector<double> out;
    for (const auto& [speed, lasts] : stretches)
        out.insert(out.end(), static_cast<std::size_t>(std::lround(lasts / kStep)), speed);
    return out;
}

} // namespace

class TestFlow : public QObject
{
    Q_OBJECT

private slots:
    void aRestLastsAndATwitchDoesNotEndIt()
    {
        const auto rests = Resting{}.restsOf(
            course({{0.3, 1}, {0.01, 0.3}, {0.3, 0.1}, {0.01, 0.3}, {0.3, 0.5}, {0.01, 0.2}, {0.3, 1}}),
            kStep);
        QCOMPARE(rests.size(), std::size_t(1));
        QCOMPARE(rests[0].begin, std::size_t(100));
        QCOMPARE(rests[0].end, std::size_t(170));
    }

    void standingBeforeAndAfterIsNoPause()
    {
        const Pauses none = pausesOf(course({{0, 1}, {0.3, 1}, {0, 1}}), kStep, {});
        QCOMPARE(none.count, 0.0);
        QCOMPARE(none.spread, 0.0);
        QCOMPARE(pausesOf(course({{0.3, 1}, {0, 1}, {0.3, 1}, {0, 0.5}, {0.3, 1}}), kStep, {}).count, 2.0);
    }

    /// A count hangs on how long a stop takes, and how still it is, where that is near to what tells.
    void whatJustPassesForAPauseMakesTheCountUnsure_data()
    {
        QTest::addColumn<double>("lasts");
        QTest::addColumn<double>("speed");
        QTest::addColumn<double>("count");
        QTest::addColumn<double>("spread");
        QTest::newRow("plain") << 0.5 << 0.01 << 1.0 << 0.0;
        QTest::newRow("just long enough") << 0.31 << 0.01 << 1.0 << 0.5;
        QTest::newRow("just too short") << 0.29 << 0.01 << 0.0 << 0.5;
        QTest::newRow("too short") << 0.2 << 0.01 << 0.0 << 0.0;
        QTest::newRow("just still enough") << 0.5 << 0.0197 << 1.0 << 0.5;
        QTest::newRow("not quite still") << 0.5 << 0.0203 << 0.0 << 0.5;
        QTest::newRow("slow") << 0.5 << 0.03 << 0.0 << 0.0;
    }
    void whatJustPassesForAPauseMakesTheCountUnsure()
    {
        QFETCH(double, lasts);
        QFETCH(double, speed);
        const Pauses pauses = pausesOf(course({{0.3, 1}, {speed, lasts}, {0.3, 1}}), kStep, {});
        QTEST(pauses.count, "count");
        QTEST(pauses.spread, "spread");
    }

    /// Points that tremble where the body stands make a rest of what is no faster than that.
    void restIsAsStillAsThePointsAre()
    {
        BodyMotion m;
        std::mt19937 random(5);
        std::normal_distribution<double> error(0, 0.0006);
        for (int i = 0; i < 300; ++i) {
            m.time.push_back(i / 30.0);
            m.frames.emplace_back();
            for (Eigen::Vector3d& p : m.frames.back())
                p = Eigen::Vector3d(i < 150 ? 0 : 0.01 * i, 0, 1);
        }
        QCOMPARE(Resting::in(m).speed, Resting{}.speed);
        for (BodyPoints& points : m.frames)
            for (Eigen::Vector3d& p : points)
                p += Eigen::Vector3d(error(random), error(random), error(random));
        const double speed = Resting::in(m).speed;
        QVERIFY2(speed > 0.04 && speed <= 0.06, qPrintable(QString::number(speed)));
        QCOMPARE(Resting::in(BodyMotion{}).speed, Resting{}.speed);
    }

    void onlyLongRestsAreLeftOut()
    {
        const auto speed = course({{0.3, 1}, {0, 0.5}, {0.3, 1}, {0, 1.2}, {0.3, 1}});
        const auto moved = withoutLongRests(speed, Resting{}.restsOf(speed, kStep), kStep);
        QCOMPARE(moved, course({{0.3, 1}, {0, 0.5}, {0.3, 2}}));
    }

    void smoothMovesHaveAShortSpectrum()
    {
        const auto bell = [](double t) { return t < 0 || t > 1 ? 0 : 30 * t * t * (1 - t) * (1 - t); };
        std::vector<double> one, two;
        for (double t = 0; t < 2; t += 0.02) {
            one.push_back(bell(t / 2) / 2);
            two.push_back(bell(t / 0.9) / 2 + bell((t - 1.1) / 0.9) / 2);
        }
        QVERIFY(smoothnessOf(one, 0.02) > -1.7 && smoothnessOf(one, 0.02) < -1.3);
        QVERIFY(smoothnessOf(two, 0.02) < smoothnessOf(one, 0.02) - 0.3);
        QCOMPARE(smoothnessOf(std::vector<double>(50, 0), 0.02), 0.0);
        QCOMPARE(smoothnessOf({}, 0.02), 0.0);
    }
};

QTEST_APPLESS_MAIN(TestFlow)
#include "test_flow.moc"
