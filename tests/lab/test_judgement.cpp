#include "base/json_file.h"
#include "exchange/track_file.h"
#include "lab/accuracy_page.h"
#include "lab/accuracy_report.h"
#include "lab/judgement_summary.h"
#include "lab/validation.h"
#include "support/lab.h"
#include "support/near.h"
#include "support/shipped.h"
#include <QTemporaryDir>
#include <QtTest>
#include <nlohmann/json.hpp>
#include <set>

using namespace jl;

/// All drawn sets of docs/accuracy together.
JudgementSummary publishedDrawn()
{
    const std::string file = TEST_SOURCE_DIR "/../docs/accuracy/judgement.csv";
    const auto text = readText(file);
    if (!text) qFatal("%s", text.error().message().c_str());
    const auto sets = judgementFromCsv(*text, file);
    if (!sets) qFatal("%s", sets.error().message().c_str());
    JudgementSummary sum;
    for (const JudgementSummary& s : *sets)
        if (s.set == "drawn") sum.add(s);
    return sum;
}

/// Fails where a share is lower than chance (1 in 100) makes one that is as published.
void isAsPublished(const char* what, const Tally& now, const Tally& published)
{
    // By the rule of succession: a published share of all leaves room for a failure.
    const double share = (published.good + 1.0) / (published.all + 2);
    const double chance = binomialAtMost(now.good, now.all, share);
    QVERIFY2(chance > 0.01, qPrintable(QString("%1: %2 of %3, published %4 %")
                                           .arg(what)
                                           .arg(now.good)
                                           .arg(now.all)
                                           .arg(100 * published.share(), 0, 'f', 1)));
}

class TestJudgement : public QObject
{
    Q_OBJECT

private slots:
    void thePageOfAccuracyIsWrittenFromItsTables()
    {
        const std::string folder = TEST_SOURCE_DIR "/../docs/accuracy";
        const auto page = accuracyPage(folder);
        QVERIFY2(page, page ? "" : page.error().message().c_str());
        const auto kept = readText(folder + "/README.md");
        QVERIFY(kept);
        QVERIFY2(*page == *kept, "write it again: jolly-lantern-cli validate --page docs/accuracy");
    }

    void tablesOfJudgedSetsAreReadAsWritten()
    {
        JudgementSummary s;
        s.set = "alone";
        s.seed = "7";
        s.medianError = 0.035;
        s.recall = {3, 4};
        s.cleanSafety = {1, 60};
        const auto read = judgementFromCsv(judgementCsv({s}), "x.csv");
        QVERIFY(read);
        QCOMPARE(read->size(), std::size_t(1));
        QCOMPARE(read->front().seed, std::string("7"));
        QCOMPARE(read->front().recall.all, 4);
        QCOMPARE(read->front().cleanSafety.good, 1);
        JudgementSummary sum = s;
        sum.add(s);
        QCOMPARE(sum.recall.good, 6);
        const auto broken = judgementFromCsv(judgementCsv({s}) + "alone,8,0.03,1\n", "x.csv");
        QVERIFY(!broken);
        QVERIFY(broken.error().message().find("line 3") != std::string::npos);
    }

    void setsAreTheSameOnEveryRunAndCoverWhatTheySay()
    {
        const auto once = judgementCases(shipped(), 9, 60), again = judgementCases(shipped(), 9, 60);
        QCOMPARE(once.size(), again.size());
        std::set<JudgementCase::Kind> kinds;
        std::set<std::string> schools, views;
        double slowest = 9, fastest = 0;
        for (std::size_t i = 0; i < once.size(); ++i) {
            QCOMPARE(caseName(shipped(), once[i].clip), caseName(shipped(), again[i].clip));
            QCOMPARE(once[i].pauses, again[i].pauses);
            kinds.insert(once[i].kind);
            schools.insert(once[i].clip.school);
            views.insert(once[i].clip.view);
            slowest = std::min(slowest, once[i].clip.tempo);
            fastest = std::max(fastest, once[i].clip.tempo);
            if (once[i].kind == JudgementCase::Kind::Clean) QVERIFY(once[i].clip.faults.empty());
            QVERIFY(once[i].clip.faults.size() <= 3);
            QVERIFY(performanceOf(shipped(), once[i].clip));
        }
        QCOMPARE(kinds.size(), std::size_t(5));
        QCOMPARE(schools.size(), std::size_t(5));
        QCOMPARE(views.size(), std::size_t(3));
        QVERIFY(slowest < 0.75 && slowest >= 0.6 && fastest > 1.4 && fastest <= 1.6);
        QVERIFY(caseName(shipped(), judgementCases(shipped(), 10, 60)[0].clip) !=
                caseName(shipped(), once[0].clip));
    }

