#include "base/angles.h"
#include "camera/camera_fit.h"
#include "camera/least_squares.h"
#include "camera/two_cameras.h"
#include "support/forms.h"
#include "support/near.h"

using namespace jl;
using Eigen::Vector2d;
using Eigen::Vector3d;

namespace
{

/// The body at the opening, as the performer has it.
BodyPoints standing()
{
    return performForm("stand").figureAt(0.5).landmark;
}

Camera cameraAt(double azimuth, double elevation, double distance, double roll = 0, double lens = 1)
{
    Camera c = Camera::looking({0, 0, 0.86}, azimuth, elevation, distance, roll);
    c.focal = kUsualFocalShare * lens * 1280;
    c.centre = {640, 360};
    return c;
}

std::vector<BodyFrame> pictureOf(const BodyPoints& body, const Camera& camera)
{
    BodyFrame f;
    f.seen = true;
    f.visibility.fill(1);
    for (std::size_t k = 0; k < kLandmarkCount; ++k)
        f.point[k] = camera.project(body[k]);
    return {f, f, f};
}

} // namespace

/// Placing cameras by a standing body, and points by two cameras.
class TestCameraFit : public QObject
{
    Q_OBJECT

private slots:
    void theStandingBodyPlacesTheCamera_data()
    {
        QTest::addColumn<double>("azimuth");
        QTest::addColumn<double>("elevation");
        QTest::addColumn<double>("distance");
        QTest::addColumn<double>("roll");
        QTest::addColumn<double>("pan"); // the camera looks so far past the body, deg
        QTest::newRow("front") << 0.0 << 4.0 << 4.2 << 0.0 << 0.0;
        QTest::newRow("side") << 90.0 << 4.0 << 4.2 << 0.0 << 0.0;
        QTest::newRow("the other side, nearer") << -90.0 << 6.0 << 3.2 << 0.0 << 0.0;
        QTest::newRow("corner, far") << 45.0 << 3.0 << 6.5 << 0.0 << 0.0;
        QTest::newRow("behind, askew") << 180.0 << 5.0 << 4.5 << 1.2 << 0.0;
        QTest::newRow("from above") << 80.0 << 12.0 << 4.5 << -0.8 << 0.0;
        QTest::newRow("front, body at the right") << 0.0 << 4.0 << 4.2 << 0.0 << 17.0;
        QTest::newRow("front, body at the left") << 0.0 << 4.0 << 4.2 << 0.0 << -17.0;
        QTest::newRow("side, body at the right") << 90.0 << 4.0 << 4.2 << 0.0 << 17.0;
        QTest::newRow("corner, body at the left") << -45.0 << 4.0 << 4.2 << 0.0 << -15.0;
    }

    void theStandingBodyPlacesTheCamera()
    {
        QFETCH(double, azimuth);
        QFETCH(double, elevation);
        QFETCH(double, distance);
        QFETCH(double, roll);
        QFETCH(double, pan);
        Camera truth = cameraAt(azimuth, elevation, distance, roll);
        truth.rotation = truth.rotation * Eigen::AngleAxisd(-pan * kRadPerDeg, Vector3d::UnitZ());
        const BodyPoints body = standing();
        PersonProfile profile;
        profile.height = shipped().bodies.front().height;
        const auto found =
            calibrate({pictureOf(body, truth), 1280, 720}, body, azimuth + 4, profile, LandmarkOffsets());
        VERIFY_NEAR(wrapDeg(found.azimuth - azimuth), 0, 1.5);
        VERIFY_NEAR((found.camera.position - truth.position).norm(), 0, 0.25);
        QVERIFY(found.residual < 0.02);
        // What it was made for: a point in the plane through the body comes back where it is.
        const Vector3d knee = body[index(Landmark::RightKnee)];
        const Vector3d normal = forwardOf(azimuth);
        QVERIFY((found.camera.onPlane(truth.project(knee), normal, normal.dot(knee)) - knee).norm() < 0.03);
    }

    void anUnknownHeightMakesTheScaleUncertain()
    {
        const BodyPoints body = standing();
        PersonProfile known, unknown;
        known.height = 1.72;
        const auto picture = pictureOf(body, cameraAt(90, 4, 4.2));
        const auto sure = calibrate({picture, 1280, 720}, body, 90, known, LandmarkOffsets()),
                   unsure = calibrate({picture, 1280, 720}, body, 90, unknown, LandmarkOffsets());
        QVERIFY(unsure.scaleSpread > 2 * sure.scaleSpread);
    }

