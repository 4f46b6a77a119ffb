#include "form/floor_path.h"
#include "measure/support_polygon.h"
#include "performer/truth.h"
#include "support/shipped.h"
#include <QtTest>

using namespace jl;

namespace
{

ClipReading readingOf(const Performance& p, double azimuth)
{
    ClipRequest clip;
    clip.camera.azimuth = azimuth;
    clip.framesPerSecond = 15;
    PersonProfile profile;
    profile.height = p.body().height;
    const auto models = shipped().models("sparrow-tail", "upright-broad");
    auto reading = readClip(exactTrack(p, clip), *models, profile, MeasuringTables{});
    if (!reading) qFatal("%s", reading.error().message().c_str());
    return std::move(*reading);
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
