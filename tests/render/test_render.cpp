#include "support/near.h"
#include "support/shipped.h"

using namespace jl;

namespace
{

struct Shot {
    Performance performance;
    SceneOptions options;
    double time = 8;

    explicit Shot(double azimuth, double noise = 0) : performance(perform())
    {
        ClipRequest clip;
        clip.camera.azimuth = azimuth;
        clip.width = 640;
        clip.height = 360;
        options.width = 640;
        options.height = 360;
        options.noise = noise;
        options.camera = cameraFor(performance, clip);
    }
};

bool differs(const RgbImage& a, const RgbImage& b, const Eigen::Vector2d& at)
{
    const int x = static_cast<int>(at.x()), y = static_cast<int>(at.y());
    int sum = 0;
    for (int c = 0; c < 3; ++c)
        sum += std::abs(a.row(y)[3 * x + c] - b.row(y)[3 * x + c]);
    return sum > 24;
}

} // namespace

class TestRender : public QObject
{
    Q_OBJECT

private slots:
    void theBodyCoversItsJoints()
    {
        for (double azimuth : {0.0, 90.0, 180.0, 270.0}) {
            const Shot shot(azimuth);
            const Scene scene(shot.performance.body(), shot.options);
            Scene::Workspace work;
            const Figure figure = shot.performance.figureAt(shot.time);
            const RgbImage with = scene.draw(figure, 0, work);
            // The same hall with the performer moved out of sight.
            Figure away = figure;
            for (auto& bone : away.bone)
                bone.origin += Eigen::Vector3d(0, 0, 100);
            const RgbImage without = scene.draw(away, 0, work);
            using enum Landmark;
            for (Landmark l : {LeftHip, RightHip, LeftKnee, RightKnee, LeftAnkle, RightAnkle, LeftShoulder,
                               RightShoulder, LeftElbow, RightElbow})
                QVERIFY2(differs(with, without, shot.options.camera.project(figure.at(l))),
                         landmarkName(l).data());
            QVERIFY(!differs(with, without, {20, 20}));
        }
    }

    void skinnedVerticesFollowTheirBones()
    {
        const auto p = perform("small");
        const SkinMesh mesh = SkinMesh::build(p.body());
        QVERIFY(mesh.triangles().size() > 20000);
        std::vector<Eigen::Vector3f> positions, normals;
        const Figure f = p.figureAt(12);
        mesh.bend(f, positions, normals);
        // Nothing lies below the floor or above the crown, and nothing is left behind.
        for (const auto& v : positions) {
            QVERIFY(v.z() > -0.02f);
            QVERIFY(v.z() < static_cast<float>(p.body().height) + 0.05f);
            QVERIFY((v.cast<double>() - f.midHip).norm() < 1.3);
        }
        for (const auto& n : normals)
            VERIFY_NEAR(n.norm(), 1, 1e-3);
    }

    void noiseHasItsSize()
    {
        const Shot quiet(90), noisy(90, 4);
        const Figure figure = quiet.performance.figureAt(3);
        Scene::Workspace work;
        const RgbImage a = Scene(quiet.performance.body(), quiet.options).draw(figure, 3, work);
        const RgbImage b = Scene(noisy.performance.body(), noisy.options).draw(figure, 3, work);
        double squares = 0;
        for (std::size_t i = 0; i < a.data.size(); ++i)
            squares += (a.data[i] - b.data[i]) * (a.data[i] - b.data[i]);
        VERIFY_NEAR(std::sqrt(squares / static_cast<double>(a.data.size())), 4, 0.4);
    }

    void camerasStandWhereTheyAreAsked()
    {
        const auto front = cameraPlace("front", 0), exact = cameraPlace("30,5,4.5", 9);
        QVERIFY(front && exact);
        QCOMPARE(front->azimuth, 0.0);
        QCOMPARE(exact->distance, 4.5);
        QCOMPARE(cameraPlace("ceiling", 0).error().exitCode(), 2);
        QVERIFY(!cameraPlace("30,5", 0));
    }
};

QTEST_APPLESS_MAIN(TestRender)
#include "test_render.moc"
