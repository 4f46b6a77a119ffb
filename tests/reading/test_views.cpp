#include "base/angles.h"
#include "performer/truth.h"
#include "reading/clip_reading.h"
#include "support/near.h"
#include "support/readings.h"
#include "support/shipped.h"

using namespace jl;

namespace
{

/// Exact points, so that what is wrong is the method's own doing.
ClipReading readFrom(const Performance& performance, double azimuth, double elevation = 5,
                     double distance = 4.3)
{
    ClipRequest clip;
    clip.camera = {azimuth, elevation, distance, 0};
    clip.framesPerSecond = 15;
    return readExact(exactTrack(performance, clip), performance);
}

struct Tally {
    int seen = 0, all = 0, within = 0;
    double worst = 0;
};

Tally tallyOf(const ClipReading& reading, const Performance& performance, Measure m)
{
    Tally t;
    for (std::size_t i = 0; i < reading.phases.size(); ++i) {
        const PerformedPhase& phase = performance.phases()[i];
        if (phase.stance != StanceKind::Bow || !reading.phases[i].phase.matched) continue;
        const Value& v = reading.phases[i].values[static_cast<std::size_t>(m)];
        ++t.all;
        if (!v.seen()) continue;
        ++t.seen;
        const double error =
            std::abs(v.value - trueMeasure(m, performance.figureAt(phase.time), phase.lead, phase.heading));
        t.within += error <= 3 * v.u;
        t.worst = std::max(t.worst, error);
    }
    return t;
}

} // namespace

/// The same performance from many cameras: what each can see, it sees rightly; the rest it does not claim.
class TestViews : public QObject
{
    Q_OBJECT

private slots:
    void sideCameras_data()
    {
        QTest::addColumn<double>("azimuth");
        QTest::addColumn<double>("elevation");
        QTest::addColumn<double>("distance");
        for (double azimuth : {77.0, 83.0, 90.0, 97.0, 103.0, -76.0, -90.0, -100.0})
            QTest::addRow("%g deg", azimuth) << azimuth << 5.0 << 4.3;
        QTest::newRow("from above") << 90.0 << 12.0 << 4.3;
        QTest::newRow("near") << 90.0 << 4.0 << 3.3;
        QTest::newRow("far") << 90.0 << 3.0 << 6.5;
    }

    void sideCameras()
    {
        QFETCH(double, azimuth);
        QFETCH(double, elevation);
        QFETCH(double, distance);
        const auto p = perform("sturdy", 41, Side::Right, {{"lean-forward", 6}});
        const ClipReading reading = readFrom(p, azimuth, elevation, distance);
        for (Measure m : {Measure::KneeLeadFlexion, Measure::KneeLeadPastToe, Measure::StanceLength,
                          Measure::TrunkLeanForward, Measure::WeightLead}) {
            const Tally t = tallyOf(reading, p, m);
            QVERIFY(t.all > 0);
            QCOMPARE(t.seen, t.all);
            QVERIFY2(t.within == t.seen,
                     qPrintable(
                         QString("%1 off by %2").arg(std::string(measureInfo(m).key).c_str()).arg(t.worst)));
        }
        for (Measure m : {Measure::KneeLeadTrack, Measure::StanceWidth, Measure::TrunkLeanSide})
            QCOMPARE(tallyOf(reading, p, m).seen, 0);
    }

    void frontCameras_data()
    {
        QTest::addColumn<double>("azimuth");
        for (double azimuth : {-5.0, -2.0, 0.0, 3.0, 5.0})
            QTest::addRow("%g deg", azimuth) << azimuth;
    }

    void frontCameras()
    {
        QFETCH(double, azimuth);
        const auto p = perform("elder", 42, Side::Left, {{"one-line", 0.06}});
        const ClipReading reading = readFrom(p, azimuth);
        for (Measure m : {Measure::KneeLeadTrack, Measure::StanceWidth, Measure::TrunkLeanSide}) {
            const Tally t = tallyOf(reading, p, m);
            QCOMPARE(t.seen, t.all);
            QVERIFY2(t.within == t.seen,
                     qPrintable(
                         QString("%1 off by %2").arg(std::string(measureInfo(m).key).c_str()).arg(t.worst)));
        }
        for (Measure m : {Measure::KneeLeadFlexion, Measure::KneeLeadPastToe, Measure::StanceLength,
                          Measure::TrunkLeanForward})
            QCOMPARE(tallyOf(reading, p, m).seen, 0);
    }

