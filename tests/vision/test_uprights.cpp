#include "base/angles.h"
#include "camera/camera.h"
#include "support/grey_picture.h"
#include "support/near.h"
#include "vision/uprights.h"
#include <QtTest>

using namespace jl;
using Eigen::Vector3d;

namespace
{

/// A wall four metres behind the middle of the room, with bright stripes from the floor up: upright ones, or
/// such that lean in the room as a ladder does.
struct PaintedWall : GreyPicture {
    static constexpr int kWidth = 1280, kHeight = 720;

    PaintedWall(const Camera& camera, const std::vector<double>& stripes, double leanDeg = 0)
        : GreyPicture(kWidth, kHeight, [&, lean = std::tan(leanDeg * kRadPerDeg)](int x, int y) {
              const auto light = [&](double px, double py) {
                  const Vector3d p = camera.onPlane({px, py}, Vector3d::UnitY(), -4);
                  if (p.z() < 0.1) return 60;
                  for (double at : stripes)
                      if (std::abs(p.x() - at - lean * p.z()) < 0.2 && p.z() < 2.4) return 200;
                  return 110;
              };
              int sum = 0;
              for (const double dy : {-0.25, 0.25})
                  for (const double dx : {-0.25, 0.25})
                      sum += light(x + dx, y + dy);
              return sum / 4;
          })
    {
    }
};

Camera cameraInFront(double elevation, double roll)
{
    Camera c = Camera::looking({0, 0, 1.0}, 0, elevation, 4.5, roll);
    c.focal = kUsualFocalShare * PaintedWall::kWidth;
    c.centre = {PaintedWall::kWidth / 2, PaintedWall::kHeight / 2};
    return c;
}

} // namespace

/// Pictures of walls whose uprights and camera are known.
class TestUprights : public QObject
{
    Q_OBJECT

private slots:
    void uprightsTellTheRoll_data()
    {
        QTest::addColumn<double>("elevation");
        QTest::addColumn<double>("roll");
        for (double elevation : {1.0, 5.0, 9.0})
            for (double roll : {-7.0, -2.0, 0.0, 0.6, 4.0, 10.0})
                QTest::addRow("%g up, %g askew", elevation, roll) << elevation << roll;
    }

    void uprightsTellTheRoll()
    {
        QFETCH(double, elevation);
        QFETCH(double, roll);
        const PaintedWall wall(cameraInFront(elevation, roll), {-3.0, -1.2, 1.5, 3.2});
        const auto found = rollByUprights(wall.frame, {});
        QVERIFY(found);
        VERIFY_NEAR(found->deg, roll, 0.3);
        QVERIFY(found->spread > 0.1 && found->spread < 0.4);
    }

    void inOnePlaceTheyTellItLessSurely()
    {
        const PaintedWall both(cameraInFront(4, 3), {-2.5, 2.5}), one(cameraInFront(4, 3), {0.6}),
            aside(cameraInFront(4, 3), {2.8});
        const auto sure = rollByUprights(both.frame, {}), unsure = rollByUprights(one.frame, {});
        QVERIFY(sure && (!unsure || unsure->spread > 1.3 * sure->spread));
        QVERIFY(!rollByUprights(aside.frame, {})); // could as well be a camera that looks down
    }

    void otherRoomsTellNothing()
    {
        const Camera level = cameraInFront(4, 0);
        QVERIFY(!rollByUprights(PaintedWall(level, {}).frame, {}));
        QVERIFY(!rollByUprights(PaintedWall(level, {-3, -1.2, 1.5, 3}, 25).frame, {}));
    }

    void theBodyIsLeftOut()
    {
        // Whoever stands before the only stripes hides what would be read there.
        const PaintedWall wall(cameraInFront(4, 3), {-0.6, 0.0, 0.6});
        QVERIFY(rollByUprights(wall.frame, {}));
        BodyFrame body;
        body.seen = true;
        for (std::size_t k = 0; k < kLandmarkCount; ++k)
            body.point[k] = {640.0 + (k % 2 ? 300 : -300), 60.0 + 18 * static_cast<double>(k)};
        QVERIFY(!rollByUprights(wall.frame, body));
    }
};

QTEST_APPLESS_MAIN(TestUprights)
#include "test_uprights.moc"
