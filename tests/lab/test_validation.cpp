#include "base/json_file.h"
#include "lab/accuracy_report.h"
#include "lab/error_fit.h"
#include "lab/network_noise.h"
#include "lab/network_report.h"
#include "lab/tracking_report.h"
#include "support/forms.h"
#include "support/lab.h"
#include "support/near.h"
#include <QDir>
#include <QTemporaryDir>
#include <nlohmann/json.hpp>
#include <random>
#include <set>

using namespace jl;

namespace
{

AccuracyRow accuracyRow(int n, double coverage, int certain, double certainBeyondThree)
{
    AccuracyRow r;
    r.n = n;
    r.coverage = coverage;
    r.certain = certain;
    r.certainBeyondThree = certainBeyondThree;
    return r;
}

} // namespace

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
        const auto row = [](int n, double coverage) { return accuracyRow(n, coverage, 0, 0); };
        const CoverageSummary s = coverageOf(
            {row(100, 0.95), row(100, 0.91), row(1000, 0.91), row(100, 0.98), row(1000, 0.99), row(40, 0.5)});
        QCOMPARE(s.rows, 5);
        QCOMPARE(s.within, 1);
        QCOMPARE(s.tooFew, 1);
        QCOMPARE(s.tooMany, 1);
    }

    /// Where nearly all are exactly right, no uncertainty is narrow enough to leave some of those out.
    void coverageOfCountsHasNoUpperEnd()
    {
        AccuracyRow count;
        count.n = 1000;
        count.coverage = 0.99;
        count.exact = 0.98;
        QCOMPARE(coverageOf({count}).within, 1);
        QCOMPARE(coverageOf({count}).tooMany, 0);
        count.exact = 0.5;
        QCOMPARE(coverageOf({count}).within, 0);
        QCOMPARE(coverageOf({count}).tooMany, 1);
        QCOMPARE(shareExact({0, 0, 1, 0}), 0.75);
    }

    void tailsAreJudgedByTheirChance()
    {
        const auto row = [](int certain, double beyond) { return accuracyRow(0, 0, certain, beyond); };
        const CoverageSummary s =
            coverageOf({row(1000, 0.01), row(100, 0.02), row(1000, 0.02), row(40, 0.5)});
        QCOMPARE(s.certainRows, 3);
        QCOMPARE(s.longTails, 1);
    }

    void networksAreComparedRowByRow()
    {
        const auto row = [](const char* view, const char* key, int n, double sd) {
            AccuracyRow r;
            r.view = view;
            r.key = key;
            r.unit = "m";
            r.n = n;
            r.sd = sd;
            r.p90 = 1.5 * sd;
            r.coverage = 0.9;
            return r;
        };
        // 2 and 8 times the errors in the rows that both have often enough: 4 times on the geometric mean.
        const NetworkAccuracy small{"small",
                                    {row("side", "a", 30, 0.02), row("side", "b", 30, 0.08),
                                     row("side", "c", 5, 9), row("front", "a", 30, 9)}};
        const NetworkAccuracy large{
            "large", {row("side", "a", 30, 0.01), row("side", "b", 30, 0.01), row("side", "c", 30, 0.01)}};
        const ErrorRatio ratio = errorRatio(small.rows, large.rows);
        QCOMPARE(ratio.rows, 2);
        VERIFY_NEAR(ratio.sd, 4, 1e-9);
        VERIFY_NEAR(ratio.p90, 4, 1e-9);
        QCOMPARE(errorRatio({}, large.rows).rows, 0);
        const QString text = QString::fromStdString(networksText({small, large}));
        QVERIFY(text.contains(
            "small       errors 4.00 times those of large (sd 4.00) over 2 rows; within 2u 90.0 %"));
        QVERIFY(text.contains(QRegularExpression("side +b +cm +12.00 +1.50\n")));
        QVERIFY(text.contains(QRegularExpression("front +a +cm +1350.00 +-\n")));
        const auto json = nlohmann::json::parse(networksJson({small, large}));
        QCOMPARE(json.size(), 2UL);
        QCOMPARE(json[1].at("networks").get<std::string>(), std::string("large"));
        QCOMPARE(json[0].at("rows").size(), small.rows.size());
        QVERIFY(nlohmann::json::parse(networksJson({})).empty());
        const QStringList lines = QString::fromStdString(networksCsv({small, large})).trimmed().split('\n');
        QCOMPARE(lines.size(), 1 + 4 + 3);
        QVERIFY(lines.front().startsWith("networks,view,measure,unit,n,"));
        QCOMPARE(lines.filter(QRegularExpression("^large,side,")).size(), 3);
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

    /// From one side: spread, and go together, as the table says; the same from the other side in a mirror.
    void noiseIsAsLargeAsItSays()
    {
        const auto p = perform();
        const NetworkErrors& table = *lab().errors;
        NetworkNoise noise;
        noise.exchangesPerHeight = 0;
        noise.jitter = 0;
        for (const double azimuth : {60.0, -60.0}) {
            ClipRequest clip;
            clip.framesPerSecond = 30;
            clip.camera.azimuth = azimuth;
            Track clean = exactTrack(p, clip);
            clean.frames.resize(2);
            const double angle = viewAngle(clean.frames[0]);
            VERIFY_NEAR(angle, azimuth, 8);
            const double standing = standingShare(clean.frames[0]);
            QCOMPARE(standing, 1.0);
            constexpr int seeds = 2000;
            Eigen::Matrix<double, 66, 66> products = Eigen::Matrix<double, 66, 66>::Zero(), wanted = products;
            double steps = 0, squares = 0;
            std::array<int, 2> armsSeen{};
            for (std::uint32_t seed = 1; seed <= seeds; ++seed) {
                const Track noisy = withNoise(clean, 500, seed, table, noise);
                PointErrors off, next;
                for (std::size_t k = 0; k < kLandmarkCount; ++k) {
                    const auto at = static_cast<Eigen::Index>(2 * k);
                    off.segment<2>(at) = (noisy.frames[0].point[k] - clean.frames[0].point[k]) / 500;
                    next.segment<2>(at) = (noisy.frames[1].point[k] - clean.frames[1].point[k]) / 500;
                }
                products += off * off.transpose() / seeds;
                squares += off.squaredNorm();
                steps += (next - off).squaredNorm();
                for (Side side : {Side::Left, Side::Right})
                    armsSeen[side == Side::Right] +=
                        noisy.frames[0].visibility[index(sided(Landmark::LeftElbow, side))] > 0.5F;
            }
            for (Eigen::Index i = 0; i < 66; ++i) {
                const PointErrors column = table.spread(angle, standing, PointErrors::Unit(i));
                wanted += column * column.transpose();
            }
            for (Eigen::Index i = 0; i < 66; ++i)
                VERIFY_NEAR(std::sqrt(products(i, i)), std::sqrt(wanted(i, i)),
                            0.08 * std::sqrt(wanted(i, i)));
            const auto correlation = [](const auto& of, Landmark a, Landmark b) {
                const auto i = static_cast<Eigen::Index>(2 * index(a)) + 1,
                           k = static_cast<Eigen::Index>(2 * index(b)) + 1;
                return of(i, k) / std::sqrt(of(i, i) * of(k, k));
            };
            for (const auto& [a, b] : {std::pair(Landmark::LeftEye, Landmark::RightEye),
                                       std::pair(Landmark::LeftAnkle, Landmark::LeftHeel),
                                       std::pair(Landmark::LeftHip, Landmark::RightHip)})
                VERIFY_NEAR(correlation(products, a, b), correlation(wanted, a, b), 0.08);
            QVERIFY(correlation(wanted, Landmark::LeftEye, Landmark::RightEye) > 0.7);
            QVERIFY(steps < 0.2 * squares); // from frame to frame it changes little
            for (Side side : {Side::Left, Side::Right})
                VERIFY_NEAR(armsSeen[side == Side::Right] / static_cast<double>(seeds),
                            table.armSeen(angle, standing, side), 0.04);
            const bool fromRight = azimuth > 0; // the far arm is hardly seen
            QVERIFY(table.armSeen(angle, standing, fromRight ? Side::Left : Side::Right) < 0.4);
            QVERIFY(table.armSeen(angle, standing, fromRight ? Side::Right : Side::Left) > 0.9);
        }
        const Track clean = exactTrack(p, ClipRequest{});
        const Track once = withNoise(clean, 500, 3, table), again = withNoise(clean, 500, 3, table);
        QCOMPARE(once.frames.back().point[3], again.frames.back().point[3]);
    }

    /// Errors drawn from the table are found again in tracks that have them.
    void errorsAreFittedAsTheyWereDrawn()
    {
        const LabData& data = lab();
        NetworkNoise noise;
        noise.exchangesPerHeight = 0;
        std::vector<CaseOutcome> outcomes;
        for (const ValidationCase& c : fullCases(data, 77, 60)) {
            const auto performance = performanceOf(data, c);
            QVERIFY(performance);
            const ClipRequest request = clipRequestOf(c);
            CaseOutcome o{c, {}, {}, 1, 0, {}, {}};
            o.track = withNoise(conventionalTrack(*performance, request, data.tables.offsets,
                                                  clipTimes(*performance, request)),
                                bodyPixels(*performance, request), c.seed, *data.errors, noise);
            outcomes.push_back(std::move(o));
        }
        const auto fitted = fitErrors(data, outcomes);
        QVERIFY(fitted);
        const auto spreadOf = [](const NetworkErrors& e, double angle, double standing, Landmark l) {
            Eigen::Matrix2d sum = Eigen::Matrix2d::Zero();
            for (Eigen::Index i = 0; i < 66; ++i) {
                const Eigen::Vector2d v = e.spread(angle, standing, PointErrors::Unit(i))
                                              .segment<2>(static_cast<Eigen::Index>(2 * index(l)));
                sum += v * v.transpose();
            }
            return Eigen::Vector2d(sum.diagonal().cwiseSqrt());
        };
        for (const double angle : {0.0, 30.0, 60.0, 90.0})
            for (Landmark l :
                 {Landmark::RightShoulder, Landmark::RightHip, Landmark::LeftKnee, Landmark::LeftToe})
                for (Eigen::Index axis : {0, 1}) {
                    const double drawn = spreadOf(*data.errors, angle, 0, l)[axis],
                                 found = spreadOf(*fitted, angle, 0, l)[axis];
                    QVERIFY2(std::abs(found - drawn) < 0.25 * drawn,
                             qPrintable(QString("%1 at %2: %3, not %4")
                                            .arg(QString::fromStdString(std::string(landmarkName(l))))
                                            .arg(angle)
                                            .arg(found)
                                            .arg(drawn)));
                }
        for (const double angle : {0.0, 90.0})
            VERIFY_NEAR(fitted->armSeen(angle, 0, Side::Left), data.errors->armSeen(angle, 0, Side::Left),
                        0.12);
        QTemporaryDir folder;
        QVERIFY(QDir(folder.path()).mkpath("measure"));
        QVERIFY(writeText((folder.path() + "/measure/network-errors.json").toStdString(), fitted->json()));
        const auto read = NetworkErrors::load(folder.path().toStdString());
        QVERIFY(read);
        for (double standing : {0.0, 0.4, 1.0})
            VERIFY_NEAR((read->spread(47, standing, PointErrors::Ones()) -
                         fitted->spread(47, standing, PointErrors::Ones()))
                            .norm(),
                        0, 1e-5);
        QVERIFY(writeText((folder.path() + "/measure/network-errors.json").toStdString(), "{\"views\": []}"));
        const auto broken = NetworkErrors::load(folder.path().toStdString());
        QVERIFY(!broken);
        QVERIFY(broken.error().message().find("network-errors.json") != std::string::npos);
    }

    void analyticCasesAreMeasuredWithHonestUncertainty()
    {
        std::vector<CaseOutcome> outcomes;
        int lost = 0;
        const LabData data = lab().withoutBias();
        for (const ValidationCase& c : quickCases(data, 77, 24)) {
            auto outcome = runAnalyticCase(data, c);
            if (outcome)
                outcomes.push_back(std::move(*outcome));
            else
                ++lost;
        }
        QCOMPARE(lost, 0);
        // A few dozen values of one measure scatter; together they tell.
        double covered = 0, all = 0, coveredOfFour = 0, ofFour = 0;
        for (const AccuracyRow& row : accuracyRows(outcomes)) {
            if (row.n < 30) continue;
            covered += row.n * row.coverage;
            all += row.n;
            if (row.key != "knee.lead.past_toe" && row.key != "knee.lead.flexion" &&
                row.key != "trunk.lean.forward" && row.key != "stance.length")
                continue;
            // Nothing was taken off that is not in these points.
            QVERIFY2(std::abs(row.bias) < 0.5 * row.meanU,
                     qPrintable(QString("%1 from %2").arg(row.key.c_str()).arg(row.view.c_str())));
            coveredOfFour += row.n * row.coverage;
            ofFour += row.n;
            QVERIFY2(
                row.coverage > 0.75,
                qPrintable(
                    QString("%1 from %2: %3").arg(row.key.c_str()).arg(row.view.c_str()).arg(row.coverage)));
        }
        QVERIFY(all > 3000);
        QVERIFY2(covered / all > 0.92, qPrintable(QString::number(covered / all)));
        QVERIFY(ofFour > 300);
        QVERIFY2(coveredOfFour / ofFour > 0.9, qPrintable(QString::number(coveredOfFour / ofFour)));
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
