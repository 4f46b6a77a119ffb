#include "app/review/page/student_limits_dialog.h"
#include "app/review/slip/overview_cards.h"
#include "app/review/slip/own_finding_dialog.h"
#include "base/day.h"
#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QSpinBox>
#include <QTest>
#include <QToolButton>

using namespace jl;

namespace
{

StandingPoint point(const char* what, StandingPoint::State state, const char* words = "")
{
    StandingPoint p;
    p.what = what;
    p.state = state;
    p.words = words;
    return p;
}

QStringList textsOf(const QWidget& widget)
{
    QStringList texts;
    for (const QLabel* label : widget.findChildren<QLabel*>())
        if (label->isVisibleTo(&widget)) texts << label->text();
    return texts;
}

} // namespace

/// The cards above the slip, and the dialogs beside it.
class TestOverviewCards : public QObject
{
    Q_OBJECT

private slots:
    void whatIsOffInStandingStandsOpen()
    {
        using enum StandingPoint::State;
        const Standing standing{1.5,
                                {point("feet apart", Good),
                                 point("trunk upright", Off, "Stand over the soles."),
                                 point("shoulders level", Unseen)}};
        StandingCard card(standing, Theme::paper(), nullptr);
        card.resize(320, 300);
        QVERIFY(textsOf(card).contains("trunk upright: Stand over the soles."));
        QVERIFY(textsOf(card).join(' ').contains("1 to look at"));
        QSignalSpy asked(&card, &StandingCard::asked);
        for (QToolButton* b : card.findChildren<QToolButton*>())
            if (b->objectName() != "slip.standing.unfold") b->click();
        QCOMPARE(asked.size(), 1);
        // Folded, one line is left.
        card.findChild<QToolButton*>("slip.standing.unfold")->click();
        QVERIFY(!textsOf(card).join(' ').contains("soles"));
    }

    void whatIsWellStaysFolded()
    {
        const Standing standing{1, {point("feet apart", StandingPoint::State::Good)}};
        const StandingCard card(standing, Theme::paper(), nullptr);
        QVERIFY(!textsOf(card).contains("feet apart"));
        QVERIFY(textsOf(card).join(' ').contains("nothing amiss"));
    }

    void sidesThatDoNotDifferHaveNoCard() { QVERIFY(!sidesCard(Review{}, Theme::paper(), nullptr)); }

    void anOwnFindingNeedsAHeading()
    {
        OwnFindingDialog dialog(4.25, Measure::TrunkLeanForward, Theme::paper());
        auto* keep = dialog.findChild<QPushButton*>("own.keep");
        QVERIFY(!keep->isEnabled());
        dialog.findChild<QLineEdit*>("own.title")->setText("  Wait for  the breath ");
        dialog.findChild<QPlainTextEdit*>("own.cue")->setPlainText("Let it\nend first.");
        QVERIFY(keep->isEnabled());
        QCOMPARE(dialog.finding().title, std::string("Wait for the breath"));
        QCOMPARE(dialog.finding().cue, std::string("Let it end first."));
        QCOMPARE(dialog.finding().time, 4.25);
        QVERIFY(!dialog.finding().measure);
        dialog.findChild<QCheckBox*>("own.about")->click();
        QCOMPARE(dialog.finding().measure, std::optional(Measure::TrunkLeanForward));
    }

    void limitsHaveASideAndAnEnd()
    {
        StudentRow student;
        student.name = "Ana";
        StudentLimitsDialog dialog(student, Theme::paper());
        auto* side = dialog.findChild<QComboBox*>("limits.knee.side");
        auto* until = dialog.findChild<QDateEdit*>("limits.until");
        QVERIFY(!side->isEnabled() && !until->isEnabled());
        QVERIFY(dialog.student().bodyLimits.none());
        dialog.findChild<QCheckBox*>("limits.knee")->click();
        dialog.findChild<QSpinBox*>("limits.knee.degrees")->setValue(50);
        side->setCurrentIndex(2);
        dialog.findChild<QCheckBox*>("limits.ends")->click();
        until->setDate(QDate(2031, 5, 4));
        const StudentRow kept = dialog.student();
        QCOMPARE(kept.bodyLimits.kneeSide, std::optional(Side::Right));
        QCOMPARE(kept.bodyLimits.until, dayFrom("2031-05-04"));
        QVERIFY(limitsSummary(kept).contains("right knee to 50"));
        // The dialog shows what is kept.
        const StudentLimitsDialog again(kept, Theme::paper());
        QCOMPARE(again.findChild<QComboBox*>("limits.knee.side")->currentIndex(), 2);
        QCOMPARE(again.findChild<QDateEdit*>("limits.until")->date(), QDate(2031, 5, 4));
        StudentRow past = kept;
        past.bodyLimits.until = dayFrom("2020-01-01");
        QVERIFY(limitsSummary(past).contains("ended"));
    }
};

QTEST_MAIN(TestOverviewCards)
#include "test_overview_cards.moc"
