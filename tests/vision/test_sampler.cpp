#include "support/near.h"
#include "vision/sampler.h"

using namespace jl;

namespace
{

/// A frame of one colour with a bright square, in planar YUV.
struct MadeFrame {
    std::vector<std::uint8_t> y, u, v;
    Frame frame;

    MadeFrame(int width, int height, int turns, QPoint square, int size)
        : y(width * height, 60), u(width * height / 4, 128), v(width * height / 4, 128)
    {
        for (int j = 0; j < size; ++j)
            for (int i = 0; i < size; ++i)
                y[(square.y() + j) * width + square.x() + i] = 235;
        frame.width = width;
        frame.height = height;
        frame.quarterTurns = turns;
        frame.plane[0] = y.data();
        frame.plane[1] = u.data();
        frame.plane[2] = v.data();
        frame.stride[0] = width;
        frame.stride[1] = frame.stride[2] = width / 2;
    }
};

/// Brightness-weighted centre of the sampled picture.
Eigen::Vector2d brightest(const std::vector<float>& picture, int n)
{
    Eigen::Vector2d sum(0, 0);
    double weight = 0;
    for (int y = 0; y < n; ++y) {
        for (int x = 0; x < n; ++x) {
            const double w = std::max(0.f, picture[3 * (y * n + x)] - 0.6f);
            sum += w * Eigen::Vector2d(x + 0.5, y + 0.5);
            weight += w;
        }
    }
    return sum / weight;
}

} // namespace

class TestSampler : public QObject
{
    Q_OBJECT

private slots:
    void greyLevelsFollowTheRange()
    {
        MadeFrame made(64, 64, 0, {0, 0}, 1);
        std::vector<float> out(32 * 32 * 3);
        sampleRegion(made.frame, {{32, 32}, 20, 0}, 32, 1, 1 / 255.f, 0, out.data());
        VERIFY_NEAR(out[3 * (16 * 32 + 16)], (60 - 16) / 219.0, 1e-4);
        made.frame.fullRange = true;
        sampleRegion(made.frame, {{32, 32}, 20, 0}, 32, 1, 1 / 255.f, 0, out.data());
        VERIFY_NEAR(out[3 * (16 * 32 + 16)], 60 / 255.0, 1e-4);
    }

    void outsideIsBlack()
    {
        const MadeFrame made(64, 64, 0, {0, 0}, 1);
        std::vector<float> out(16 * 16 * 3, 9.f);
        sampleRegion(made.frame, {{500, 500}, 20, 0}, 16, 1, 1.f, 0, out.data());
        QCOMPARE(*std::max_element(out.begin(), out.end()), 0.f);
    }

    void turnedPicturesAreUpright_data()
    {
        QTest::addColumn<int>("turns");
        QTest::addColumn<QPointF>("upright"); // where the square's middle lies once the picture is upright
        // Stored 80 x 40 with a square of 4 at (60..64, 10..14).
        QTest::newRow("0") << 0 << QPointF(62, 12);
        QTest::newRow("90") << 1 << QPointF(40 - 12, 62);
        QTest::newRow("180") << 2 << QPointF(80 - 62, 40 - 12);
        QTest::newRow("270") << 3 << QPointF(12, 80 - 62);
    }

    void turnedPicturesAreUpright()
    {
        QFETCH(int, turns);
        QFETCH(QPointF, upright);
        const MadeFrame made(80, 40, turns, {60, 10}, 4);
        std::vector<float> out(80 * 80 * 3);
        sampleRegion(made.frame, {{40, 40}, 80, 0}, 80, 1, 1 / 255.f, 0, out.data());
        const Eigen::Vector2d at = brightest(out, 80);
        VERIFY_NEAR(at.x(), upright.x(), 0.3);
        VERIFY_NEAR(at.y(), upright.y(), 0.3);
    }

    void regionsTurnWithTheBody()
    {
        // A body lying to the right: hip at the middle, rim point to the right; the crop shows it upright.
        const Region region = Region::around({40, 40}, {72, 40});
        VERIFY_NEAR(region.size, 80, 1e-9);
        VERIFY_NEAR(region.turn, std::acos(0.0), 1e-9);
        const MadeFrame made(80, 80, 0, {68, 38}, 4);
        std::vector<float> out(80 * 80 * 3);
        sampleRegion(made.frame, region, 80, 1, 1 / 255.f, 0, out.data());
        const Eigen::Vector2d at = brightest(out, 80);
        VERIFY_NEAR(at.x(), 40, 0.5);
        VERIFY_NEAR(at.y(), 40 - 30, 0.5);
    }
};

QTEST_APPLESS_MAIN(TestSampler)
#include "test_sampler.moc"
