#include "base/day.h"
#include "review/slip.h"
#include "support/readings.h"
#include "support/shipped.h"
#include <QtTest>

using namespace jl;

namespace
{

const ClipReading& reading()
{
    static const Performance p =
        perform("teacher", 41, Side::Right, {{"knee-past-toe", 0.08, ""}, {"lean-forward", 12, "push"}});
    static const ClipReading read = readTrack(exactTrack(p, from(90)), {.height = p.body().height});
    return read;
}

const Review& judged()
{
    static const Review review = [] {
        ReviewInput input;
        input.level = "refining";
        input.student = &reading();
        auto r = judgeClip(shipped().standards, shipped().rules, input);
        if (!r) qFatal("%s", r.error().message().c_str());
        return *r;
    }();
    return review;
}

Slip slipWith(const ProgressSince* progress = nullptr, const char* student = "Ana Brook")
{
    return slipOf(judged(), shipped().rules, progress,
                  {student, "Grasp the sparrow's tail", *dayFrom("2026-03-14"), asProposed(judged()), {}});
}

bool has(const std::string& text, const std::string& words)
{
    return text.find(words) != std::string::npos;
}

} // namespace

/// What the student reads.
class TestSlip : public QObject
{
    Q_OBJECT

private slots:
    void everyCorrectionIsThereWithItsMoment()
    {
        const Slip slip = slipWith();
        QVERIFY(!judged().teach.empty());
        QCOMPARE(slip.items.size(), judged().teach.size());
        const auto toe = std::find_if(slip.items.begin(), slip.items.end(),
                                      [](const SlipItem& i) { return i.fault == "knee-past-toe"; });
        QVERIFY(toe != slip.items.end());
        QCOMPARE(toe->measure, std::optional(Measure::KneeLeadPastToe));
        QVERIFY(toe->time > 0 && !toe->place.empty() && !toe->purpose.empty());
        for (const SlipItem& i : slip.items) { // "Push", not "Push, push"
            const QStringList names = QString::fromStdString(i.place).toLower().split(", ");
            QCOMPARE(QSet<QString>(names.begin(), names.end()).size(), names.size());
        }
        QVERIFY2(has(toe->often, "in ") && has(toe->often, " of "), toe->often.c_str());
        QCOMPARE(slip.cautions, judged().cautions);
    }

    void herOwnWordsComeBeforeTheProposed()
    {
        auto chosen = asProposed(judged());
        chosen.resize(1);
        chosen[0].cue = "Wait.";
        const Slip slip =
            slipOf(judged(), shipped().rules, nullptr, {"Ana", "Form", *dayFrom("2026-03-14"), chosen, {}});
        QCOMPARE(slip.items.size(), std::size_t(1));
        QCOMPARE(slip.items[0].cue, std::string("Wait."));
        const std::string text = slipText(slip);
        QVERIFY(has(text, "Wait.") && !has(text, judged().teach[0].cue));
    }

    void whatIsBetterComesFirst()
    {
        ProgressSince progress;
        progress.faults.push_back(
            {"lean-back", Change::Better, true, false, 3, 4, 0, 4, "gone: 0 of 4, was 3 of 4"});
        progress.faults.push_back({"bobbing", Change::Worse, false, false, 1, 4, 3, 4, "worse"});
        const Slip slip = slipWith(&progress);
        QCOMPARE(slip.better.size(), std::size_t(1));
        const std::string text = slipText(slip);
        QVERIFY(text.find("gone: 0 of 4") < text.find("1. "));
        QVERIFY(text.find(slip.cautions.front()) > text.find("1. "));
    }

    void aSlipWithoutCorrectionsSaysSo()
    {
        const Slip slip =
            slipOf(judged(), shipped().rules, nullptr, {"Ana", "Form", *dayFrom("2026-03-14"), {}, {}});
        QVERIFY(has(slipText(slip), "go on as you do"));
        for (const std::string& caution : judged().cautions)
            QVERIFY(has(slipText(slip), caution));
    }

    void daysAreSaidAsPeopleReadThem()
    {
        QVERIFY2(slipText(slipWith()).rfind("Ana Brook, Grasp the sparrow's tail, 14 March 2026\n", 0) == 0,
                 slipText(slipWith()).c_str());
        SlipRequest request{"Ana", "Form", *dayFrom("2026-03-14"), asProposed(judged()), {}};
        request.practice.push_back(
            {*dayFrom("2026-03-15"), {{PlannedItem::Kind::Loosening, "", "Loosen up", "", 2}}});
        QCOMPARE(slipOf(judged(), shipped().rules, nullptr, request).practice.front(),
                 std::string("Sun 15 March, 2 min: Loosen up"));
    }

    void filesAreNamedByDayStudentAndForm()
    {
        QCOMPARE(slipFileName(slipWith()), std::string("2026-03-14 Ana Brook, Grasp the sparrow's tail"));
        QCOMPARE(slipFileName(slipWith(nullptr, "a/b\\c: \"d\"\n")),
                 std::string("2026-03-14 abc d, Grasp the sparrow's tail"));
    }

    void captionsFollowTheClip()
    {
        Slip slip = slipWith();
        slip.items.resize(1);
        slip.items[0].cue = "Less <weight> & more --> calm\n\nagain";
        const double end = reading().track.duration();
        slip.items[0].time = end - 1;
        const std::string vtt = captionsOf(judged(), slip, end);
        QVERIFY(vtt.rfind("WEBVTT\n", 0) == 0);
        QVERIFY2(has(vtt, "Less &lt;weight&gt; &amp; more --&gt; calm  again"), vtt.c_str());
        // Rising times, all inside of the clip.
        const QRegularExpression times(R"((\d+):(\d+):(\d+\.\d+) --> (\d+):(\d+):(\d+\.\d+))");
        double last = 0;
        int count = 0;
        for (auto it = times.globalMatch(QString::fromStdString(vtt)); it.hasNext(); ++count) {
            const auto m = it.next();
            const auto seconds = [&](int i) {
                return 3600 * m.captured(i).toDouble() + 60 * m.captured(i + 1).toDouble() +
                       m.captured(i + 2).toDouble();
            };
            QVERIFY(seconds(1) >= last && seconds(4) > seconds(1) && seconds(4) < end + 0.01);
            last = seconds(1);
        }
        QCOMPARE(count, static_cast<int>(judged().postures.size()) + 1);
    }
};

QTEST_APPLESS_MAIN(TestSlip)
#include "test_slip.moc"
