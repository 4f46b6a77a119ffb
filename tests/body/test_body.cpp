#include "body/mass_model.h"
#include "body/savitzky_golay.h"
#include "body/track.h"
#include "support/near.h"

using namespace jl;

class TestBody : public QObject
{
    Q_OBJECT

private slots:
    void landmarksMirror()
    {
        using enum Landmark;
        QCOMPARE(mirrored(LeftKnee), RightKnee);
        QCOMPARE(mirrored(RightEyeOuter), LeftEyeOuter);
        QCOMPARE(mirrored(Nose), Nose);
        for (std::size_t i = 0; i < kLandmarkCount; ++i) {
            const auto l = static_cast<Landmark>(i);
            QCOMPARE(mirrored(mirrored(l)), l);
        }
        QCOMPARE(sided(LeftHeel, Side::Right), RightHeel);
    }

    void savitzkyGolayKeepsParabolasAndHalvesNoise()
    {
        // The published five-point smoothing weights are (-3, 12, 17, 12, -3) / 35.
        std::vector<double> impulse(11, 0.0);
        impulse[5] = 1;
        savitzkyGolay(impulse, 2);
        VERIFY_NEAR(impulse[5], 17.0 / 35, 1e-12);
        VERIFY_NEAR(impulse[4], 12.0 / 35, 1e-12);
        VERIFY_NEAR(impulse[3], -3.0 / 35, 1e-12);
        std::vector<double> parabola;
        for (int i = 0; i < 40; ++i)
            parabola.push_back(3 + 0.5 * i - 0.02 * i * i);
        auto smooth = parabola;
        savitzkyGolay(smooth, 5);
        for (int i = 5; i < 35; ++i)
            VERIFY_NEAR(smooth[i], parabola[i], 1e-9);
    }

    void massSharesAreDeLevas()
    {
        const auto weight = centreOfMassWeights(MassTable::Male);
        double sum = 0;
        for (double w : weight)
            sum += w;
        VERIFY_NEAR(sum, 1.0, 1e-12);
        // de Leva 1996, men: one shank and foot together weigh 0.0433 + 0.0137 of the body.
        const double lowerLeg = weight[index(Landmark::LeftAnkle)] + weight[index(Landmark::LeftHeel)] +
                                weight[index(Landmark::LeftToe)];
        VERIFY_NEAR(lowerLeg, 0.0433 * 0.4459 + 0.0137, 1e-3);
        std::array<Eigen::Vector2d, kLandmarkCount> same;
        same.fill({2, 3});
        VERIFY_NEAR(centreOfMass(same).x(), 2, 1e-12);
    }

    void shortGapsAreBridgedLongOnesStay()
    {
        Track track;
        track.framesPerSecond = 30;
        for (int i = 0; i < 90; ++i) {
            BodyFrame f;
            f.time = i / 30.0;
            f.seen = !(i >= 20 && i < 26) && !(i >= 50 && i < 75);
            // Whoever hides the body draws its points along before it is lost.
            if (f.seen) f.point.fill({10.0 * i, i > 47 && i < 78 ? 90.0 : 5.0});
            track.frames.push_back(f);
        }
        const Track out = smoothed(track);
        QVERIFY(out.frames[22].seen);
        VERIFY_NEAR(out.frames[22].at(Landmark::Nose).x(), 220, 0.5);
        QVERIFY(!out.frames[60].seen);
        for (const BodyFrame& f : out.frames)
            if (f.seen) VERIFY_NEAR(f.at(Landmark::Nose).y(), 5, 0.5);
        QVERIFY(out.frames[44].seen && out.frames[80].seen);
        QVERIFY(!track.frames[22].seen); // the track itself is never changed
        VERIFY_NEAR(track.seenShare(), 59.0 / 90, 1e-12);
        QCOMPARE(track.nearest(1.02), std::size_t(31));
    }
};

QTEST_APPLESS_MAIN(TestBody)
#include "test_body.moc"
