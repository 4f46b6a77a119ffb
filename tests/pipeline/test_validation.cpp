#include "pipeline/accuracy_report.h"
#include "pipeline/network_noise.h"
#include "pipeline/tracking_report.h"
#include "support/forms.h"
#include "support/near.h"
#include <set>

using namespace jl;

class TestValidation : public QObject
{
    Q_OBJECT

private slots:
    void theFullSetCoversEveryPosture()
    {
        const auto cases = fullCases(shipped(), 5, 168);
        QCOMPARE(cases.size(), std::size_t(168));
        std::set<std::string> forms, schools, views;
        std::set<std::size_t> bodies;
        for (std::size_t i = 0; i < cases.size(); ++i) {
            forms.insert(cases[i].form);
            schools.insert(cases[i].school);
            views.insert(cases[i].view);
            bodies.insert(cases[i].body);
            QVERIFY(performanceOf(shipped(), cases[i]));
            if (i % 2 == 0) continue; // the second of a pair films the same performance from elsewhere
            QCOMPARE(cases[i].seed, cases[i - 1].seed);
            QVERIFY(cases[i].view != cases[i - 1].view);
        }
        QCOMPARE(forms.size(), shipped().standards.postures.size() - 1); // all but standing
        QCOMPARE(schools.size(), shipped().standards.schools.size());
        QCOMPARE(bodies.size(), shipped().bodies.size());
        QCOMPARE(views.size(), std::size_t(4));
        // A longer set begins with the shorter one, so that what was rendered stays of use.
        const auto longer = fullCases(shipped(), 5, 200);
        for (std::size_t i = 0; i < cases.size(); ++i)
            QCOMPARE(caseName(shipped(), longer[i]), caseName(shipped(), cases[i]));
    }

    /// A share that so many values may show by chance is not held against an uncertainty.
    void coverageIsJudgedByItsChance()
    {
        const auto row = [](int n, double coverage) {
            AccuracyRow r;
            r.n = n;
            r.coverage = coverage;
            return r;
        };
        const CoverageSummary s = coverageOf(
            {row(100, 0.95), row(100, 0.91), row(1000, 0.91), row(100, 0.98), row(1000, 0.99), row(40, 0.5)});
        QCOMPARE(s.rows, 5);
        QCOMPARE(s.within, 1);
        QCOMPARE(s.tooFew, 1);
        QCOMPARE(s.tooMany, 1);
    }

    void namesTellCasesApart()
    {
        std::set<std::string> names;
        for (const ValidationCase& c : fullCases(shipped(), 6, 120))
            names.insert(caseName(shipped(), c));
        for (const ValidationCase& c : quickCases(shipped(), 6, 40))
            names.insert(caseName(shipped(), c));
        QCOMPARE(names.size(), std::size_t(160));
    }

    void noiseIsAsLargeAsItSays()
    {
        const auto p = perform();
        ClipRequest clip;
        clip.framesPerSecond = 30;
        const Track clean = exactTrack(p, clip);
        NetworkNoise noise;
        noise.exchangesPerMinute = 0;
        double squares = 0, steps = 0;
        int n = 0;
        for (std::uint32_t seed = 1; seed <= 12; ++seed) {
            const Track noisy = withNoise(clean, 500, seed, noise);
            QVERIFY(
                (noisy.frames[5].point[3] - withNoise(clean, 500, seed, noise).frames[5].point[3]).norm() ==
                0);
            for (std::size_t i = 1; i < clean.frames.size(); i += 7)
                for (std::size_t k = 0; k < kLandmarkCount; ++k, ++n) {
                    const Eigen::Vector2d e = noisy.frames[i].point[k] - clean.frames[i].point[k],
                                          before =
                                              noisy.frames[i - 1].point[k] - clean.frames[i - 1].point[k];
                    squares += e.squaredNorm() / 2;
                    steps += (e - before).squaredNorm() / 4; // mostly the jitter
                }
        }
        const double expected =
            500 * std::sqrt(noise.steady * noise.steady + noise.wandering * noise.wandering +
                            noise.jitter * noise.jitter);
        VERIFY_NEAR(std::sqrt(squares / n), expected, 0.1 * expected);
        QVERIFY(std::sqrt(steps / n) < 2 * 500 * noise.jitter);
    }

    void analyticCasesAreMeasuredWithHonestUncertainty()
    {
        std::vector<CaseOutcome> outcomes;
        int lost = 0;
        for (const ValidationCase& c : quickCases(shipped(), 77, 24)) {
            auto outcome = runAnalyticCase(shipped(), c);
            if (outcome)
                outcomes.push_back(std::move(*outcome));
            else
                ++lost;
        }
        QCOMPARE(lost, 0);
        // A few dozen values of one measure scatter; together they tell.
        double covered = 0, all = 0;
        for (const AccuracyRow& row : accuracyRows(outcomes)) {
            if (row.key != "knee.lead.past_toe" && row.key != "knee.lead.flexion" &&
                row.key != "trunk.lean.forward" && row.key != "stance.length")
                continue;
            if (row.n < 30) continue;
            covered += row.n * row.coverage;
            all += row.n;
            QVERIFY2(
                row.coverage > 0.75,
                qPrintable(
                    QString("%1 from %2: %3").arg(row.key.c_str()).arg(row.view.c_str()).arg(row.coverage)));
        }
        QVERIFY(all > 300);
        QVERIFY2(covered / all > 0.9, qPrintable(QString::number(covered / all)));
        const auto followed = followedPostures(shipped(), outcomes);
        QVERIFY(followed);
        QVERIFY(followed->size() >= 9); // those of the section, and those on the way to cloud hands
        for (const FollowedPosture& f : *followed) {
            QCOMPARE(f.seen, f.frames);
            QVERIFY(f.median > 0.003 && f.median < 0.02);
        }
        QVERIFY(followedText(*followed).find("ward-off") != std::string::npos);
    }

    void headingsAreComparedTheShortWayRound()
    {
        ValidationSample s;
        s.value.measure = Measure::PelvisSquare;
        s.value.value = 179;
        s.truth = -179;
        VERIFY_NEAR(s.error(), -2, 1e-9);
        s.value.measure = Measure::StanceLength;
        s.value.value = 0.5;
        s.truth = 0.45;
        VERIFY_NEAR(s.error(), 0.05, 1e-9);
    }
};

QTEST_APPLESS_MAIN(TestValidation)
#include "test_validation.moc"
