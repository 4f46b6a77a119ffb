#include "measure/fused_value.h"
#include "support/near.h"
#include <random>

using namespace jl;

namespace
{

Value reading(Measure measure, double value, double u)
{
    Value v;
    v.measure = measure;
    v.status = Status::Ok;
    v.value = value;
    v.u = u;
    return v;
}

PhaseValue reading(PhaseMeasure measure, double value, double u, std::string_view view)
{
    return {{value, u, Status::Ok}, measure, view};
}

} // namespace

/// One value from what several cameras say of a moment.
class TestFusedValue : public QObject
{
    Q_OBJECT

private slots:
    void oneReadingStaysAsItIs()
    {
        const std::vector<Value> one{reading(Measure::KneeLeadFlexion, 41, 2.5)};
        QVERIFY(std::abs(fusedValue(one).value - 41) < 1e-9 && std::abs(fusedValue(one).u - 2.5) < 1e-9);
    }

    void theSurerCountsMore()
    {
        const std::vector<Value> two{reading(Measure::StanceLength, 0.70, 0.02),
                                     reading(Measure::StanceLength, 0.80, 0.04)};
        QVERIFY(std::abs(fusedValue(two).value - 0.72) < 1e-9); // weights 4 to 1
    }

    void headingsMeetOnTheShortWay()
    {
        const std::vector<Value> two{reading(Measure::GazeHeading, 179, 3),
                                     reading(Measure::GazeHeading, -177, 3)};
        QVERIFY(std::abs(fusedValue(two).value - 181) < 1e-9);
    }

    void phasesAsAWholeTooWhereTheyHaveAValue()
    {
        using enum PhaseMeasure;
        std::vector<PhaseValue> three{reading(WeightEvenness, 4, 2, "two-views"),
                                      reading(WeightEvenness, 6, 2, "side-near"),
                                      {{}, WeightEvenness, "front"}};
        const PhaseValue fused = fusedValue(three);
        QVERIFY(std::abs(fused.value - 5) < 1e-9);
        QVERIFY(fused.u < 2);
        QCOMPARE(fused.view, std::string_view("two-views"));

        for (PhaseMeasure whole : {FlowPauses, PelvisBob, Duration}) { // not these
            for (PhaseValue& v : three)
                v.measure = whole;
            QCOMPARE(fusedValue(three).value, 4.0);
        }
        three.front().status = Status::Unseen; // what the lines of sight do not give stays open
        three.front().measure = WeightEvenness;
        QVERIFY(!fusedValue(three).seen());
    }

    /// Readings of a phase that disagree by more than their uncertainties leave it less sure.
    void whereReadingsDisagreeAPhaseIsLessSure()
    {
        const auto u = [](double other) {
            const std::vector<PhaseValue> two{reading(PhaseMeasure::WeightEvenness, 4, 2, "two-views"),
                                              reading(PhaseMeasure::WeightEvenness, other, 2, "side-near")};
            return fusedValue(two).u;
        };
        QVERIFY(u(4) < 2);
        VERIFY_NEAR(u(4 + 2 * std::sqrt(8)) / u(4), std::sqrt(2), 1e-9); // two standard deviations apart
        QVERIFY(u(16) > u(8) && u(8) > u(5));
    }

    void whatNoCameraSeesOfTheWeightStays()
    {
        const std::vector<Value> many(50, reading(Measure::WeightLead, 60, 1.05 * kPressureSpread));
        QVERIFY(fusedValue(many).u > kPressureSpread);
    }

    /// Against errors drawn with the correlation that the formula supposes.
    void theUncertaintyIsThatOfCorrelatedErrors()
    {
        constexpr int draws = 40000;
        const double spreads[] = {2.0, 2.5, 3.0};
        std::mt19937 random(5);
        std::normal_distribution<double> normal;
        double squares = 0, u = 0;
        for (int i = 0; i < draws; ++i) {
            const double common = normal(random);
            std::vector<Value> readings;
            for (double s : spreads)
                readings.push_back(reading(Measure::TrunkLeanForward,
                                           s * (std::sqrt(0.5) * common + std::sqrt(0.5) * normal(random)),
                                           s));
            const Value fused = fusedValue(readings);
            squares += fused.value * fused.value / draws;
            u = fused.u;
        }
        QVERIFY2(std::abs(std::sqrt(squares) / u - 1) < 0.02, qPrintable(QString::number(u)));
        QVERIFY(u < spreads[0]);
    }
};

QTEST_APPLESS_MAIN(TestFusedValue)
#include "test_fused_value.moc"
