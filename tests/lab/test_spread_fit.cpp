#include "base/json_file.h"
#include "base/paths.h"
#include "lab/spread_fit.h"
#include "lab/table_fit.h"
#include "support/near.h"
#include "support/shipped.h"
#include <nlohmann/json.hpp>
#include <random>

using namespace jl;

/// How a row of the table of accuracy is fitted to errors.
class TestSpreadFit : public QObject
{
    Q_OBJECT

private slots:
    void aRowIsSpreadByWhatItCovers()
    {
        std::mt19937 random(3);
        std::normal_distribution<double> normal;
        std::vector<double> errors, u;
        for (int i = 0; i < 2000; ++i) {
            u.push_back(1 + 0.5 * (i % 3));
            errors.push_back(0.7 * u.back() * normal(random));
        }
        const auto covered = [&](double by) {
            int n = 0;
            for (std::size_t i = 0; i < u.size(); ++i)
                n += std::abs(errors[i]) <= 2 * by * u[i];
            return n / 2000.0;
        };
        const AccuracyTable::Entry before{0.1, 0.5, 0.8}, narrower = respread(before, errors, u);
        VERIFY_NEAR(narrower.scale / before.scale, 0.7 * 2.054 / 2, 0.04);
        VERIFY_NEAR(narrower.floor / before.floor, narrower.scale / before.scale, 1e-9);
        VERIFY_NEAR(covered(narrower.scale / before.scale), 0.96, 0.001);

        for (double& e : errors)
            e *= 4; // 2.8 times the uncertainty, which geometry alone cannot give
        const AccuracyTable::Entry wider = respread(before, errors, u);
        QCOMPARE(wider.scale, 1.0);
        QVERIFY2(wider.floor > 3, qPrintable(QString::number(wider.floor)));

        const AccuracyTable::Entry same = respread(before, {}, {});
        QCOMPARE(same.floor, before.floor);
        const std::vector<double> exact(2000, 0);
        VERIFY_NEAR(respread(before, exact, u).floor, 0.5 * before.floor, 1e-9);
    }

    /// What errs alike however sure geometry is gets a floor, and geometry keeps the rest.
    void whatARowHasInCommonIsToldFromGeometry()
    {
        std::mt19937 random(9);
        std::normal_distribution<double> normal;
        std::vector<double> errors, geometry;
        for (int i = 0; i < 6000; ++i) {
            geometry.push_back(i % 3 == 0 ? 2.0 : 0.1);
            errors.push_back(std::hypot(0.5, geometry.back()) * normal(random));
        }
        AccuracyTable::Entry entry;
        for (int round = 0; round < 4; ++round) {
            std::vector<double> u;
            for (double g : geometry)
                u.push_back(entry.uncertainty(g * g));
            entry = respread(entry, errors, u);
        }
        VERIFY_NEAR(entry.floor, 0.5, 0.1);
        VERIFY_NEAR(entry.scale, 0.97, 0.1);
    }

    void longTailsAreSpreadWiderUpToALimit()
    {
        std::vector<double> errors, u(1000, 1.0);
        for (int i = 0; i < 1000; ++i) // 6 % far off, and half of those very far: more than 1 % beyond 3 u
            errors.push_back((i % 2 ? 1 : -1) * (i < 30 ? 9.0 : i < 60 ? 2.9 : 0.001 * i));
        const AccuracyTable::Entry fitted = respread({0, 1, 1}, errors, u);
        int within = 0;
        for (double e : errors)
            within += std::abs(e) <= 2 * fitted.floor;
        QCOMPARE(within, 970);
    }

    /// Of pauses counted, nearly all rightly, the few others are held within 3 u.
    void aCountIsSpreadByItsFewErrors()
    {
        std::vector<double> errors(1000, 0), u(1000, 0.2);
        for (std::size_t i = 0; i < 40; ++i)
            errors[i] = i < 5 ? 2 : 1;
        const AccuracyTable::Entry fitted = refloored({0, 0.2, 1}, errors, u);
        VERIFY_NEAR(fitted.floor, 1 / 3.0, 1e-6);
        QVERIFY(3 * fitted.floor >= 1);

        // 8 % wrong, some of which say so themselves: a floor for those as well would cover nearly all.
        for (std::size_t i = 0; i < 80; ++i) {
            errors[i] = 1;
            u[i] = i < 15 ? std::hypot(0.2, 0.5) : 0.2;
        }
        VERIFY_NEAR(refloored({0, 0.2, 1}, errors, u).floor, 1 / 3.0, 1e-6);
    }

