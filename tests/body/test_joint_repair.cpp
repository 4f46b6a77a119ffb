#include "body/joint_repair.h"
#include "body/motion.h"
#include "support/near.h"

using namespace jl;

namespace
{

/// A body that stands for four seconds; its left knee is read thirty pixels off between 1.8 and 2.2 s.
Track standing(double framesPerSecond = 20)
{
    Track t;
    t.width = 1280;
    t.height = 720;
    t.framesPerSecond = framesPerSecond;
    for (int i = 0; i < 4 * framesPerSecond; ++i) {
        BodyFrame f;
        f.time = i / framesPerSecond;
        f.seen = true;
        f.visibility.fill(0.6);
        for (std::size_t k = 0; k < kLandmarkCount; ++k)
            f.point[k] = {600 + 2.0 * static_cast<double>(k), 100 + 15.0 * static_cast<double>(k)};
        if (std::abs(f.time - 2) < 0.21) f.point[index(Landmark::LeftKnee)].x() += 30;
        t.frames.push_back(f);
    }
    return t;
}

Eigen::Vector2d knee(const Track& t, double time)
{
    return t.frames[t.nearest(time)].at(Landmark::LeftKnee);
}

} // namespace

class TestJointRepair : public QObject
{
    Q_OBJECT

private slots:
    void aRepairPullsItsNeighboursAlong()
    {
        const Track wrong = standing();
        const Eigen::Vector2d right = knee(wrong, 0);
        const JointRepair repair{Landmark::LeftKnee, 2, right};
        const Track good = withRepairs(wrong, std::span(&repair, 1));
        VERIFY_NEAR((knee(good, 2) - right).norm(), 0, 1); // softly: within a pixel of thirty
        QVERIFY((knee(good, 2.15) - right).norm() < 8);
        VERIFY_NEAR((knee(good, 0.5) - knee(wrong, 0.5)).norm(), 0, 1e-9);
        VERIFY_NEAR((knee(good, 3.5) - knee(wrong, 3.5)).norm(), 0, 1e-9);
        // Nothing else moves, and the extracted track stays as it was.
        for (std::size_t i = 0; i < good.frames.size(); ++i)
            QCOMPARE(good.frames[i].at(Landmark::RightKnee), wrong.frames[i].at(Landmark::RightKnee));
        QVERIFY((knee(wrong, 2) - right).norm() > 29);
    }

    void uncertaintyFollows()
    {
        const Track wrong = standing();
        const JointRepair repair{Landmark::LeftKnee, 2, knee(wrong, 0)};
        const Track good = withRepairs(wrong, std::span(&repair, 1));
        const auto placed = [&](double t) {
            return good.frames[good.nearest(t)].placed[index(Landmark::LeftKnee)];
        };
        const double hand = 0.010 * standingSize(wrong);
        VERIFY_NEAR(placed(2), hand, 0.5);
        QVERIFY(placed(2.3) > 1.3 * placed(2)); // half of the displacement is gone: it may still be wrong
        QCOMPARE(placed(0.5), 0.0);
        QCOMPARE(good.frames[good.nearest(2)].visibility[index(Landmark::LeftKnee)], 1.0F);
        QCOMPARE(good.frames[good.nearest(2)].placed[index(Landmark::RightKnee)], 0.0F);
    }

    void twoRepairsHoldBoth()
    {
        const Track wrong = standing();
        const Eigen::Vector2d base = knee(wrong, 0);
        const std::array repairs{JointRepair{Landmark::LeftKnee, 1.9, base},
                                 JointRepair{Landmark::LeftKnee, 2.1, base + Eigen::Vector2d(4, 0)},
                                 JointRepair{Landmark::LeftToe, 2, {500, 600}}};
        const Track good = withRepairs(wrong, repairs);
        VERIFY_NEAR((knee(good, 1.9) - base).norm(), 0, 2);
        VERIFY_NEAR((knee(good, 2.1) - base).norm(), 4, 2);
        VERIFY_NEAR((good.frames[good.nearest(2)].at(Landmark::LeftToe) - Eigen::Vector2d(500, 600)).norm(),
                    0, 4); // softly: two percent of a long way
    }

    void whatCannotHoldIsPassedOver()
    {
        Track track = standing();
        const JointRepair late{Landmark::LeftKnee, 9, {0, 0}};
        QCOMPARE(knee(withRepairs(track, std::span(&late, 1)), 3.9), knee(track, 3.9));
        for (BodyFrame& f : track.frames)
            f.seen = std::abs(f.time - 2) > 0.5;
        const JointRepair unseen{Landmark::LeftKnee, 2, {0, 0}};
        QCOMPARE(knee(withRepairs(track, std::span(&unseen, 1)), 2), knee(track, 2));
        QVERIFY(withRepairs(Track{}, std::span(&late, 1)).frames.empty());
        const std::array all{late, JointRepair{Landmark::LeftKnee, 1, {0, 0}}, unseen};
        QCOMPARE(
            repairsPassedOver(track, all),
            std::string("the repair of left_knee at 9.00 s was left out: the clip does not show that time\n"
                        "the repair of left_knee at 2.00 s was left out: no body is found there"));
        QCOMPARE(repairsPassedOver(track, std::span(&all[1], 1)), std::string());
        QCOMPARE(knee(withRepairs(track, {}), 1), knee(track, 1));
    }
};

QTEST_APPLESS_MAIN(TestJointRepair)
#include "test_joint_repair.moc"