    void cornerCamerasClaimLittle()
    {
        const auto p = perform("tall", 43);
        for (double azimuth : {45.0, -45.0, 135.0}) {
            const ClipReading reading = readFrom(p, azimuth);
            for (Measure m : {Measure::KneeLeadFlexion, Measure::KneeLeadPastToe, Measure::KneeLeadTrack,
                              Measure::StanceLength, Measure::StanceWidth, Measure::TrunkLeanForward,
                              Measure::TrunkLeanSide})
                QCOMPARE(tallyOf(reading, p, m).seen, 0);
        }
    }

    void aLensThatTheFileTellsIsTaken()
    {
        const auto p = perform();
        ClipRequest clip;
        clip.camera = {90, 5, 5.5, 0};
        clip.camera.lens = 1.3;
        clip.framesPerSecond = 15;
        Track track = exactTrack(p, clip);
        const double focal = 1.3 * kUsualFocalShare * track.width;
        const auto models = shipped().models("sparrow-tail", "upright-broad", p.lead());
        PersonProfile profile;
        profile.height = p.body().height;
        const auto focalOf = [&](const CalibrationHints& hints) {
            const auto reading = readClip(track, *models, profile, MeasuringTables{}, {}, hints);
            return reading ? reading->camera.camera.focal / focal : 0;
        };
        VERIFY_NEAR(focalOf({}), 1 / 1.3, 0.01); // as of a usual lens
        track.fieldOfView = 2 * std::atan(0.5 * track.width / focal) * kDegPerRad;
        VERIFY_NEAR(focalOf({}), 1, 0.01);
        CalibrationHints told;
        told.fieldOfView = 50;
        VERIFY_NEAR(focalOf(told) * focal, 0.5 * track.width / std::tan(25 * kRadPerDeg), 1);
        track.fieldOfView = 3; // no lens that films a person
        VERIFY_NEAR(focalOf({}), 1 / 1.3, 0.01);
    }

    void aCameraHeldAskewIsReadByUprights()
    {
        const auto p = perform();
        ClipRequest clip;
        clip.camera = {90, 5, 5.5, 5}; // 5 degrees askew
        clip.framesPerSecond = 15;
        Track track = exactTrack(p, clip);
        const auto models = shipped().models("sparrow-tail", "upright-broad", p.lead());
        PersonProfile profile;
        profile.height = p.body().height;
        const auto worstLean = [&] {
            const auto reading = readClip(track, *models, profile, MeasuringTables{});
            return reading ? tallyOf(*reading, p, Measure::TrunkLeanForward).worst : 90;
        };
        const double alone = worstLean();
        track.roll = CameraRoll{4.8, 0.3};
        const double told = worstLean();
        QVERIFY2(told < 1 && told < 0.6 * alone, qPrintable(QString("%1, %2").arg(alone).arg(told)));
        track.roll = CameraRoll{-1.6, 0.3}; // hardly more askew than cameras are
        QCOMPARE(worstLean(), alone);
    }

    void everyBodyIsReadAlike_data()
    {
        QTest::addColumn<QString>("body");
        for (const BodyShape& b : shipped().bodies)
            QTest::newRow(b.id.c_str()) << QString::fromStdString(b.id);
    }

    void everyBodyIsReadAlike()
    {
        QFETCH(QString, body);
        const auto p = perform(qPrintable(body), 44);
        const ClipReading reading = readFrom(p, 90);
        for (Measure m : {Measure::KneeLeadPastToe, Measure::StanceLength, Measure::TrunkLeanForward}) {
            const Tally t = tallyOf(reading, p, m);
            QVERIFY2(t.within == t.seen,
                     qPrintable(
                         QString("%1 off by %2").arg(std::string(measureInfo(m).key).c_str()).arg(t.worst)));
        }
    }
};

QTEST_APPLESS_MAIN(TestViews)
#include "test_views.moc"
