#include "review/derived_values.h"
#include "support/near.h"
#include <QtTest>

using namespace jl;

namespace
{

ReviewedPhase at(double height, double u, View view = View::SideNear, bool seen = true)
{
    ReviewedPhase phase;
    for (std::size_t m = 0; m < kMeasureCount; ++m) {
        JudgedValue v;
        v.status = seen ? Status::Ok : Status::Unseen;
        v.value = {{height, u, v.status}, static_cast<Measure>(m), view};
        phase.values.push_back(v);
    }
    return phase;
}

/// Sitting, pushing; then turning.
Review review()
{
    Review r;
    r.postures.push_back({"push", "Push", {}, PostureStatus::Matched, {at(88, 1), at(90, 1.5)}});
    r.postures.push_back({"turn-and-hold", "Turn", {}, PostureStatus::Matched, {at(95, 2)}});
    return r;
}

} // namespace

class TestDerivedValues : public QObject
{
    Q_OBJECT

private slots:
    void heightsAreComparedWithPhasesByName()
    {
        const Review r = review();
        const auto sat = heightChange(r, {0, 0}, {0, 1}), back = heightChange(r, {0, 1}, {0, 0});
        QVERIFY(sat && back);
        VERIFY_NEAR(sat->value, 2, 1e-9);
        VERIFY_NEAR(back->value, -2, 1e-9);
        VERIFY_NEAR(back->u, sat->u, 1e-12);
        QVERIFY(heightChanges(r, 0, 0).empty());
        const auto turning = heightChanges(r, 1, 0);
        QCOMPARE(turning.size(), std::size_t(1)); // it has no phase before in its own posture
        QCOMPARE(turning[0].posture, std::size_t(0));
        QCOMPARE(turning[0].phase, std::size_t(1));
        VERIFY_NEAR(turning[0].value, 5, 1e-9);
    }

    /// What both have in common falls out; what two cameras say of one of them is another matter.
    void errorsInCommonFallOut()
    {
        Review r = review();
        const double apart = std::hypot(1, 1.5);
        const double together = heightChange(r, {0, 0}, {0, 1})->u;
        QVERIFY(together < apart && together > 0.7 * apart);
        r.postures[0].phases[1] = at(90, 1.5, View::Both);
        VERIFY_NEAR(heightChange(r, {0, 0}, {0, 1})->u, apart, 1e-9);
    }

    void whatIsNotSeenIsNotCompared()
    {
        Review r = review();
        r.postures[0].phases[1] = at(90, 1.5, View::SideNear, false);
        QVERIFY(!heightChange(r, {0, 0}, {0, 1}));
        r.postures[0].phases[1].values.clear(); // was not found
        QVERIFY(heightChanges(r, 1, 0).empty());
    }
};

QTEST_APPLESS_MAIN(TestDerivedValues)
#include "test_derived_values.moc"
