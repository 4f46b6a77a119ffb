#include "body/motion.h"
#include "camera/ray_distance.h"
#include "lab/network_noise.h"
#include "reading/pair_measurement.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/lab.h"
#include "support/near.h"

using namespace jl;

namespace
{

/// The track as a camera has it that was started some time later, whole steps of the loudness.
Track startedLater(Track track, double later)
{
    auto& heard = track.loudness.moments;
    heard.erase(heard.begin(),
                heard.begin() + std::min(std::ssize(heard), std::lround(later / LoudnessCourse::kStep)));
    std::erase_if(track.frames, [&](const BodyFrame& f) { return f.time < later; });
    for (BodyFrame& f : track.frames)
        f.time -= later;
    return track;
}

} // namespace

/// What two lines of sight that pass each other tell.
class TestRayDistance : public QObject
{
    Q_OBJECT

private slots:
    void linesPassEachOtherAtTheirDistance()
    {
        const Camera first = Camera::looking({0, 0, 1}, 0, 0, 4),
                     second = Camera::looking({0, 0, 1}, 90, 0, 3),
                     raised = Camera::looking({0, 0, 1.2}, 90, 0, 3),
                     beside = Camera::looking({1, 0, 1}, 0, 0, 4);
        const Eigen::Vector3d point{0.4, 0.3, 1.7};
        VERIFY_NEAR(rayDistance(first, first.project(point), second, second.project(point)), 0, 1e-9);
        VERIFY_NEAR(std::abs(rayDistance(first, first.centre, raised, raised.centre)), 0.2, 1e-9);
        QCOMPARE(rayDistance(first, first.centre, beside, beside.centre), 0.0); // parallel
    }

    void aLagIsFound_data()
    {
        QTest::addColumn<double>("lag");
        for (double lag : {0.0, 0.01, -0.037, 0.07})
            QTest::addRow("%g s", lag) << lag;
    }

    /// Perfect points and cameras, and an offset that is wrong.
    void aLagIsFound()
    {
        QFETCH(double, lag);
        const auto p = perform("teacher", 5);
        const ClipRequest side = from(90, 30), front = from(0, 24);
        const Track first = smoothed(exactTrack(p, side)), second = smoothed(exactTrack(p, front));
        const double found = lagFromRays({first, cameraFor(p, side)}, {second, cameraFor(p, front)}, -lag);
        VERIFY_NEAR(found, lag, 0.001);
    }

    void clipsThatHardlyOverlapTellNothing()
    {
        const auto p = perform("teacher", 5);
        const ClipRequest side = from(90, 15);
        const Track track = smoothed(exactTrack(p, side));
        const double length = track.frames.back().time - track.frames.front().time;
        QCOMPARE(lagFromRays({track, cameraFor(p, side)}, {track, cameraFor(p, side)}, length - 0.1), 0.0);
    }

    void theOffsetIsFound_data()
    {
        QTest::addColumn<QString>("form");
        QTest::addColumn<double>("azimuth");
        QTest::addColumn<bool>("sound");
        for (const char* form : {"sparrow-tail", "brush-knee", "cloud-line", "repulse-monkey"})
            for (double azimuth : {0.0, 45.0, 180.0})
                for (bool sound : {false, true})
                    QTest::addRow("%s, side and %g%s", form, azimuth, sound ? ", with sound" : "")
                        << QString(form) << azimuth << sound;
    }

    /// To 15 ms, with the networks' usual errors in both pictures and another frame rate, by the movement
    /// alone and together with what is heard from two places of the hall.
    void theOffsetIsFound()
    {
        QFETCH(QString, form);
        QFETCH(double, azimuth);
        QFETCH(bool, sound);
        const auto& data = lab();
        auto request = requestFor(form.toStdString());
        request.seed = 2;
        const auto p = performAs(request);
        const auto models = *data.models(request.form, "upright-broad", p.lead());
        PersonProfile profile;
        profile.height = p.body().height;
        constexpr double later = 1.23;
        const auto read = [&](double from, double fps, double begun, std::uint32_t seed) {
            ClipRequest clip = ::from(from, fps);
            clip.sound = sound;
            const Track exact = conventionalTrack(p, clip, data.tables.offsets, clipTimes(p, clip));
            Track seen = withNoise(exact, bodyPixels(p, clip), seed, *data.errors);
            seen.loudness = exactTrack(p, clip).loudness;
            auto reading = readClip(startedLater(seen, begun), models, profile, data.tables);
            if (!reading) qFatal("%s", reading.error().message().c_str());
            return *reading;
        };
        const auto pair = measureTogether(read(90, 30, 0, 11), read(azimuth, 24, later, 12), data.tables);
        QVERIFY2(pair, pair ? "" : pair.error().message().c_str());
        QCOMPARE(pair->heard, sound);
        VERIFY_NEAR(pair->measurer->cameras().offset, -later, 0.015);
    }
};

QTEST_APPLESS_MAIN(TestRayDistance)
#include "test_ray_distance.moc"