    void oneWrongPointDoesNotMoveTheCamera()
    {
        const Camera truth = cameraAt(90, 4, 4.2);
        const BodyPoints body = standing();
        auto picture = pictureOf(body, truth);
        for (BodyFrame& f : picture)
            f.point[index(Landmark::LeftAnkle)] += Vector2d(120, -60);
        PersonProfile profile;
        profile.height = shipped().bodies.front().height;
        const auto found = calibrate({picture, 1280, 720}, body, 90, profile, LandmarkOffsets());
        VERIFY_NEAR(wrapDeg(found.azimuth - 90), 0, 4);
        VERIFY_NEAR((found.camera.position - truth.position).norm(), 0, 0.5);
    }

    void hintsOfTheRoomPlaceTheCameraBetter()
    {
        // A longer lens than usual, filmed by somebody who does not know the student's height.
        Camera truth = cameraAt(60, 5, 5.0);
        truth.focal *= 1.18;
        const BodyPoints body = standing();
        const auto picture = pictureOf(body, truth);
        const auto floor = [&](double x, double y) { return truth.project(Vector3d(x, y, 0)); };
        CalibrationHints hints;
        hints.addSheet({floor(-0.9, -0.6), floor(0.9, -0.6), floor(0.9, 0.6), floor(-0.9, 0.6)}, 1.8, 1.2);
        QCOMPARE(hints.spans.size(), std::size_t(6));
        hints.wall = std::array{floor(-2, -1.5), floor(2, -1.5)};
        hints.fieldOfView = 2 * std::atan(640 / truth.focal) * kDegPerRad;
        PersonProfile profile;
        profile.height = shipped().bodies.front().height;
        const auto alone = calibrate({picture, 1280, 720}, body, 64, profile, LandmarkOffsets()),
                   hinted = calibrate({picture, 1280, 720}, body, 64, profile, LandmarkOffsets(), hints);
        QVERIFY((hinted.camera.position - truth.position).norm() <
                0.3 * (alone.camera.position - truth.position).norm());
        VERIFY_NEAR(hinted.camera.focal, truth.focal, 0.02 * truth.focal);
        VERIFY_NEAR(wrapDeg(hinted.azimuth - 60), 0, 0.6);
        QVERIFY(hinted.azimuthSpread <= alone.azimuthSpread);
        VERIFY_NEAR(hinted.height, *profile.height, 0.01);
        QCOMPARE(alone.height, *profile.height);
    }

    void lengthsOnTheFloorTellTheHeight()
    {
        // Nobody has told that this person is 1.95 m tall; 1.68 m is assumed.
        const Camera truth = cameraAt(90, 4, 4.6);
        const PersonProfile unknown;
        BodyPoints assumed = standing(), tall = assumed;
        const double shipsHeight = shipped().bodies.front().height;
        for (std::size_t k = 0; k < assumed.size(); ++k) {
            assumed[k] *= unknown.heightOrUsual() / shipsHeight;
            tall[k] *= 1.95 / shipsHeight;
        }
        const auto picture = pictureOf(tall, truth);
        CalibrationHints hints;
        hints.spans.push_back(
            {truth.project(Vector3d(-0.2, -0.9, 0)), truth.project(Vector3d(-0.2, 0.9, 0)), 1.8});
        const auto alone = calibrate({picture, 1280, 720}, assumed, 90, unknown, LandmarkOffsets()),
                   hinted = calibrate({picture, 1280, 720}, assumed, 90, unknown, LandmarkOffsets(), hints);
        QCOMPARE(alone.height, unknown.heightOrUsual());
        VERIFY_NEAR(hinted.height, 1.95, 0.03);
        VERIFY_NEAR((hinted.camera.position - truth.position).norm(), 0, 0.1);
        QVERIFY(hinted.scaleSpread < 0.5 * alone.scaleSpread);
    }

