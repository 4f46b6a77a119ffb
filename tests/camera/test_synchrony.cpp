#include "camera/synchrony.h"
#include "support/near.h"
#include <cmath>

using namespace jl;

namespace
{

/// A body whose hands and knees go up and down in a way that never repeats, seen from some side: the
/// picture's x depends on the side, y does not.
Track moving(double fps, double seconds, double later, double side)
{
    Track track;
    track.width = 1280;
    track.height = 720;
    track.framesPerSecond = fps;
    for (double t = 0; t < seconds; t += 1 / fps) {
        BodyFrame f;
        f.time = t;
        f.seen = true;
        const double s = t + later;
        for (std::size_t k = 0; k < kLandmarkCount; ++k) {
            const double phase = 0.7 * static_cast<double>(k);
            f.point[k] = {600 + side * 100 * std::sin(0.9 * s + phase),
                          200 + 10.0 * static_cast<double>(k) + 40 * std::sin(0.31 * s * s / 6 + phase) +
                              20 * std::sin(1.7 * s + 2 * phase)};
            f.visibility[k] = 1;
        }
        track.frames.push_back(f);
    }
    return track;
}

} // namespace

class TestSynchrony : public QObject
{
    Q_OBJECT

private slots:
    void offsetsAreFoundToAFractionOfAFrame_data()
    {
        QTest::addColumn<double>("offset");
        QTest::addColumn<double>("firstFps");
        QTest::addColumn<double>("fps");
        QTest::newRow("none") << 0.0 << 30.0 << 30.0;
        QTest::newRow("less than a frame") << 0.013 << 30.0 << 30.0;
        QTest::newRow("some frames") << 0.41 << 30.0 << 25.0;
        QTest::newRow("seconds") << 4.217 << 30.0 << 30.0;
        QTest::newRow("the other began first") << -2.72 << 30.0 << 24.0;
        QTest::newRow("a slow camera") << 1.05 << 30.0 << 10.0;
        QTest::newRow("two slow cameras, half a frame apart") << 0.55 << 10.0 << 10.0;
    }

    void offsetsAreFoundToAFractionOfAFrame()
    {
        QFETCH(double, offset);
        QFETCH(double, firstFps);
        QFETCH(double, fps);
        const Track first = moving(firstFps, 20, 0, 1), second = moving(fps, 20, offset, -0.6);
        const auto found = synchronise(first, second);
        QVERIFY(found);
        VERIFY_NEAR(found->offset, -offset, 0.015);
        QVERIFY(found->likeness > 0.9);
    }

    void otherMovementsAreNotAlike()
    {
        Track other = moving(30, 20, 60, 1);
        const auto found = synchronise(moving(30, 20, 0, 1), other);
        QVERIFY(!found || found->likeness < 0.8);
    }

    void gapsDoNoHarm()
    {
        Track second = moving(30, 20, 0.5, 0.3);
        for (std::size_t i = 100; i < 160; ++i)
            second.frames[i].seen = false;
        const auto found = synchronise(moving(30, 20, 0, 1), second);
        QVERIFY(found);
        VERIFY_NEAR(found->offset, -0.5, 0.02);
    }

    void tooLittleIsRefused()
    {
        QVERIFY(!synchronise(moving(30, 0.2, 0, 1), moving(30, 20, 0, 1)));
        QVERIFY(!synchronise(Track(), moving(30, 20, 0, 1)));
        QVERIFY(!synchronise(moving(30, 0.8, 0, 1), moving(30, 0.8, 0, 1)));
    }

    void framesBetweenFrames()
    {
        Track t = moving(10, 2, 0, 1);
        const BodyFrame half = frameAt(t, 0.55);
        VERIFY_NEAR(half.time, 0.55, 1e-9);
        QVERIFY((half.point[3] - 0.5 * (t.frames[5].point[3] + t.frames[6].point[3])).norm() < 1e-9);
        QCOMPARE(frameAt(t, -1).time, t.frames.front().time);
        QCOMPARE(frameAt(t, 99).time, t.frames.back().time);
        QVERIFY((frameAt(t, 0.7).point[5] - t.frames[7].point[5]).norm() < 1e-6);
        t.frames[6].seen = false;
        QVERIFY(!frameAt(t, 0.55).seen); // nobody knows where the body was on the way
    }
};

QTEST_APPLESS_MAIN(TestSynchrony)
#include "test_synchrony.moc"
