#include "body/motion.h"
#include "support/near.h"
#include <random>

using namespace jl;

namespace
{

/// A body that glides to the right between holds: it stands still during [1, 2], [3.5, 4.5] and after 6 s.
double placeAt(double t)
{
    const auto glide = [](double share) { return share * share * (3 - 2 * share); };
    const auto during = [&](double from, double to) {
        return glide(std::clamp((t - from) / (to - from), 0.0, 1.0));
    };
    return 200 * (during(0, 1) + during(2, 3.5) + during(4.5, 6));
}

Track glidingTrack(double fps, double noise = 0)
{
    std::mt19937 random(4);
    std::normal_distribution<double> some(0, 1);
    Track track;
    track.framesPerSecond = fps;
    track.width = 1280;
    track.height = 720;
    for (int i = 0; i < 7 * fps; ++i) {
        BodyFrame f;
        f.time = i / fps;
        f.seen = true;
        f.score = 1;
        for (std::size_t k = 0; k < kLandmarkCount; ++k)
            f.point[k] = {300 + placeAt(f.time) + noise * some(random),
                          100 + 500.0 * static_cast<double>(k) / kLandmarkCount + noise * some(random)};
        track.frames.push_back(f);
    }
    return track;
}

bool someNear(const std::vector<double>& times, double from, double to)
{
    return std::any_of(times.begin(), times.end(), [&](double t) { return t >= from && t <= to; });
}

} // namespace

class TestMotion : public QObject
{
    Q_OBJECT

private slots:
    void holdsAreStill()
    {
        const Track track = glidingTrack(30);
        const double size = standingSize(track);
        QVERIFY(motionAt(track, size, 1.5) < 1e-6);
        QVERIFY(motionAt(track, size, 2.75) > 0.01);
        QVERIFY(motionAt(track, size, 0.5) > 100 * motionAt(track, size, 1.5));
    }

    /// A move that is the same backwards moves as much as long before its middle as after it, whatever the
    /// rate: half a frame off would show at few frames a second.
    void motionIsThatOfItsMoment()
    {
        for (double fps : {10.0, 30.0}) {
            const Track track = glidingTrack(fps);
            const double size = standingSize(track), middle = 2.75;
            for (double away : {0.35, 0.45, 0.55}) {
                const double before = motionAt(track, size, middle - away),
                             after = motionAt(track, size, middle + away);
                QVERIFY2(std::abs(after / before - 1) < 0.02,
                         qPrintable(QString("%1 %2").arg(fps).arg(away)));
            }
        }
    }

    void stillMomentsLieInTheHolds_data()
    {
        QTest::addColumn<double>("fps");
        QTest::addColumn<double>("noise");
        QTest::newRow("30") << 30.0 << 0.0;
        QTest::newRow("15") << 15.0 << 0.0;
        QTest::newRow("60, with jitter") << 60.0 << 0.5;
    }

    void stillMomentsLieInTheHolds()
    {
        QFETCH(double, fps);
        QFETCH(double, noise);
        const auto moments = stillMoments(smoothed(glidingTrack(fps, noise)));
        QVERIFY(someNear(moments, 0.9, 2.1));
        QVERIFY(someNear(moments, 3.4, 4.6));
        QVERIFY(someNear(moments, 5.9, 7.1));
        QVERIFY(!someNear(moments, 0.3, 0.7));
        QVERIFY(!someNear(moments, 2.4, 3.1));
        for (std::size_t i = 1; i < moments.size(); ++i)
            QVERIFY(moments[i] - moments[i - 1] >= 0.4 - 1e-9);
    }

    void aLegAstrayHidesNoHold()
    {
        // A network that throws one leg about while the body stands.
        Track track = glidingTrack(15);
        for (std::size_t i = 15; i < 30; ++i)
            for (Landmark l : {Landmark::LeftKnee, Landmark::LeftToe})
                track.frames[i].point[index(l)].x() += i % 2 ? 80 : 0;
        QVERIFY(someNear(stillMoments(track), 1.0, 2.0));
    }

    void unseenBodiesDoNotMove()
    {
        Track track = glidingTrack(15);
        for (BodyFrame& f : track.frames)
            f.seen = false;
        QVERIFY(stillMoments(track).empty());
        QVERIFY(motionAt(track, 1, 2) > 1e8);
        QVERIFY(stillMoments(Track{}).empty());
    }

    void framesInBetweenAreMixed()
    {
        const Track track = glidingTrack(15);
        BodyFrame a = track.frames[15], b = track.frames[45];
        a.visibility.fill(0.9);
        b.visibility.fill(0.4);
        a.time = 1;
        b.time = 2;
        const BodyFrame quarter = between(a, b, 1.25);
        const Eigen::Vector2d wanted = 0.75 * a.at(Landmark::Nose) + 0.25 * b.at(Landmark::Nose);
        QVERIFY((quarter.at(Landmark::Nose) - wanted).norm() < 1e-9);
        VERIFY_NEAR(quarter.visibility[0], 0.4, 1e-7); // as certain as the less certain one
        QVERIFY(quarter.seen);
    }
};

QTEST_APPLESS_MAIN(TestMotion)
#include "test_motion.moc"