    void whatTheBodyContradictsIsLeftOut()
    {
        const Camera truth = cameraAt(90, 4, 4.2);
        const BodyPoints body = standing();
        const auto picture = pictureOf(body, truth);
        const auto floor = [&](double x, double y) { return truth.project(Vector3d(x, y, 0)); };
        PersonProfile profile;
        profile.height = shipped().bodies.front().height;
        const auto found = [&](const CalibrationHints& hints) {
            return calibrate({picture, 1280, 720}, body, 90, profile, LandmarkOffsets(), hints);
        };
        const FloorSpan across{floor(-0.2, -0.9), floor(-0.2, 0.9), 1.8};
        CalibrationHints right, typo, otherWall;
        right.spans.push_back(across);
        right.wall = std::array{floor(-2, -1.5), floor(2, -1.5)};
        typo = otherWall = right;
        typo.spans.push_back({floor(-0.5, 0.3), floor(0.5, 0.3), 10});
        otherWall.wall = std::array{floor(-2, -1.5), floor(-2, 1.5)};

        QVERIFY(found(right).floorHolds && found(right).wallHolds);
        QVERIFY(hintsLeftOut(found(right)).empty());
        QVERIFY(!found(typo).floorHolds && found(typo).wallHolds);
        QVERIFY(hintsLeftOut(found(typo)).find("lengths told of the floor do not fit") != std::string::npos);
        QVERIFY(found(otherWall).floorHolds && !found(otherWall).wallHolds);
        QVERIFY(hintsLeftOut(found(otherWall)).find("foot of the wall does not fit") != std::string::npos);
        for (const CalibrationHints& wrong : {typo, otherWall}) {
            VERIFY_NEAR((found(wrong).camera.position - truth.position).norm(), 0, 0.1);
            VERIFY_NEAR(found(wrong).camera.focal, truth.focal, 0.03 * truth.focal);
        }
    }

    void unknownsAndCameraBelongTogether()
    {
        const BodyPoints body = standing();
        const auto picture = pictureOf(body, cameraAt(30, 5, 4.0));
        const CameraFit fit({picture, 1280, 720}, NetworkPoints{body}, 30, 1.72);
        Eigen::VectorXd x = fit.start();
        x[CameraFit::LogFocal] = std::log(1.1);
        x[CameraFit::LogDistance] = std::log(5.0);
        const Camera c = fit.camera(x);
        VERIFY_NEAR(c.focal, 1.1 * kUsualFocalShare * 1280, 1e-6);
        VERIFY_NEAR((c.position - Vector3d(0, 0, x[CameraFit::LookHeight])).norm(), 5.0, 1e-6);
        QCOMPARE(fit.residuals(x).size(), static_cast<Eigen::Index>(CameraFit::kResidualCount));
        QVERIFY(fit.residuals(x).norm() > 5); // far from the truth it does not fit
        const auto found = leastSquares([&](const Eigen::VectorXd& y) { return fit.residuals(y); }, x);
        QVERIFY(found.residuals.norm() < 1);
        QVERIFY(fit.metres(found.residuals) < 0.01);
    }

    void linesOfSightMeetWhereThePointIs()
    {
        const Camera a = cameraAt(90, 4, 4.2), b = cameraAt(5, 6, 3.6, 0.5, 1.1);
        for (const Vector3d& p : {Vector3d(0, 0, 1), Vector3d(0.5, -0.3, 0.1), Vector3d(-0.8, 0.9, 1.7)}) {
            const RayIntersection m = intersectRays(a, a.project(p), b, b.project(p));
            QVERIFY((m.point - p).norm() < 1e-9);
            QVERIFY(m.distance < 1e-9);
        }
    }

    void aMissedPixelShowsAsAGap()
    {
        const Camera a = cameraAt(90, 4, 4.2), b = cameraAt(0, 4, 4.2);
        const Vector3d p(0.1, 0.2, 1.1);
        // Up and down both cameras speak of the same, so a miss opens a gap; from side to side it moves the
        // point along the other's line of sight.
        const RayIntersection up = intersectRays(a, a.project(p) + Vector2d(0, 12), b, b.project(p));
        const double metres = 12 * a.toCamera(p).z() / a.focal;
        VERIFY_NEAR(up.distance, metres, 0.1 * metres);
        const RayIntersection aside = intersectRays(a, a.project(p) + Vector2d(12, 0), b, b.project(p));
        QVERIFY(aside.distance < 0.1 * metres);
        VERIFY_NEAR((aside.point - p).norm(), metres, 0.1 * metres);
    }

    void theNearerCameraHasTheGreaterSay()
    {
        const Camera near = cameraAt(90, 4, 2.0), far = cameraAt(0, 4, 8.0);
        const Vector3d p(0, 0, 1);
        const double
            up = intersectRays(near, near.project(p) + Vector2d(0, 20), far, far.project(p)).point.z() - 1,
            upOfFar =
                intersectRays(near, near.project(p), far, far.project(p) + Vector2d(0, 5)).point.z() - 1;
        // The same 3.5 cm, missed by the nearer and by the further camera.
        QVERIFY(std::abs(up) > 5 * std::abs(upOfFar));
    }
};

QTEST_APPLESS_MAIN(TestCameraFit)
#include "test_camera_fit.moc"
