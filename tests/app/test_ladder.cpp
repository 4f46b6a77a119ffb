#include "app/review/ladder/history_spark.h"
#include "app/review/ladder/ladder_view.h"
#include "app/review/ladder/measure_detail.h"
#include "app/review/ladder/measure_row.h"
#include "app/review/ladder/phase_measure_row.h"
#include "app/review/model/playhead.h"
#include "support/forms.h"
#include <QLabel>
#include <QPushButton>
#include <QtTest>

using namespace jl;

namespace
{

/// A review of a perfect track from a direction.
std::shared_ptr<const ReviewScene> sceneFrom(double azimuth, std::vector<FaultRequest> faults = {},
                                             std::vector<ReviewRecord> earlier = {})
{
    const auto p = perform("teacher", 3, Side::Right, faults);
    ClipRequest clip;
    clip.camera = {azimuth, 5, 4.3, 0};
    clip.framesPerSecond = 15;
    ReviewRequest request;
    request.student.track = exactTrack(p, clip);
    request.student.profile.height = p.body().height;
    request.earlier = std::move(earlier);
    auto finished = makeReview(shipped(), request, FormComparison::Later);
    if (!finished) qFatal("%s", finished.error().message().c_str());
    return sceneOf(std::move(*finished));
}

} // namespace

/// The ladder on real values: what is counted, what is marked, what opens.
class TestLadder : public QObject
{
    Q_OBJECT

private slots:
    void init()
    {
        m_playhead = std::make_unique<Playhead>();
        m_ladder = std::make_unique<LadderView>(*m_playhead, Theme::paper());
        m_ladder->resize(340, 700);
        m_ladder->show();
    }

    void everyMeasureHasItsRow()
    {
        QCOMPARE(m_ladder->findChildren<MeasureRow*>().size(), static_cast<qsizetype>(kMeasureCount));
        for (const MeasureRow* row : m_ladder->findChildren<MeasureRow*>())
            QVERIFY(!row->objectName().isEmpty() && !row->toolTip().isEmpty());
    }

    void rungsCountWhatTheViewSees()
    {
        load(sceneFrom(90));
        const QString side = rung("arms")->accessibleDescription();
        QVERIFY2(side.contains("of 22 seen") && !side.contains(" 0 of"), qPrintable(side));
        QVERIFY(rung("weight")->accessibleDescription().contains("1 of 2"));
        load(sceneFrom(0));
        QVERIFY(rung("weight")->accessibleDescription().contains("0 of 2"));
        QVERIFY(row("knee.lead.track")->accessibleDescription() !=
                row("knee.rear.track")->accessibleDescription());
    }

    void unseenRowsAreLowerThanSeenOnes()
    {
        load(sceneFrom(90));
        QVERIFY(row("stance.width")->height() < row("stance.length")->height());
        load(sceneFrom(0));
        QVERIFY(row("stance.width")->height() > row("stance.length")->height());
    }

    /// Earlier lessons from the same view stand beside this one; the first lesson has none.
    void earlierLessonsAreShown()
    {
        load(sceneFrom(90));
        goTo("push", "arrive");
        row("knee.lead.past_toe")->click();
        auto* spark = m_ladder->findChild<HistorySpark*>("ladder.history");
        QVERIFY(spark && !spark->isVisible());
        const ReviewRecord before = recordOf(sceneFrom(90, {{"knee-past-toe", 0.06, ""}})->review),
                           fromFront = recordOf(sceneFrom(0)->review);
        load(sceneFrom(90, {}, {before, fromFront}));
        goTo("push", "arrive");
        row("knee.lead.past_toe")->click();
        QVERIFY(spark->isVisible());
        QCOMPARE(spark->lessons().size(), std::size_t(2)); // from the front nobody sees it
        QVERIFY(spark->lessons()[0].value > spark->lessons()[1].value + 0.03);
        QVERIFY(spark->accessibleDescription().contains("cm"));
        row("stance.width")->click();
        QVERIFY(!spark->isVisible()); // not seen now
    }

