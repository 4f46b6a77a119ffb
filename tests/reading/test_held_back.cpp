#include "reading/clip_reading.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"
#include <random>

using namespace jl;

namespace
{

Track nearFrom(const Performance& p, double azimuth)
{
    ClipRequest clip;
    clip.camera = {azimuth, 5, 4.3, 0};
    clip.framesPerSecond = 15;
    return exactTrack(p, clip);
}

int seenIn(const MeasuredPhase& phase)
{
    return static_cast<int>(
        std::count_if(phase.values.begin(), phase.values.end(), [](const Value& v) { return v.seen(); }));
}

} // namespace

/// What is not given although the view would allow it.
class TestHeldBack : public QObject
{
    Q_OBJECT

private slots:
    void whatIsSteadyIsGiven()
    {
        const auto p = perform("teacher", 9);
        for (const MeasuredPhase& phase : readExact(nearFrom(p, 90), p).phases)
            QVERIFY2(seenIn(phase) > 15, phase.phase.phase.c_str());
    }

    void whereTheBodyIsThrownAboutNothingIsGiven()
    {
        const auto p = perform("teacher", 9);
        const double arrival = phaseOf(p, "press", "arrive").time;
        Track track = nearFrom(p, 90);
        std::mt19937 random(1);
        std::normal_distribution<double> off(0, 60);
        for (BodyFrame& f : track.frames) {
            if (std::abs(f.time - arrival) > 0.8) continue;
            for (auto& point : f.point)
                point += Eigen::Vector2d(off(random), off(random));
        }
        const ClipReading clip = readExact(track, p);
        int given = 0;
        for (std::size_t i = 0; i < clip.phases.size(); ++i) {
            const MeasuredPhase& phase = clip.phases[i];
            if (std::abs(phase.phase.time - arrival) < 0.6)
                QCOMPARE(seenIn(phase), 0);
            else
                given += seenIn(phase) > 0;
        }
        QVERIFY(given >= static_cast<int>(clip.phases.size()) - 3);
    }

    void armsThatTheNetworkDoesNotSeeAreNotGiven()
    {
        const auto p = perform("teacher", 9);
        Track track = nearFrom(p, 90);
        const Side lead = p.lead();
        for (BodyFrame& f : track.frames)
            f.visibility[index(sided(Landmark::LeftWrist, lead))] = 0.2;
        const ClipReading clip = readExact(track, p);
        const ClipReading whole = readExact(nearFrom(p, 90), p);
        for (std::size_t i = 0; i < clip.phases.size(); ++i) {
            const auto seen = [&](const ClipReading& c, Measure m) {
                return c.phases[i].values[static_cast<std::size_t>(m)].seen();
            };
            QVERIFY(!seen(clip, Measure::HandLeadHeight));
            QVERIFY(!seen(clip, Measure::ElbowLeadBelow));
            QVERIFY(!seen(clip, Measure::HandsApart));
            QVERIFY(seen(clip, Measure::HandRearHeight));
            QVERIFY(seen(clip, Measure::PelvisHeight)); // the rest does not stand on that arm
            QVERIFY(seen(whole, Measure::HandLeadHeight));
        }
    }
};

QTEST_APPLESS_MAIN(TestHeldBack)
#include "test_held_back.moc"
