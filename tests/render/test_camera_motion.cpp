#include "media/decoder.h"
#include "render/camera_motion.h"
#include "support/near.h"
#include "support/shipped.h"
#include <QTemporaryDir>
#include <set>

using namespace jl;

namespace
{

RgbImage ramp(int width, int height)
{
    RgbImage image(width, height);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            image.row(y)[3 * x] = static_cast<std::uint8_t>(4 * x);
            image.row(y)[3 * x + 1] = static_cast<std::uint8_t>(4 * y);
            image.row(y)[3 * x + 2] = 77;
        }
    return image;
}

std::string film(const QTemporaryDir& dir, ClipRequest clip, const Performance& performance)
{
    const std::string file = dir.filePath("clip.mp4").toStdString();
    const auto done = renderClip(performance, clip, file);
    if (!done) qFatal("%s", done.error().message().c_str());
    return file;
}

ClipRequest small()
{
    ClipRequest clip;
    clip.width = 192;
    clip.height = 128;
    clip.framesPerSecond = 10;
    clip.noise = 0;
    return clip;
}

Performance standing()
{
    PerformanceRequest request;
    request.form = "stand";
    request.body = shipped().bodies.front();
    return *Performance::create(shipped().standards, request);
}

} // namespace

class TestCameraMotion : public QObject
{
    Q_OBJECT

private slots:
    /// Whoever stands off the middle is seen at an angle, as by a real lens, and not in a shifted picture.
    void aCameraTurnedAsideKeepsItsLens()
    {
        const auto p = standing();
        ClipRequest clip;
        clip.camera.aside = 0.3;
        const Camera camera = cameraFor(p, clip);
        QCOMPARE(camera.centre.x(), 0.5 * clip.width);
        const Eigen::Vector3d middle = p.figureAt(0).midHip;
        VERIFY_NEAR(camera.project(middle).x(), 0.8 * clip.width, 0.01 * clip.width);
        clip.camera.aside = 0;
        VERIFY_NEAR((cameraFor(p, clip).position - camera.position).norm(), 0, 1e-9);
    }

    void croppingMovesThePicture()
    {
        const RgbImage whole = ramp(40, 30);
        const RgbImage middle = croppedAt(whole, 5, {0, 0});
        QCOMPARE(middle.width, 30);
        QCOMPARE(middle.height, 20);
        QCOMPARE(int(middle.row(0)[0]), 20);
        QCOMPARE(int(croppedAt(whole, 5, {2, -3}).row(0)[0]), 28);
        QCOMPARE(int(croppedAt(whole, 5, {2, -3}).row(0)[1]), 8);
        QCOMPARE(int(croppedAt(whole, 5, {0.5, 0}).row(4)[3 * 7]), 50); // between two pixels
        QCOMPARE(int(croppedAt(whole, 5, {99, 0}).row(0)[0]), 40);      // no further than the margin
    }

    void shakingStaysWithinItsAmplitude()
    {
        double furthest = 0, fastest = 0;
        for (double t = 0; t < 30; t += 1 / 30.0) {
            furthest = std::max(furthest, shakeAt(t, 8, 5).cwiseAbs().maxCoeff());
            fastest = std::max(fastest, (shakeAt(t + 1 / 30.0, 8, 5) - shakeAt(t, 8, 5)).norm());
        }
        QVERIFY(furthest <= 8 && furthest > 4);
        QVERIFY(fastest < 3); // a hand trembles, it does not jump
        QVERIFY(shakeAt(3, 0, 5).isZero());
        QVERIFY((shakeAt(3, 8, 5) - shakeAt(3, 8, 6)).norm() > 0.1);
    }

    void aShutterGathersLight()
    {
        RgbImage dark(4, 4), bright(4, 4);
        std::fill(bright.data.begin(), bright.data.end(), std::uint8_t(200));
        QCOMPARE(int(meanOf({dark, bright}).data[5]), 100);
        QCOMPARE(int(meanOf({dark, dark, dark, bright}).data[5]), 50);
    }

    void frameTimesRise_data()
    {
        QTest::addColumn<double>("uneven");
        QTest::newRow("even") << 0.0;
        QTest::newRow("a little") << 0.3;
        QTest::newRow("very") << 1.0;
    }

    void frameTimesRise()
    {
        QFETCH(double, uneven);
        const auto times = frameTimes(20, 30, uneven, 9);
        QCOMPARE(times.front(), 0.0);
        std::set<int> intervals;
        for (std::size_t i = 1; i < times.size(); ++i) {
            QVERIFY(times[i] > times[i - 1]);
            intervals.insert(static_cast<int>(std::lround(1e5 * (times[i] - times[i - 1]))));
        }
        QCOMPARE(intervals.size() > 10, uneven > 0);
        QCOMPARE(times.size() < 601, uneven > 0); // some are missing, as phones drop them
        QVERIFY(times.size() > 560);
    }

    void phonesHeldUprightAreUprightAgain()
    {
        const QTemporaryDir dir;
        ClipRequest clip = small();
        clip.width = 128;
        clip.height = 192;
        const auto performance = standing();
        const auto upright = stillAt(film(dir, clip, performance), 0.5, 0);
        clip.quarterTurns = 1;
        const std::string file = film(dir, clip, performance);
        const auto info = probe(file);
        QVERIFY(info);
        QCOMPARE(info->quarterTurns, 1);
        QCOMPARE(info->width, 128); // as it is seen
        const auto turned = stillAt(file, 0.5, 0);
        QVERIFY(upright && turned);
        QCOMPARE(turned->width, upright->width);
        double difference = 0;
        for (std::size_t i = 0; i < upright->data.size(); ++i)
            difference += std::abs(int(upright->data[i]) - int(turned->data[i]));
        QVERIFY(difference / static_cast<double>(upright->data.size()) < 4); // coding only
    }

    void unevenClipsKeepTheirTimes()
    {
        const QTemporaryDir dir;
        ClipRequest clip = small();
        clip.uneven = 0.8;
        const auto performance = standing();
        const std::string file = film(dir, clip, performance);
        const Track truth = exactTrack(performance, clip);
        auto decoder = Decoder::open(file);
        QVERIFY(decoder);
        for (const BodyFrame& f : truth.frames) {
            const auto frame = decoder->next();
            QVERIFY(frame && *frame);
            VERIFY_NEAR((*frame)->time, f.time, 1e-3);
        }
    }

    void aShakenCameraMovesTheTruthWithIt()
    {
        ClipRequest clip = small(), shaken = small();
        shaken.shake = 6;
        const auto performance = standing();
        const Track still = exactTrack(performance, clip), moved = exactTrack(performance, shaken);
        double most = 0;
        for (std::size_t i = 0; i < still.frames.size(); ++i)
            most = std::max(most,
                            (still.frames[i].at(Landmark::Nose) - moved.frames[i].at(Landmark::Nose)).norm());
        QVERIFY(most > 1 && most < 9);
    }
};

QTEST_APPLESS_MAIN(TestCameraMotion)
#include "test_camera_motion.moc"