    void timingIsTheRungOnTop()
    {
        load(sceneFrom(90));
        goTo("push", "arrive");
        QCOMPARE(m_ladder->findChildren<PhaseMeasureRow*>().size(),
                 static_cast<qsizetype>(kPhaseMeasureCount));
        m_ladder->openTiming();
        QVERIFY(!m_ladder->openedRung());
        auto* duration = m_ladder->findChild<PhaseMeasureRow*>("phase.phase.duration");
        QVERIFY(duration && duration->isVisible());
        const JudgedWhole& value =
            m_playhead->currentPhase()->whole[static_cast<std::size_t>(PhaseMeasure::Duration)];
        QVERIFY(value.value.isGiven() && value.value.value > 0.5);
        QVERIFY(duration->accessibleDescription().contains(" s"));
        QVERIFY(rung("timing")->y() < rung("head")->y());
        int hidden = 0; // what did not happen in this phase takes no room
        for (const PhaseMeasureRow* row : m_ladder->findChildren<PhaseMeasureRow*>())
            hidden += !row->isVisible();
        QVERIFY(hidden > 0 && hidden < static_cast<int>(kPhaseMeasureCount) - 3);
        m_ladder->openRung(Rung::Feet);
        QVERIFY(!duration->isVisible());
    }

    void everyValueIsExplained()
    {
        load(sceneFrom(90, {{"knee-past-toe", 0.08}}));
        goTo("push", "arrive");
        m_playhead->choose(Measure::KneeLeadPastToe);
        auto* detail = m_ladder->findChild<MeasureDetail*>("ladder.detail");
        QVERIFY(detail && detail->isVisible());
        auto* words = m_ladder->findChild<QLabel*>("ladder.detail.words");
        const MeasureInfo& info = measureInfo(Measure::KneeLeadPastToe);
        QVERIFY(words->text().contains(
            QString::fromUtf8(info.definition.data(), static_cast<qsizetype>(info.definition.size()))));
        QVERIFY2(words->text().contains("from the side"), qPrintable(words->text()));
        // The course ends at the value that the row shows.
        const auto& course = detail->studentCourse().points;
        QVERIFY(course.size() > 5);
        const JudgedValue& value =
            m_playhead->currentPhase()->values[static_cast<std::size_t>(Measure::KneeLeadPastToe)];
        QVERIFY(std::abs(course.back().value - value.value.value) < 0.02);
        QVERIFY(course.front().value < course.back().value - 0.02); // the knee came forward
        QVERIFY(row("knee.lead.past_toe")->geometry().bottom() <
                detail->geometry().top() + 2); // it lies under its row
        m_playhead->choose(Measure::TrunkLeanForward);
        QVERIFY(detail->parentWidget() == row("trunk.lean.forward")->parentWidget());
        // The curves are really drawn: the chart holds the ink of the student's line.
        const QImage chart = detail->grab().toImage();
        int ink = 0;
        for (int y = 0; y < 80; ++y)
            for (int x = 0; x < chart.width(); ++x)
                ink += chart.pixelColor(x, y) == Theme::paper().ink;
        QVERIFY2(ink > chart.width() / 2, qPrintable(QString::number(ink)));
    }

    void faultsAreMarkedInTheirRung()
    {
        load(sceneFrom(90, {{"knee-past-toe", 0.08}}));
        goTo("push", "arrive");
        QVERIFY(row("knee.lead.past_toe")->accessibleDescription().contains("past the toe"));
        const QString spoilt = rung("knees")->accessibleDescription();
        load(sceneFrom(90));
        goTo("push", "arrive");
        QVERIFY(rung("knees")->accessibleDescription() != spoilt);
    }

