#include "base/angles.h"
#include "moment/unseen_lean.h"
#include "performer/truth.h"
#include "reading/clip_reading.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"
#include "support/stick_body.h"

using namespace jl;
using Eigen::Vector3d;

namespace
{

/// A body as a camera far away places it in the plane across its heading (0), with depths as expected.
BodyPoints placed(BodyPoints really, const BodyPoints& expected, double azimuth)
{
    const Vector3d sight = forwardOf(azimuth);
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        really[i] += sight * (expected[i].y() - really[i].y()) / sight.y();
    return really;
}

double toldFrom(double azimuth, const Vector3d& way, double lean)
{
    const BodyPoints expected = stickBody();
    const BodyPoints seen = placed(trunkOutOfPicture(expected, way, lean, 0), expected, azimuth);
    return likelyUnseenLean(seen, expected, 0, false, azimuth);
}

} // namespace

/// A trunk that leans where a camera before a corner of the stance cannot tell forward from aside.
class TestUnseenLean : public QObject
{
    Q_OBJECT

private slots:
    void leaningBackIsTakenForLeaningBack()
    {
        for (double azimuth : {35.0, -35.0, 45.0, 145.0})
            VERIFY_NEAR(toldFrom(azimuth, Vector3d::UnitY(), -15), -15, 5);
        QVERIFY(toldFrom(35, Vector3d::UnitY(), 15) > 10);
    }

    void whatIsSquareTellsNothing()
    {
        for (double azimuth : {0.0, 15.0, -15.0, 175.0})
            QCOMPARE(toldFrom(azimuth, Vector3d::UnitY(), -15), 0.0);
        QCOMPARE(unseenLeanSpread(0, false, 10), 8.0);
        QVERIFY(unseenLeanSpread(0, false, 40) < 5); // known better, not well
    }

    void fromTheSideLeaningForwardStaysThat()
    {
        const BodyPoints expected = stickBody(), seen = trunkOutOfPicture(expected, Vector3d::UnitY(), 12, 0);
        QVERIFY(std::abs(likelyUnseenLean(seen, expected, 0, true, 50)) < 4);
    }

    void aTrunkThatIsSeenShortLeansOrTurns()
    {
        const BodyPoints expected = stickBody();
        const Vector3d hips =
            0.5 * (expected[index(Landmark::LeftHip)] + expected[index(Landmark::RightHip)]);
        const auto seen = [&](double lean, double turn) {
            const Vector3d shorter(std::cos(turn * kRadPerDeg), 1, std::cos(lean * kRadPerDeg));
            BodyPoints flat = expected;
            for (std::size_t i = 0; i < index(Landmark::LeftHip); ++i)
                flat[i] = hips + shorter.cwiseProduct(flat[i] - hips);
            return foreshortened(flat, expected, Vector3d::UnitY());
        };
        QCOMPARE(seen(0, 0).lean, 0.0);
        QCOMPARE(seen(0, 0).turn, 0.0);
        QCOMPARE(seen(8, 15).lean, 0.0); // as people do
        QCOMPARE(seen(8, 15).turn, 0.0);
        QVERIFY(seen(25, 0).lean > 12 && seen(25, 0).lean < 25);
        QVERIFY(seen(0, 40).turn > 25 && seen(0, 40).turn < 40);
    }

    /// How far a hand reaches along the line of sight nobody sees: hands that hold a ball across it are as
    /// far apart as they look, hands that hold it along it may be otherwise.
    void handsApartAlongTheSightAreUncertain()
    {
        const auto apart = [](double azimuth) {
            const auto p = performAs(requestFor("push"));
            ClipRequest clip;
            clip.camera = {azimuth, 5, 4.3, 0};
            clip.framesPerSecond = 15;
            return readTrack(exactTrack(p, clip), {.form = "push", .height = p.body().height})
                .phases.back()
                .values[static_cast<std::size_t>(Measure::HandsApart)]
                .u;
        };
        QVERIFY2(apart(90) > 2 * apart(0), qPrintable(QString("%1 %2").arg(apart(90)).arg(apart(0))));
        QVERIFY(apart(90) > 0.08);
    }

    void handsOfWhoeverLeansBackAreFoundAtTheirHeight()
    {
        PerformanceRequest request = requestFor("push");
        request.faults = {{"lean-back", 15}};
        const auto p = performAs(request);
        ClipRequest clip;
        clip.camera = {42, 5, 4.3, 0};
        clip.framesPerSecond = 15;
        PersonProfile profile;
        profile.height = p.body().height;
        const auto reading = readClip(exactTrack(p, clip), *shipped().models("push", request.school), profile,
                                      MeasuringTables{});
        QVERIFY(reading);
        int seen = 0;
        for (std::size_t i = 0; i < reading->phases.size(); ++i) {
            const PerformedPhase& phase = p.phases()[i];
            if (phase.stance != StanceKind::Bow || !reading->phases[i].phase.matched) continue;
            const Value& v = reading->phases[i].values[static_cast<std::size_t>(Measure::HandLeadHeight)];
            if (!v.seen()) continue;
            ++seen;
            VERIFY_NEAR(
                v.value,
                trueMeasure(Measure::HandLeadHeight, p.figureAt(phase.time), phase.lead, phase.heading), 12);
        }
        QVERIFY(seen >= 3);
    }
};

QTEST_APPLESS_MAIN(TestUnseenLean)
#include "test_unseen_lean.moc"
