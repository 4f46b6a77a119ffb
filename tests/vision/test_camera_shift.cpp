#include "media/decoder.h"
#include "render/camera_motion.h"
#include "render/simulated_clip.h"
#include "support/forms.h"
#include "support/grey_picture.h"
#include "support/near.h"
#include "vision/camera_shift.h"
#include <QTemporaryDir>

using namespace jl;

namespace
{

/// A picture of soft spots, seen nearer or further to one side.
struct Painted : GreyPicture {
    static constexpr int kWidth = 640, kHeight = 360;

    Painted(double scale, Eigen::Vector2d shift)
        : GreyPicture(kWidth, kHeight, [&](int x, int y) {
              const double u = (x - shift.x() - kWidth / 2) / scale,
                           v = (y - shift.y() - kHeight / 2) / scale;
              return 120 + 50 * std::sin(u / 19) * std::cos(v / 15) + 40 * std::sin((u + 2 * v) / 37);
          })
    {
    }
};

} // namespace

/// The background of rendered clips, whose shake is known, against what is read from the coded video.
class TestCameraShift : public QObject
{
    Q_OBJECT

    QTemporaryDir m_folder;

    struct Reading {
        int told = 0, pictures = 0;
        double worst = 0; ///< pixels off the true shift
        double most = 0;  ///< the largest true shift, pixels
        bool canTell = false;
    };

    Reading readingOf(double shake, int quarterTurns, const char* hall)
    {
        const Performance p = performForm("push", Side::Right, 3);
        ClipRequest clip;
        clip.camera = *cameraPlace("side", 3);
        clip.width = quarterTurns % 2 ? 360 : 640;
        clip.height = quarterTurns % 2 ? 640 : 360;
        clip.framesPerSecond = 8;
        clip.shake = shake;
        clip.quarterTurns = quarterTurns;
        clip.hall = hall;
        clip.seed = 5;
        const std::string file = m_folder.filePath("shaken.mp4").toStdString();
        if (!renderClip(p, clip, file)) qFatal("cannot render");
        const Track truth = exactTrack(p, clip);
        auto decoder = Decoder::open(file);
        auto first = decoder->next();
        CameraShift camera(**first, truth.frames.front());
        Reading r;
        r.canTell = camera.canTell();
        const Eigen::Vector2d start = shakeAt(0, shake, clip.seed);
        for (std::size_t i = 1; i < truth.frames.size(); ++i) {
            auto frame = decoder->next();
            if (!frame || !*frame) break;
            ++r.pictures;
            const Eigen::Vector2d real = start - shakeAt(truth.frames[i].time, shake, clip.seed);
            r.most = std::max(r.most, real.norm());
            const auto shift = camera.of(**frame, truth.frames[i]);
            if (!shift) continue;
            ++r.told;
            r.worst = std::max(r.worst, (*shift - real).norm());
        }
        return r;
    }

private slots:
    void aShakenCameraIsFollowed_data()
    {
        QTest::addColumn<int>("turns");
        QTest::newRow("lying") << 0;
        QTest::newRow("upright phone") << 1;
    }

    void aShakenCameraIsFollowed()
    {
        QFETCH(int, turns);
        const Reading r = readingOf(7, turns, "evening");
        QVERIFY(r.canTell);
        QVERIFY2(r.told >= 0.95 * r.pictures, qPrintable(QString("%1 of %2").arg(r.told).arg(r.pictures)));
        QVERIFY2(r.most > 6, qPrintable(QString::number(r.most)));
        QVERIFY2(r.worst < 0.8, qPrintable(QString::number(r.worst)));
    }

    void aStandingCameraStands()
    {
        const Reading r = readingOf(0, 0, "evening");
        QVERIFY(r.told >= 0.95 * r.pictures);
        QVERIFY2(r.worst < 0.4, qPrintable(QString::number(r.worst)));
    }

    void aZoomIsNoShift()
    {
        const auto first = Painted(1, {0, 0}), moved = Painted(1, {6, -3.5}), nearer = Painted(1.06, {0, 0});
        CameraShift camera(first.frame, BodyFrame{});
        QVERIFY(camera.canTell());
        const auto shift = camera.of(moved.frame, BodyFrame{});
        QVERIFY(shift);
        VERIFY_NEAR(shift->x(), 6, 0.3);
        VERIFY_NEAR(shift->y(), -3.5, 0.3);
        QVERIFY(!camera.of(nearer.frame, BodyFrame{}));
    }

    void nothingToHoldOnToTellsNothing()
    {
        std::vector<std::uint8_t> grey(640 * 360, 120), colour(320 * 180, 128);
        Frame frame;
        frame.width = 640;
        frame.height = 360;
        frame.plane[0] = grey.data();
        frame.plane[1] = frame.plane[2] = colour.data();
        frame.stride[0] = 640;
        frame.stride[1] = frame.stride[2] = 320;
        CameraShift camera(frame, BodyFrame{});
        QVERIFY(!camera.canTell());
        QVERIFY(!camera.of(frame, BodyFrame{}));
    }

    void aSteadiedTrackIsDrawnWhereItWasFilmed()
    {
        Track track;
        track.frames.resize(1);
        track.frames[0].seen = true;
        track.frames[0].point[3] = {100, 50};
        track.frames[0].cameraShift = {4, -2};
        const Track still = steadied(track);
        QCOMPARE(still.frames[0].point[3].x(), 96.0);
        QCOMPARE(still.frames[0].point[3].y(), 52.0);
        QCOMPARE(asFilmed(still.frames[0]).point[3], track.frames[0].point[3]);
    }
};

QTEST_APPLESS_MAIN(TestCameraShift)
#include "test_camera_shift.moc"
