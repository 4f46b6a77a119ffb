#include "base/json_file.h"
#include "exchange/review_file.h"
#include "review/progress.h"
#include "review/teaching.h"
#include "support/reviews.h"
#include "support/shipped.h"
#include <QTemporaryDir>
#include <QtTest>

using namespace jl;

namespace
{

const Band kToe{-0.2, 0, 0.06};

ReviewRecord record(std::vector<double> pastToe, double u, int shows, const char* view = "side-near")
{
    ReviewRecord r{"sparrow-tail", "upright-broad", Side::Right, {"press", "push"}, {}, {}};
    for (std::size_t i = 0; i < pastToe.size(); ++i)
        r.values.push_back({i, "arrive", "knee.lead.past_toe", view, pastToe[i], u, kToe});
    r.faults.push_back({"knee-past-toe", Severity::Safety, shows, static_cast<int>(pastToe.size())});
    return r;
}

const FaultChange& only(const ProgressSince& p)
{
    if (p.faults.size() != 1) qFatal("%zu changes", p.faults.size());
    return p.faults.front();
}

Finding finding(const char* fault, std::size_t posture, Measure m, double value, const Band& band)
{
    return {fault, Severity::Fault, posture, 0, 1.0, m, {}, value, 0.001, band, false, {}};
}

/// Two postures with one phase each.
Review twoPostures()
{
    Review r;
    for (const char* id : {"press", "push"}) {
        ReviewedPosture p{id, id, {}, PostureStatus::Matched, {}};
        p.phases.resize(1);
        p.phases[0].student.stance = StanceKind::Bow;
        r.postures.push_back(p);
    }
    return r;
}

} // namespace

class TestProgress : public QObject
{
    Q_OBJECT

private slots:
    /// A value seen from elsewhere does not compare, and what was not seen leaves no gap to be guessed.
    void aMeasureHasAHistory()
    {
        const std::vector<ReviewRecord> earlier{record({0.08, 0.06}, 0.01, 2), record({0.05}, 0.01, 1),
                                                record({0.02, 0.04}, 0.01, 1, "side-far"),
                                                record({0.03, 0.01}, 0.02, 1)};
        const auto first = historyOf(earlier, 0, "arrive", "knee.lead.past_toe", "side-near");
        QCOMPARE(first.size(), std::size_t(3));
        QCOMPARE(first.front().value, 0.08);
        QCOMPARE(first.back().u, 0.02);
        QCOMPARE(historyOf(earlier, 1, "arrive", "knee.lead.past_toe", "side-near").size(), std::size_t(2));
        QVERIFY(historyOf(earlier, 0, "arrive", "stance.length", "side-near").empty());
        QVERIFY(historyOf({}, 0, "arrive", "knee.lead.past_toe", "side-near").empty());
    }

    void aRealChangeExceedsItsError()
    {
        const auto& rules = shipped().rules;
        const auto better =
            only(progressSince(record({0.08, 0.06}, 0.01, 2), record({0.03, 0.02}, 0.01, 2), rules));
        QCOMPARE(better.change, Change::Better);
        QVERIFY(!better.gone);
        QVERIFY(better.words.find("2 of 2") != std::string::npos);
        const auto same =
            only(progressSince(record({0.08, 0.06}, 0.02, 2), record({0.05, 0.04}, 0.02, 2), rules));
        QCOMPARE(same.change, Change::Same); // 2.5 cm nearer, but known to 2.8 cm
        const auto gone =
            only(progressSince(record({0.08, 0.06}, 0.01, 2), record({-0.05, -0.03}, 0.01, 0), rules));
        QVERIFY(gone.gone && gone.change == Change::Better);
        const auto fresh =
            only(progressSince(record({-0.05, -0.03}, 0.01, 0), record({0.08, 0.06}, 0.01, 2), rules));
        QVERIFY(fresh.isNew && fresh.change == Change::Worse);
    }

    void otherViewsAndSchoolsAreNotCompared()
    {
        const auto& rules = shipped().rules;
        const auto view = progressSince(record({0.08}, 0.01, 1), record({0.01}, 0.01, 1, "side-far"), rules);
        QCOMPARE(only(view).change, Change::NotComparable);
        QCOMPARE(view.values.front().change, Change::NotComparable);
        ReviewRecord other = record({0.01}, 0.01, 1);
        other.school = "spiral";
        QVERIFY(progressSince(record({0.08}, 0.01, 1), other, rules).incomparable.find("school") !=
                std::string::npos);
        other = record({0.01}, 0.01, 1);
        other.side = Side::Left;
        QVERIFY(progressSince(record({0.08}, 0.01, 1), other, rules).faults.empty());
        ReviewRecord unseen = record({}, 0.01, 0);
        unseen.faults.clear();
        QCOMPARE(only(progressSince(record({0.08}, 0.01, 1), unseen, rules)).change, Change::NotComparable);
    }

    void valuesInBandHaveNothingToGain()
    {
        const auto p = progressSince(record({-0.10}, 0.005, 0), record({-0.02}, 0.005, 0), shipped().rules);
        QCOMPARE(p.values.front().change, Change::Same);
        QVERIFY(p.faults.empty());
    }

