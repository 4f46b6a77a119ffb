#include "app/jobs/posture_sheet.h"
#include "support/shipped.h"
#include <QtTest>

using namespace jl;

class TestPostureSheet : public QObject
{
    Q_OBJECT

private slots:
    void aPostureShowsItsOwnPhases()
    {
        SheetRequest one;
        one.forms = {"push"};
        const auto sheet = postureSheet(shipped(), one, Theme::paper());
        QVERIFY(sheet);
        SheetRequest two = one;
        two.forms = {"push", "press"}; // two phases each
        const auto both = postureSheet(shipped(), two, Theme::paper());
        QVERIFY(both);
        QVERIFY(both->width() > 1.8 * sheet->width());
        QCOMPARE(both->height(), sheet->height());
    }

    void moreViewsMakeWiderCells()
    {
        SheetRequest request;
        request.forms = {"stand"};
        const auto front = postureSheet(shipped(), request, Theme::paper());
        request.views = {0, 90};
        const auto both = postureSheet(shipped(), request, Theme::paper());
        QVERIFY(front && both);
        QCOMPARE(both->height(), front->height());
        QVERIFY(both->width() > 1.8 * front->width());
        QVERIFY(both->pixelColor(100, 120) != both->pixelColor(290, 120) ||
                both->pixelColor(95, 90) != both->pixelColor(285, 90));
    }

    void arrivalsAreOneAPosture()
    {
        SheetRequest request;
        request.forms = {"brush-knee"}; // three phases
        request.columns = 1;
        const auto all = postureSheet(shipped(), request, Theme::paper());
        request.arrivalsOnly = true;
        const auto last = postureSheet(shipped(), request, Theme::paper());
        QVERIFY(all && last);
        QVERIFY(all->height() > 2.5 * last->height());
    }

    void unknownPosturesAreRefused()
    {
        SheetRequest request;
        request.forms = {"no-such-posture"};
        const auto sheet = postureSheet(shipped(), request, Theme::paper());
        QVERIFY(!sheet);
        QCOMPARE(sheet.error().exitCode(), 2);
    }
};

QTEST_MAIN(TestPostureSheet)
#include "test_posture_sheet.moc"
