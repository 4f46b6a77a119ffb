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

/// Where a pixel lies on the wall y = -4 m, in plain numbers: tests are compiled without optimisation, in
/// which vectors are slow.
class LineOfSight
{
public:
    explicit LineOfSight(const Camera& camera)
    {
        const Eigen::Matrix3d room = camera.rotation.transpose();
        Eigen::Map<Eigen::Matrix3d>(m_direction.data()) << room.col(0) / camera.focal,
            room.col(1) / camera.focal,
            room.col(2) - (camera.centre.x() * room.col(0) + camera.centre.y() * room.col(1)) / camera.focal;
        m_from = {camera.position.x(), camera.position.y(), camera.position.z()};
    }
    /// Across (x) and height (z), m.
    std::pair<double, double> onWall(double px, double py) const
    {
        const auto along = [&](std::size_t axis) {
            return px * m_direction[axis] + py * m_direction[3 + axis] + m_direction[6 + axis];
        };
        const double distance = (-4 - m_from[1]) / along(1);
        return {m_from[0] + distance * along(0), m_from[2] + distance * along(2)};
    }

private:
    std::array<double, 9> m_direction; ///< columns: what a pixel right, a pixel down and the pixel 0, 0 add
    std::array<double, 3> m_from;
};

/// A wall four metres behind the middle of the room, with bright stripes from the floor up: upright ones, or
/// such that lean in the room as a ladder does.
struct PaintedWall : GreyPicture {
    static constexpr int kWidth = 1280, kHeight = 720;

    PaintedWall(const Camera& camera, const std::vector<double>& stripes, double leanDeg = 0)
        : GreyPicture(kWidth, kHeight,
                      [&, lean = std::tan(leanDeg * kRadPerDeg), sight = LineOfSight(camera)](int x, int y) {
                          const auto light = [&](double px, double py) {
                              const auto [across, height] = sight.onWall(px, py);
                              if (height < 0.1) return 60;
                              for (double at : stripes)
                                  if (std::abs(across - at - lean * height) < 0.2 && height < 2.4) return 200;
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
