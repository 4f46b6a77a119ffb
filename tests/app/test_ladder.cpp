#include "app/review/ladder_view.h"
#include "app/review/measure_row.h"
#include "app/review/playhead.h"
#include "support/forms.h"
#include <QPushButton>
#include <QtTest>

using namespace jl;

namespace
{

/// A review of a perfect track from a direction.
std::shared_ptr<const ReviewBundle> bundleFrom(double azimuth, std::vector<FaultRequest> faults = {})
{
    const auto p = perform("teacher", 3, Side::Right, faults);
    ClipRequest clip;
    clip.camera = {azimuth, 5, 4.3, 0};
    clip.framesPerSecond = 15;
    BundleRequest request;
    request.student = exactTrack(p, clip);
    request.studentProfile.height = p.body().height;
    auto bundle = makeBundle(shipped(), request);
    if (!bundle) qFatal("%s", bundle.error().message().c_str());
    return *bundle;
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
        load(bundleFrom(90));
        const QString side = rung("arms")->accessibleDescription();
        QVERIFY2(side.contains("of 20 seen") && !side.contains(" 0 of"), qPrintable(side));
        QVERIFY(rung("weight")->accessibleDescription().contains("1 of 2"));
        load(bundleFrom(0));
        QVERIFY(rung("weight")->accessibleDescription().contains("0 of 2"));
        QVERIFY(row("knee.lead.track")->accessibleDescription() !=
                row("knee.rear.track")->accessibleDescription());
    }

    void unseenRowsAreLowerThanSeenOnes()
    {
        load(bundleFrom(90));
        QVERIFY(row("stance.width")->height() < row("stance.length")->height());
        load(bundleFrom(0));
        QVERIFY(row("stance.width")->height() > row("stance.length")->height());
    }

    void faultsAreMarkedInTheirRung()
    {
        load(bundleFrom(90, {{"knee-past-toe", 0.08}}));
        goTo("push", "arrive");
        QVERIFY(row("knee.lead.past_toe")->accessibleDescription().contains("past the toe"));
        const QString spoilt = rung("knees")->accessibleDescription();
        load(bundleFrom(90));
        goTo("push", "arrive");
        QVERIFY(rung("knees")->accessibleDescription() != spoilt);
    }

    void oneRungIsOpenAndKeysOpenTheOthers()
    {
        load(bundleFrom(90));
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
        load(bundleFrom(90));
        m_playhead->choose(Measure::HandLeadHeight);
        QVERIFY(row("hand.lead.height")->isVisibleTo(m_ladder.get()));
        QVERIFY(row("hand.lead.height")->isChecked());
        row("arm.lead.reach")->click();
        QCOMPARE(m_playhead->measure(), Measure::ArmLeadReach);
        QVERIFY(!row("hand.lead.height")->isChecked());
    }

private:
    void load(std::shared_ptr<const ReviewBundle> bundle)
    {
        m_playhead->setBundle(std::move(bundle));
        goTo("push", "arrive");
    }
    void goTo(const char* posture, const char* phase)
    {
        for (const auto& p : m_playhead->bundle()->review.postures)
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