    void oneRungIsOpenAndKeysOpenTheOthers()
    {
        load(sceneFrom(90));
        const auto open = [&] {
            int n = 0;
            for (const MeasureRow* r : m_ladder->findChildren<MeasureRow*>())
                n += r->isVisibleTo(m_ladder.get());
            return n;
        };
        rung("trunk")->click();
        QCOMPARE(open(), 5);
        QVERIFY(row("trunk.lean.forward")->isVisibleTo(m_ladder.get()));
        rung("head")->click();
        QCOMPARE(open(), 4);
        QVERIFY(!row("trunk.lean.forward")->isVisibleTo(m_ladder.get()));
    }

    void choosingAMeasureOpensItsRung()
    {
        load(sceneFrom(90));
        m_playhead->choose(Measure::HandLeadHeight);
        QVERIFY(row("hand.lead.height")->isVisibleTo(m_ladder.get()));
        QVERIFY(row("hand.lead.height")->isChecked());
        row("arm.lead.reach")->click();
        QCOMPARE(m_playhead->measure(), Measure::ArmLeadReach);
        QVERIFY(!row("hand.lead.height")->isChecked());
    }

    void whatCannotBeToldSaysWhatWouldHelp()
    {
        MeasureRow row(Measure::FootLeadAngle, Theme::paper());
        JudgedValue value;
        value.value = {{}, Measure::FootLeadAngle, View::Front};
        row.setValue(value, Mark::CannotTell);
        QVERIFY(row.accessibleDescription().contains("would show from two clips"));
        value.value = {
            {3, 8, Status::Ok}, Measure::FootLeadAngle, View::Both}; // there is nothing more to film
        row.setValue(value, Mark::CannotTell);
        QVERIFY2(row.accessibleDescription().contains("both clips leave ± 16"),
                 qPrintable(row.accessibleDescription()));
        value.value.status = Status::Unseen;
        row.setValue(value, Mark::CannotTell);
        QVERIFY(row.accessibleDescription().contains("clips do not agree"));
    }

    /// Who drags through many phases need not wait for the ladder at each; who arrives sees it at once.
    void theLadderFollowsAHandThatPassesThroughWhenItMay()
    {
        load(sceneFrom(90));
        goTo("push", "arrive");
        const auto here = m_playhead->phase();
        const QSignalSpy changes(m_playhead.get(), &Playhead::phaseChanged);
        const double far = m_playhead->scene()->keyTimes.front().first;
        m_playhead->passTo(far);
        QCOMPARE(m_playhead->time(), far);
        QCOMPARE(m_playhead->phase(), here);
        QCOMPARE(changes.size(), 0);
        QTRY_VERIFY(m_playhead->phase() != here);
        QCOMPARE(changes.size(), 1);
        goTo("push", "arrive");
        QCOMPARE(m_playhead->phase(), here);
        QCOMPARE(changes.size(), 2);
        m_playhead->passTo(far);
        m_playhead->setPlaying(true); // from the phase one has come to
        QVERIFY(m_playhead->phase() != here);
        m_playhead->setPlaying(false);
    }

private:
    void load(std::shared_ptr<const ReviewScene> bundle)
    {
        m_playhead->setScene(std::move(bundle));
        goTo("push", "arrive");
    }
    void goTo(const char* posture, const char* phase)
    {
        for (const auto& p : m_playhead->scene()->review.postures)
            for (const auto& k : p.phases)
                if (p.id == posture && k.student.phase == phase) m_playhead->moveTo(k.student.time);
    }
    QAbstractButton* rung(const char* name) const
    {
        return m_ladder->findChild<QAbstractButton*>(QString("rung.") + name);
    }
    MeasureRow* row(const char* key) const
    {
        return m_ladder->findChild<MeasureRow*>(QString("measure.") + key);
    }

    std::unique_ptr<Playhead> m_playhead;
    std::unique_ptr<LadderView> m_ladder;
};

QTEST_MAIN(TestLadder)
#include "test_ladder.moc"
