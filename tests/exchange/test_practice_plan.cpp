#include "exchange/plan_calendar.h"
#include "review/practice_plan.h"
#include <QtTest>
#include <libical/ical.h>
#include <memory>

using namespace jl;
using namespace std::chrono;

namespace
{

const sys_days kMonday = sys_days(2026y / March / 2);

PracticeDrill drill(const char* fault, double minutes = 3, sys_days begun = kMonday)
{
    return {fault, std::string("Mend ") + fault, "Ten slow ones.", minutes, true, begun, false};
}

std::vector<std::string> faultsOf(const PlannedDay& day)
{
    std::vector<std::string> all;
    for (const PlannedItem& i : day.items)
        if (i.kind == PlannedItem::Kind::Drill) all.push_back(i.fault);
    return all;
}

} // namespace

class TestPracticePlan : public QObject
{
    Q_OBJECT

private slots:
    void drillsAreSpaced()
    {
        const PracticeDrill d = drill("a");
        std::vector<int> due;
        for (int i = -1; i < 12; ++i)
            if (isDue(d, kMonday + days(i))) due.push_back(i);
        QCOMPARE(due, (std::vector<int>{0, 1, 2, 4, 6, 8, 10}));

        PracticeDrill good = afterReview(d, false, kMonday + days(7));
        QVERIFY(good.inBand);
        due.clear();
        for (int i = 3; i < 24; ++i)
            if (isDue(good, kMonday + days(i))) due.push_back(i);
        QCOMPARE(due, (std::vector<int>{9, 16, 23})); // once a week

        const PracticeDrill back = afterReview(good, true, kMonday + days(21)); // the fault came back
        QVERIFY(!back.inBand);
        for (int i : {21, 22, 23})
            QVERIFY(isDue(back, kMonday + days(i)));
        QVERIFY(!isDue(back, kMonday + days(24)));
        const PracticeDrill still = afterReview(d, true, kMonday + days(7)); // still there: goes on as it was
        QVERIFY(still.begun == d.begun);
    }

    void aDayKeepsToItsMinutes()
    {
        PlanRequest r;
        r.first = kMonday;
        r.section = "Grasp the sparrow's tail";
        r.minutesPerDay = 10;
        r.drills = {drill("a"), drill("b", 4), drill("c")};
        const auto plan = planPractice(r);
        QVERIFY(plan);
        QCOMPARE(plan->size(), std::size_t(7));
        for (const PlannedDay& day : *plan) {
            QVERIFY(day.minutes() <= 10 + 1e-9);
            QVERIFY(day.items.front().kind == PlannedItem::Kind::Loosening && day.items.front().minutes == 2);
            QVERIFY(day.items.back().kind == PlannedItem::Kind::SlowRun);
        }
        QCOMPARE(faultsOf((*plan)[0]), std::vector<std::string>{"a"}); // 2 + 3 + 3; four more do not fit
        QCOMPARE(faultsOf((*plan)[1]).front(), std::string("b"));      // what did not fit comes first
        QVERIFY((*plan)[0].items[1].words.find("Right side first") != std::string::npos);
        r.weakSide = Side::Left;
        QVERIFY((*planPractice(r))[0].items[1].words.find("Left side first") != std::string::npos);
    }

    void littleTimeShortensTheFirstDrill()
    {
        PlanRequest r;
        r.first = kMonday;
        r.minutesPerDay = 5;
        r.drills = {drill("a", 8)};
        const auto plan = planPractice(r);
        QVERIFY(plan);
        QCOMPARE((*plan)[0].items.size(), std::size_t(3));
        QVERIFY((*plan)[0].items[1].minutes >= 1);
        QCOMPARE((*plan)[0].minutes(), 5.0);
        r.minutesPerDay = 4;
        QCOMPARE(planPractice(r).error().exitCode(), 2);
    }

    void theCalendarCanBeRead()
    {
        PlanRequest r;
        r.first = kMonday;
        r.days = 3;
        r.section = "Form; with, odd\nsigns";
        r.drills = {drill("a")};
        const std::string text = calendarText(*planPractice(r), "Practice");
        const std::unique_ptr<icalcomponent, decltype(&icalcomponent_free)> read(
            icalparser_parse_string(text.c_str()), icalcomponent_free);
        QVERIFY(read);
        QCOMPARE(icalcomponent_count_errors(read.get()), 0);
        QCOMPARE(icalcomponent_count_components(read.get(), ICAL_VEVENT_COMPONENT), 3);
        icalcomponent* first = icalcomponent_get_first_component(read.get(), ICAL_VEVENT_COMPONENT);
        QCOMPARE(icalcomponent_get_dtstart(first).month, 3);
        QCOMPARE(icalcomponent_get_dtstart(first).day, 2);
        QVERIFY(QString(icalcomponent_get_description(first)).contains("Mend a"));
        QVERIFY(QString(icalcomponent_get_description(first)).contains("Form; with, odd\nsigns"));
    }
};

QTEST_APPLESS_MAIN(TestPracticePlan)
#include "test_practice_plan.moc"