    /// A floor beside what each value is uncertain by itself.
    void aFloorIsPutUnderWhatIsUncertainAnyway()
    {
        std::mt19937 random(11);
        std::normal_distribution<double> normal(0, 1);
        std::vector<double> errors, u;
        for (int i = 0; i < 4000; ++i) {
            const double own = i % 2 ? 0.3 : 0;
            errors.push_back(std::hypot(own, 0.2) * normal(random));
            u.push_back(std::hypot(own, 0.5));
        }
        const double right = 0.2 * 2.054 / 2; // for 96 % within 2 u
        VERIFY_NEAR(refloored({0, 0.5, 1}, errors, u).floor, right, 0.03);
    }

    /// Three of 68 beyond 2 u are 4.4 %, two are 2.9: a whole value more would cover too much.
    void aFewValuesAreSpreadByWholeOnes()
    {
        std::vector<double> errors, u(68, 1.0);
        for (int i = 0; i < 68; ++i)
            errors.push_back(0.03 * (i + 1));
        const AccuracyTable::Entry fitted = respread({0, 1, 1}, errors, u);
        QCOMPARE(std::ranges::count_if(errors, [&](double e) { return e > 2 * fitted.floor; }), 3);
    }

    /// Where all together cannot have short tails, those that are called certain have.
    void tailsOfCertainValuesAreShort()
    {
        std::vector<double> errors, u(1000, 1.0);
        std::vector<bool> certain(1000, false);
        for (std::size_t i = 0; i < 1000; ++i) {
            errors.push_back(i < 20 ? 9.0 : i < 34 ? 3.3 : i < 60 ? 2.5 : 0.001 * static_cast<double>(i));
            certain[i] = i >= 20 && i < 320;
        }
        const auto beyond = [&](const AccuracyTable::Entry& e) {
            return std::ranges::count_if(errors, [&](double error) { return error > 3 * e.floor; });
        };
        QCOMPARE(beyond(respread({0, 1, 1}, errors, u)), 20);
        const AccuracyTable::Entry fitted = respread({0, 1, 1}, errors, u, certain);
        QCOMPARE(beyond(fitted), 20);
        QVERIFY(std::ranges::count_if(errors, [&](double e) { return e > 2 * fitted.floor; }) >= 30);
    }

    /// Only what is not as wanted is fitted again.
    void aRowThatIsAsWantedStays()
    {
        std::mt19937 random(5);
        std::normal_distribution<double> normal;
        CaseOutcome outcome;
        const auto add = [&](Measure measure, double off) {
            ValidationSample s;
            s.view = "side-near";
            s.status = Status::Weak;
            s.value.measure = measure;
            s.value.status = Status::Weak;
            s.value.u = 1;
            for (int i = 0; i < 2000; ++i) {
                s.value.value = s.truth = 20;
                s.value.value += off * normal(random);
                outcome.samples.push_back(s);
            }
        };
        add(Measure::KneeLeadFlexion, 1);
        add(Measure::TrunkLeanForward, 2);
        const auto file = dataFolder() / "measure/accuracy.json";
        const auto fitted = refitAccuracy(file, shipped().tables.accuracy, {outcome});
        QVERIFY(fitted);
        const auto before = readJson(file);
        QVERIFY(before);
        const auto after = nlohmann::json::parse(*fitted).at("side-near"), was = before->at("side-near");
        QCOMPARE(after.at("knee.lead.flexion").dump(), nlohmann::json(was.at("knee.lead.flexion")).dump());
        QVERIFY(after.at("trunk.lean.forward").at("floor").get<double>() >
                was.at("trunk.lean.forward").at("floor").get<double>() + 1);
    }
};

QTEST_APPLESS_MAIN(TestSpreadFit)
#include "test_spread_fit.moc"
