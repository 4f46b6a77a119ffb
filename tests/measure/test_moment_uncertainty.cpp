#include "measure/moment_uncertainty.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"
#include <cmath>

using namespace jl;

namespace
{

BodyPoints bodyAt(const char* form, const char* posture, const char* phase)
{
    const Performance p = performForm(form);
    return p.figureAt(phaseOf(p, posture, phase).time).landmark;
}

} // namespace

/// What a moment is unsure of beyond its geometry.
class TestMomentUncertainty : public QObject
{
    Q_OBJECT

private slots:
    void theUnlikerTheLessSure()
    {
        const BodyPoints upright = bodyAt("push", "push", "arrive");
        const auto factor = [&](double dissimilarity) {
            return MomentUncertainty(dissimilarity, upright).factor();
        };
        QCOMPARE(MomentUncertainty().factor(), 1.0);
        // A body like the model is as sure as usual, and no likeness makes up for a camera that is placed
        // badly.
        QVERIFY(factor(0) == 1 && factor(0.012) == 1);
        QVERIFY(factor(0.03) > 1.2 && factor(0.06) > factor(0.03));
        QCOMPARE(factor(10), 2.0);
    }

    void aTrunkFoldedFarIsToldLessSurely()
    {
        VERIFY_NEAR(MomentUncertainty(0.012, bodyAt("needle", "needle", "fold")).factor(), 1.4, 1e-9);
        VERIFY_NEAR(MomentUncertainty(0.012, bodyAt("needle", "needle", "half-step")).factor(), 1, 1e-9);
    }

    void whatChangesFastHangsOnTheTime()
    {
        using enum Measure;
        MomentUncertainty doubt;
        doubt.addChange(KneeLeadFlexion, 2, 0.3);
        QCOMPARE(doubt.ofTime(KneeRearFlexion), 0.0);
        VERIFY_NEAR(doubt.ofTime(KneeLeadFlexion), 1, 1e-9); // 2 deg in 0.3 s; known to 0.15 s
        doubt.addChange(KneeLeadFlexion, -2, -0.5);          // slower: the fastest counts
        VERIFY_NEAR(doubt.ofTime(KneeLeadFlexion), 1, 1e-9);
        doubt.addChange(KneeLeadFlexion, -6, -0.3);
        VERIFY_NEAR(doubt.ofTime(KneeLeadFlexion), 3, 1e-9);
        doubt.addChange(GazeHeading, 358, 0.3); // on the short way round
        VERIFY_NEAR(doubt.ofTime(GazeHeading), 1, 1e-9);
        doubt.addChange(StanceLength, NAN, 0.3);
        QCOMPARE(doubt.ofTime(StanceLength), 0.0);
    }

    /// In a rated value: what geometry and table say is wider by the factor, and the time comes besides.
    void bothWidenAValue()
    {
        MomentUncertainty doubt(0.1, bodyAt("push", "push", "arrive"));
        doubt.addChange(Measure::KneeLeadFlexion, 3, 0.3);
        AccuracyTable::Entry known;
        known.floor = 2;
        const auto u = [&](const MomentUncertainty& d) {
            return ratedValue(known, {Measure::KneeLeadFlexion, View::SideNear, true, 40, 4}, d).u;
        };
        VERIFY_NEAR(u({}), std::sqrt(8), 1e-9);
        VERIFY_NEAR(u(doubt), std::hypot(doubt.factor() * std::sqrt(8), 1.5), 1e-9);
    }

    /// In clips: where the body moves on at once after the key moment its values are less sure than in a
    /// frame whose time is what it is.
    void aMomentOnTheMoveIsLessSureThanItsFrame()
    {
        const Performance p = performForm("sparrow-tail");
        const ClipReading clip = readExact(exactTrack(p, from(90)), p);
        int wider = 0, narrower = 0;
        for (const MeasuredPhase& reading : clip.phases) {
            if (!reading.phase.matched) continue;
            const auto frame = clip.measureFrame(clip.track.nearest(reading.phase.time));
            const double likeness =
                MomentUncertainty(reading.phase.cost, clip.priorAt(reading.phase.time).points).factor();
            for (std::size_t m = 0; m < kMeasureCount; ++m) {
                const double alone = likeness * frame[m].u;
                if (!frame[m].seen() || !reading.values[m].seen() || alone == 0) continue;
                wider += reading.values[m].u > 1.05 * alone;
                narrower += reading.values[m].u < 0.999 * alone;
            }
        }
        QVERIFY2(wider > 20 && narrower == 0, qPrintable(QString("%1, %2").arg(wider).arg(narrower)));
    }
};

QTEST_APPLESS_MAIN(TestMomentUncertainty)
#include "test_moment_uncertainty.moc"
