#include "render/skin_mesh.h"
#include "support/forms.h"
#include "support/near.h"

using namespace jl;

namespace
{

/// How far the skin of a hand reaches from its wrist in a pose with the given hand.
double reachOf(double curl, double drop)
{
    const BodyShape body = shipped().bodies.front();
    static const SkinMesh mesh = SkinMesh::build(body);
    Pose pose;
    pose.foot[Side::Left].heel = {-0.15, 0};
    pose.foot[Side::Right].heel = {0.15, 0};
    pose.hand[Side::Right].place = {0.45, 0.25, 90};
    pose.hand[Side::Right].curl = curl;
    pose.hand[Side::Right].drop = drop;
    const Figure figure = poseFigure(body, pose);
    std::vector<Eigen::Vector3f> positions, normals;
    mesh.bend(figure, positions, normals);
    const Eigen::Vector3d wrist = figure.at(Landmark::RightWrist),
                          arm = (wrist - figure.at(Landmark::RightElbow)).normalized();
    double farthest = 0;
    for (const auto& p : positions) {
        const Eigen::Vector3d d = p.cast<double>() - wrist;
        if (d.norm() < 0.25 && d.dot(arm) > 0) farthest = std::max(farthest, d.norm());
    }
    return farthest;
}

} // namespace

/// The shape of hands in the rendered skin.
class TestHands : public QObject
{
    Q_OBJECT

private slots:
    void aFistIsHalfAsLongAsAHand()
    {
        const double open = reachOf(0, 0), fist = reachOf(150, 0);
        QVERIFY2(open > 0.16 && open < 0.22, qPrintable(QString::number(open)));
        QVERIFY2(fist < 0.75 * open, qPrintable(QString::number(fist)));
    }

    void curlingIsGradual()
    {
        double last = reachOf(0, 0);
        for (double curl : {40.0, 80.0, 120.0, 150.0}) {
            const double reach = reachOf(curl, 0);
            QVERIFY(reach < last + 0.003);
            last = reach;
        }
    }

    void fingersBelongToTheirBone()
    {
        const BodyShape body = shipped().bodies.front();
        Pose pose;
        pose.foot[Side::Right].heel = {0.3, 0};
        pose.hand[Side::Left].curl = 90;
        const Figure f = poseFigure(body, pose);
        const BoneFrame &hand = f.of(Bone::LeftHand), &fingers = f.of(Bone::LeftFingers);
        // At a right angle the fingers point out of the palm, from the knuckles on.
        VERIFY_NEAR(fingers.rotation.col(1).dot(hand.rotation.col(2)), 1, 1e-9);
        VERIFY_NEAR((fingers.origin - hand.origin).norm(), 0.085 * body.scale(), 1e-9);
        VERIFY_NEAR(f.of(Bone::RightFingers).rotation.col(1).dot(f.of(Bone::RightHand).rotation.col(1)), 1,
                    1e-9);
    }
};

QTEST_APPLESS_MAIN(TestHands)
#include "test_hands.moc"
