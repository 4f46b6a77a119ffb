#include "base/angles.h"
#include "measure/support_polygon.h"
#include "performer/truth.h"
#include "reading/floor_path.h"
#include "reading/walked_floor.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"
#include "support/shipped.h"
#include <Eigen/Geometry>
#include <QtTest>

using namespace jl;

namespace
{

ClipReading readingOf(const Performance& p, double azimuth, const char* form = "sparrow-tail")
{
    return readFilmed(p, azimuth, {.form = form});
}

/// Tilts the camera about the place of the opening, and says that it is known to 4 degrees.
void misplace(ClipReading& clip, double deg)
{
    const Eigen::Vector3d pivot(0, 0, 0.9);
    Camera& camera = clip.camera.camera;
    const Eigen::Matrix3d turn =
        Eigen::AngleAxisd(deg * kRadPerDeg, camera.rotation.row(0).transpose()).toRotationMatrix();
    camera.position = pivot + turn * (camera.position - pivot);
    camera.rotation = camera.rotation * turn.transpose();
    clip.camera.elevationSpread = 4;
    clip.drift.clear();
}

} // namespace

class TestFloorPath : public QObject
{
    Q_OBJECT

private slots:
    void theModelStepsWhereItStands()
    {
        const auto models = shipped().models("sparrow-tail", "upright-broad", Side::Right);
        const ModelPerformance& model = models->front();
        const FloorPath path = floorPath(model, 1.7);
        QCOMPARE(path.size(), model.phases.size());
        QVERIFY(path.front().hips.norm() < 0.2); // the opening stands at the origin
        QVERIFY(std::is_sorted(path.begin(), path.end(),
                               [](const auto& a, const auto& b) { return a.time < b.time; }));
        const FloorPath taller = floorPath(model, 1.87);
        for (std::size_t i = 0; i < path.size(); ++i)
            QVERIFY((taller[i].hips - path[i].hips * 1.1).norm() < 1e-9);
    }

    void feetAreFoundWhereTheyStand_data()
    {
        QTest::addColumn<double>("azimuth");
        QTest::newRow("side") << 90.0;
        QTest::newRow("front") << 0.0;
        QTest::newRow("corner") << 45.0;
    }
    void feetAreFoundWhereTheyStand()
    {
        QFETCH(double, azimuth);
        const Performance p = perform("tall", 31);
        const FloorPath path = floorPath(readingOf(p, azimuth));
        QVERIFY(path.size() > 8);
        double worst = 0, sum = 0;
        int n = 0;
        for (const PathStop& stop : path) {
            const Figure figure = p.figureAt(stop.time);
            for (Side s : {Side::Left, Side::Right}) {
                const double off = (stop.feet[static_cast<std::size_t>(s)].heel -
                                    figure.landmark[index(sided(Landmark::LeftHeel, s))].head<2>())
                                       .norm();
                worst = std::max(worst, off);
                sum += off;
                ++n;
            }
        }
        QVERIFY2(sum / n < 0.08 && worst < 0.3,
                 qPrintable(QString("mean %1 m, worst %2 m").arg(sum / n).arg(worst)));
    }

    /// A standing body tells badly how high the camera is, the way over the floor well.
    void whoWalksAwayLevelsTheCamera_data()
    {
        QTest::addColumn<double>("tilt");
        QTest::newRow("as it is") << 0.0;
        QTest::newRow("too low") << -6.0;
        QTest::newRow("too high") << 6.0;
    }
    void whoWalksAwayLevelsTheCamera()
    {
        constexpr double kAlong = 90; // deg: the walk leads to the left of the opening
        QFETCH(double, tilt);
        ClipReading walks = readingOf(performForm("brush-walk"), kAlong, "brush-walk");
        const double height = walks.camera.camera.position.z();
        misplace(walks, tilt);
        QVERIFY(tilt == 0 || std::abs(walks.camera.camera.position.z() - height) > 0.3);
        walks.camera = levelledByFeet(walks, LandmarkOffsets{});
        VERIFY_NEAR(walks.camera.camera.position.z(), height, 0.12);
        QVERIFY(walks.camera.elevationSpread < 2.5);
    }
    void whoStaysInPlaceTellsNothingOfIt()
    {
        ClipReading stays = readingOf(performForm("commence"), 0, "commence");
        misplace(stays, -4);
        const double height = stays.camera.camera.position.z();
        stays.camera = levelledByFeet(stays, LandmarkOffsets{});
        VERIFY_NEAR(stays.camera.camera.position.z(), height, 0.12);
        QVERIFY(stays.camera.elevationSpread > 3);
    }

    void whatStandsCarries()
    {
        const Performance p = perform("teacher");
        const Figure standing = p.figureAt(0);
        const BodyLengths lengths = BodyLengths::usual(p.body().height);
        const auto hull = supportPolygon(standing.landmark, lengths);
        QVERIFY(hull.size() >= 4);
        double area = 0; // counter-clockwise: positive
        for (std::size_t i = 0; i < hull.size(); ++i) {
            const auto &a = hull[i], &b = hull[(i + 1) % hull.size()];
            area += 0.5 * (a.x() * b.y() - a.y() * b.x());
        }
        QVERIFY2(area > 0.05 && area < 0.25, qPrintable(QString::number(area)));
        QVERIFY(underCentreOfMass(standing.landmark).norm() < 0.15);
        BodyPoints lifted = standing.landmark;
        for (Eigen::Vector3d& point : lifted)
            point.z() += 0.5;
        QVERIFY(supportPolygon(lifted, lengths).empty());
    }
};

QTEST_APPLESS_MAIN(TestFloorPath)
#include "test_floor_path.moc"