    void pausesAndCutsMoveTheMoments()
    {
        JudgementCase c;
        c.clip.framesPerSecond = 10;
        c.pauses = {{5, 2}};
        c.shown = {3, 9};
        const auto performance = performanceOf(shipped(), c.clip);
        const auto moments = filmedMoments(c, *performance);
        VERIFY_NEAR(moments.front(), 3, 1e-9);
        VERIFY_NEAR(moments.back(), 9, 0.11);
        VERIFY_NEAR(static_cast<double>(moments.size()) / 10, 6 + 2, 0.3);
        VERIFY_NEAR(clipTimesOf(c, 4).first, 1, 1e-9);
        const auto after = clipTimesOf(c, 7);
        VERIFY_NEAR(after.first, 6, 1e-9);
        VERIFY_NEAR(after.second, 6, 1e-9);
        const auto during = clipTimesOf(c, 5); // any moment of the pause is as good
        VERIFY_NEAR(during.second - during.first, 2, 1e-9);
        for (double moment : {3.5, 6.0, 8.0})
            VERIFY_NEAR(moments[static_cast<std::size_t>(std::lround(10 * clipTimesOf(c, moment).first))],
                        moment, 0.21);
    }

    /// A small fixed set is judged as well as docs/accuracy says of larger ones, as far as chance allows.
    void performancesAreJudgedAsWellAsPublished()
    {
        const JudgementReport r = judgeCases(lab(), judgementCases(shipped(), 12, 40), {});
        QCOMPARE(r.failed, 0);
        const auto now = JudgementSummary::of(r, "drawn", "12"), published = publishedDrawn();
        QVERIFY(r.keyMomentErrors.size() > 300);
        QVERIFY2(now.medianError < 1.2 * published.medianError, qPrintable(QString::number(now.medianError)));
        isAsPublished("key moments within 0.15 s", now.keyMoments, published.keyMoments);
        isAsPublished("phases", now.phases, published.phases);
        isAsPublished("departures", now.departures, published.departures);
        isAsPublished("recall", now.recall, published.recall);
        isAsPublished("precision", now.precision, published.precision);
        isAsPublished("safety precision", now.safety, published.safety);
        isAsPublished("root", now.root, published.root);
        QVERIFY(now.recall.all >= 8 && now.precision.all >= 40);
        QCOMPARE(r.cleanSafety, 0);
        const auto json = nlohmann::json::parse(judgementJson(r));
        for (const char* key : {"recall", "recall_beyond_uncertainty", "precision", "safety_precision",
                                "root_cause_first", "key_moment_error_s"})
            QVERIFY2(json.contains(key), key);
        QCOMPARE(json["counts"]["precision"]["of"].get<int>(), r.precision.all);
        QVERIFY(judgementText(r).find("recall of visible faults") != std::string::npos);
    }

    /// What was kept of two clips is judged without their pictures, alone and together.
    void keptTracksOfPicturesAreJudged()
    {
        const QTemporaryDir cache;
        const NetworkChoice networks{LandmarkModel::Full, true};
        std::vector<ValidationCase> cases(2);
        cases[0].faults = {{"stance-short", 0.2}};
        cases[0].framesPerSecond = 15;
        cases[0].seed = 5;
        cases[0].view = "side";
        cases[1] = cases[0];
        cases[1].view = "front";
        const auto performance = performanceOf(shipped(), cases[0]);
        QVERIFY(performance);
        for (const ValidationCase& c : cases) {
            const ClipRequest clip = clipRequestOf(c);
            const Track track = conventionalTrack(*performance, clip, shipped().tables.offsets,
                                                  clipTimes(*performance, clip));
            QVERIFY(writeTrack(track, keptTrack(shipped(), c, networks, cache.path().toStdString())));
        }
        const RenderedJudgement r = judgeRendered(shipped(), cases, networks, cache.path().toStdString(), {});
        QCOMPARE(r.alone.cases, 2);
        QCOMPARE(r.together.cases, 1);
        QCOMPARE(r.alone.failed + r.together.failed, 0);
        for (const JudgementReport* report : {&r.alone, &r.together}) {
            QVERIFY(report->phasesFound.share() > 0.95);
            QVERIFY(report->keyMomentErrors[report->keyMomentErrors.size() / 2] < 0.08);
            QVERIFY(report->recallOf.at("stance-short").good > 0);
        }
    }
};

QTEST_APPLESS_MAIN(TestJudgement)
#include "test_judgement.moc"
