#include "measure/travel.h"
#include "support/near.h"
#include <QtTest>
#include <cmath>

using namespace jl;

namespace
{

constexpr double kStep = 0.02;

std::vector<double> times(double until)
{
    std::vector<double> t;
    for (int i = 0; i * kStep <= until; ++i)
        t.push_back(i * kStep);
    return t;
}

/// The speed of a smooth move (half a wave of a sine) from one moment to another.
double moveFrom(double begin, double end, double t)
{
    return t <= begin || t >= end ? 0 : std::sin(M_PI * (t - begin) / (end - begin));
}

std::vector<double> speeds(const std::vector<double>& time, const std::function<double(double)>& of)
{
    std::vector<double> speed;
    for (double t : time)
        speed.push_back(of(t));
    return speed;
}

/// Of a sine the tenth of its peak lies so far in from either end, as a share of its length.
const double kTenthOfSine = std::asin(0.1) / M_PI;

} // namespace

class TestTravel : public QObject
{
    Q_OBJECT

private slots:
    void aMoveStartsAndArrivesAtATenthOfItsPeak()
    {
        const auto time = times(4);
        const Travel t = travelOf(speeds(time, [](double s) { return moveFrom(1, 3, s); }), time);
        VERIFY_NEAR(t.start, 1 + 2 * kTenthOfSine, kStep);
        VERIFY_NEAR(t.arrival, 3 - 2 * kTenthOfSine, kStep);
        VERIFY_NEAR(t.peak, 1, 1e-3);
    }

    void aTwitchIsNoMove()
    {
        const auto time = times(4);
        const auto twitching = [](double from, double to) {
            return [=](double s) { return moveFrom(1, 2, s) + 0.3 * moveFrom(from, to, s); };
        };
        const auto arrival = [&](double to) {
            return travelOf(speeds(time, twitching(3, to)), time).arrival;
        };
        QVERIFY(arrival(3.1) < 2);
        QVERIFY(arrival(3.5) > 3); // that is one
    }

    void theChangeOfACourseIsItsSlope()
    {
        const auto time = times(1);
        for (double v : changeOf(speeds(time, [](double s) { return 5 - 3 * s; }), kStep))
            VERIFY_NEAR(v, 3, 1e-9);
    }

    void whatStillGoesOnOverlaps()
    {
        const auto time = times(4);
        const auto speed = speeds(time, [](double s) { return moveFrom(1, 3, s); });
        const auto overlap = overlapOf(speed, time, 2.5);
        QVERIFY(overlap);
        VERIFY_NEAR(*overlap, 0.5 - 2 * kTenthOfSine, 2 * kStep);
    }

    void whatHadComeToRestHasASlack()
    {
        const auto time = times(4);
        const auto speed = speeds(time, [](double s) { return moveFrom(1, 2, s); });
        const auto slack = overlapOf(speed, time, 3);
        QVERIFY(slack);
        VERIFY_NEAR(*slack, -1 - kTenthOfSine, 2 * kStep);
        QVERIFY(!overlapOf(speed, time, 0.5)); // it had not begun
        QVERIFY(!overlapOf({}, {}, 1));
    }

    /// Whatever rested before, two moves that begin at once are not one after the other.
    void whatBeginsTogetherGoesOn()
    {
        const auto time = times(5);
        const auto speed = speeds(time, [](double s) { return moveFrom(0.5, 1, s) + moveFrom(2.1, 4, s); });
        const auto apart = overlapOf(speed, time, 1.5), together = overlapOf(speed, time, 2);
        QVERIFY(apart && together);
        VERIFY_NEAR(*apart, -0.5 - 0.5 * kTenthOfSine, 2 * kStep);
        VERIFY_NEAR(*together, 2 - 1.9 * kTenthOfSine, 2 * kStep);
    }
};

QTEST_APPLESS_MAIN(TestTravel)
#include "test_travel.moc"