    void lessonsAreCountedInARow()
    {
        const std::vector<ReviewRecord> records{record({0.1}, 0.01, 1), record({-0.1}, 0.01, 0),
                                                record({0.1}, 0.01, 1), record({0.1}, 0.01, 1)};
        QCOMPARE(lessonsOf(records).at("knee-past-toe").lessons, 2);
        QCOMPARE(lessonsOf(std::span(records).first(2)).at("knee-past-toe").lessons, 0);
    }

    void whatKeepsComingBackComesFirstAndParkedWaits()
    {
        Review review = twoPostures();
        review.findings = {finding("one-line", 0, Measure::StanceWidth, 0.0, {0.1, 0.3, 0}),
                           finding("lean-forward", 1, Measure::TrunkLeanForward, 9.0, {-6, 6, 0})};
        const LevelStandard& level = *shipped().standards.level("refining");
        const auto first = [&](const TeachingMemory& memory) {
            return chooseCorrections(review, shipped().rules, level, memory).teach.front();
        };
        QCOMPARE(first({}).fault, std::string("one-line"));
        TeachingMemory memory;
        memory.faults["lean-forward"].lessons = 3;
        QCOMPARE(first(memory).fault, std::string("lean-forward"));
        QVERIFY(first(memory).whyNow.find("last 3 times") != std::string::npos);
        memory.faults["lean-forward"].parked = true;
        QCOMPARE(chooseCorrections(review, shipped().rules, level, memory).teach.size(), std::size_t(1));
        memory.faults["lean-forward"] = {0, false, true};
        QVERIFY(chooseCorrections(review, shipped().rules, level, memory).teach[1].whyNow.find("due now") !=
                std::string::npos);
        // Safety is never put off.
        review.findings[0].severity = Severity::Safety;
        memory.faults["one-line"].parked = true;
        QCOMPARE(first(memory).fault, std::string("one-line"));
    }

    void anInstructorsChoiceHoldsAndIsLearnt()
    {
        Review review = twoPostures();
        const Band lean{-6, 6, 0}, width{0.1, 0.3, 0}, toe{-0.2, 0, 0.06};
        review.findings = {finding("lean-forward", 0, Measure::TrunkLeanForward, 12, lean),
                           finding("one-line", 0, Measure::StanceWidth, 0.0, width),
                           finding("knee-past-toe", 0, Measure::KneeLeadPastToe, 0.08, toe)};
        const auto causeOf = [&](const char* fault) {
            const auto f = std::find_if(review.findings.begin(), review.findings.end(),
                                        [&](const Finding& x) { return x.fault == fault; });
            return f->becauseOf.value_or("");
        };
        traceCauses(review, shipped().rules);
        QCOMPARE(causeOf("knee-past-toe"), std::string("lean-forward"));
        TeachingMemory memory;
        memory.hung["knee-past-toe"] = "one-line"; // which the rules do not know as its cause
        traceCauses(review, shipped().rules, memory);
        QCOMPARE(causeOf("knee-past-toe"), std::string("one-line"));
        memory.hung["knee-past-toe"] = "";
        traceCauses(review, shipped().rules, memory);
        QCOMPARE(causeOf("knee-past-toe"), std::string(""));

        TeachingMemory learnt; // chosen often enough, it is found without being told
        learnt.filed[{"knee-past-toe", "one-line"}] = 1;
        const FaultRule& rule = *shipped().rules.find("knee-past-toe");
        QCOMPARE(learnt.prior(rule, "one-line"), 0.2);
        QCOMPARE(learnt.prior(rule, "lean-forward"), 4 * 0.6 / 5);
        traceCauses(review, shipped().rules, learnt);
        QCOMPARE(causeOf("knee-past-toe"), std::string("lean-forward"));
        learnt.filed[{"knee-past-toe", "one-line"}] = 12;
        traceCauses(review, shipped().rules, learnt);
        QCOMPARE(causeOf("knee-past-toe"), std::string("one-line"));
    }

    void aWrittenReviewIsReadAsARecord()
    {
        const Performance p = perform("teacher", 71, Side::Left, {{"knee-past-toe", 0.08}});
        const ClipReading reading = readTrack(exactFrom(p, 90));
        const Review judged = reviewOf(reading), *review = &judged;
        const QTemporaryDir dir;
        const auto file = std::filesystem::path(dir.filePath("r.json").toStdString());
        QVERIFY(writeText(file, reviewJson(*review)));
        const auto back = readRecord(file);
        QVERIFY2(back, back ? "" : back.error().message().c_str());
        const ReviewRecord own = recordOf(*review);
        QCOMPARE(back->values.size(), own.values.size());
        QCOMPARE(back->side, Side::Left);
        QVERIFY(!own.values.empty());
        for (std::size_t i = 0; i < own.values.size(); ++i) {
            QCOMPARE(back->values[i].measure, own.values[i].measure);
            QCOMPARE(back->values[i].value, own.values[i].value);
        }
        for (const FaultChange& c : progressSince(*back, own, shipped().rules).faults)
            QCOMPARE(c.change, Change::Same);
        QVERIFY(writeText(file, "{\"form\": \"x\"}"));
        QCOMPARE(readRecord(file).error().exitCode(), 3);
    }
};

QTEST_APPLESS_MAIN(TestProgress)
#include "test_progress.moc"
