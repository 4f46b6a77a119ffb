#include "base/paths.h"
#include "support/near.h"
#include "vision/landmark_network.h"
#include "vision/network.h"
#include "vision/network_store.h"
#include "vision/tflite_file.h"
#include <QImage>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTemporaryDir>

using namespace jl;

namespace
{

const QString kVectors = QString(TEST_SOURCE_DIR) + "/data/vectors/";

QJsonObject expected(const QString& network)
{
    QFile file(kVectors + "expected.json");
    if (!file.open(QIODevice::ReadOnly)) qFatal("no vectors");
    return QJsonDocument::fromJson(file.readAll()).object().value(network).toObject();
}

void fillInput(Network& network, const QString& picture, float scale, float offset)
{
    const QImage image = QImage(kVectors + picture).convertToFormat(QImage::Format_RGB888);
    float* out = network.input();
    for (int y = 0; y < image.height(); ++y)
        for (int i = 0; i < 3 * image.width(); ++i)
            *out++ = static_cast<float>(image.constScanLine(y)[i]) * scale + offset;
}

} // namespace

/// Networks against numbers that an independent runtime computed from the same pictures.
class TestNetworks : public QObject
{
    Q_OBJECT

private slots:
    void landmarks_data()
    {
        QTest::addColumn<int>("model");
        for (auto m : {LandmarkModel::Lite, LandmarkModel::Full, LandmarkModel::Heavy})
            if (landmarkFile(m)) QTest::newRow(modelName(m).c_str()) << static_cast<int>(m);
    }

    void landmarks()
    {
        QFETCH(int, model);
        const auto kind = static_cast<LandmarkModel>(model);
        auto network =
            Network::load(*landmarkFile(kind), {"Identity", "Identity_1", "Identity_3", "Identity_4"});
        QVERIFY(network);
        fillInput(*network, "body-256.png", 1 / 255.f, 0);
        network->run();
        const QJsonObject want = expected("pose_landmark_" + QString::fromStdString(modelName(kind)));
        const QJsonArray points = want["Identity"].toArray(), metric = want["Identity_4"].toArray();
        for (int i = 0; i < points.size(); ++i)
            VERIFY_NEAR(network->output("Identity").values[i], points[i].toDouble(), 0.01);
        for (int i = 0; i < metric.size(); ++i)
            VERIFY_NEAR(network->output("Identity_4").values[i], metric[i].toDouble(), 1e-3);
        VERIFY_NEAR(network->output("Identity_1").values[0], want["Identity_1"].toDouble(), 1e-4);
        const QJsonArray peaks = want["Identity_3_peaks"].toArray();
        const auto& heat = network->output("Identity_3").values;
        for (int k = 0; k < peaks.size(); ++k) {
            const QJsonArray peak = peaks[k].toArray();
            VERIFY_NEAR(heat[(peak[1].toInt() * 64 + peak[0].toInt()) * 39 + k], peak[2].toDouble(), 0.01);
        }
    }

    void detector()
    {
        auto network = Network::load(*detectorFile(), {"Identity", "Identity_1"});
        QVERIFY(network);
        fillInput(*network, "body-224.png", 1 / 127.5f, -1);
        network->run();
        const QJsonObject want = expected("pose_detection");
        const int anchor = want["best_anchor"].toInt();
        const auto& scores = network->output("Identity_1").values;
        VERIFY_NEAR(scores[anchor], want["best_logit"].toDouble(), 0.01);
        double sum = 0;
        for (int i = 0; i < 2254; ++i) {
            sum += scores[i];
            QVERIFY(scores[i] <= scores[anchor]);
        }
        VERIFY_NEAR(sum, want["logit_sum"].toDouble(), 1.0);
        const QJsonArray box = want["best_box"].toArray();
        for (int i = 0; i < box.size(); ++i)
            VERIFY_NEAR(network->output("Identity").values[12 * anchor + i], box[i].toDouble(), 0.02);
    }

    void damagedFilesAreRefused()
    {
        QFile good(QString::fromStdString((modelFolder() / "pose_landmark_lite.tflite").string()));
        QVERIFY(good.open(QIODevice::ReadOnly));
        const QByteArray bytes = good.readAll();
        const QTemporaryDir dir;
        const auto written = [&](const QByteArray& content) {
            QFile f(dir.filePath("net.tflite"));
            f.open(QIODevice::WriteOnly);
            f.write(content);
            return f.fileName().toStdString();
        };
        for (qsizetype keep : {0, 7, 40, 5000, 200000, 2000000})
            QVERIFY(!tflite::read(written(bytes.left(keep))));
        QVERIFY(!tflite::read(written("this is a letter to a friend, not a network")));
        // Offsets turned into nonsense must be noticed or harmless, never followed out of the file.
        for (int at = 0; at < 400; at += 13) {
            QByteArray bent = bytes;
            bent[at] = static_cast<char>(bent[at] ^ 0x7f);
            static_cast<void>(tflite::read(written(bent)));
        }
    }

    void alteredOrMissingNetworksAreNamed()
    {
        const QTemporaryDir dir;
        QVERIFY(QFile::copy(QString::fromStdString((modelFolder() / "SHA256SUMS").string()),
                            dir.filePath("SHA256SUMS")));
        qputenv("LANTERN_MODELS", dir.path().toUtf8());
        const auto missing = landmarkFile(LandmarkModel::Lite);
        QVERIFY(!missing);
        QCOMPARE(missing.error().exitCode(), 3);
        QVERIFY(missing.error().message().find("missing") != std::string::npos);
        QFile altered(dir.filePath("pose_landmark_lite.tflite"));
        QVERIFY(altered.open(QIODevice::WriteOnly));
        altered.write("TFL3 but not really");
        altered.close();
        const auto wrong = landmarkFile(LandmarkModel::Lite);
        QVERIFY(!wrong);
        QVERIFY(wrong.error().message().find("checksum") != std::string::npos);
        QCOMPARE(networksFromName("auto")->name(), std::string("lite")); // full is not there
        qunsetenv("LANTERN_MODELS");
        QVERIFY(!networksFromName("enormous"));
        QCOMPARE(networksFromName("heavy")->name(), std::string("heavy"));
    }

    void heatMapRefinesToItsMean()
    {
        std::vector<float> map(64 * 64 * 39, -20.f);
        const auto cell = [&](int x, int y) -> float& { return map[(y * 64 + x) * 39 + 7]; };
        cell(20, 30) = 2;
        cell(21, 30) = 2;
        const Eigen::Vector2d refined = LandmarkNetwork::refined({80, 122}, map.data(), 7);
        VERIFY_NEAR(refined.x(), 20.5 * 4, 1e-3);
        VERIFY_NEAR(refined.y(), 30 * 4, 1e-3);
        cell(20, 30) = cell(21, 30) = -3; // nothing certain: the point stays
        const Eigen::Vector2d kept = LandmarkNetwork::refined({80, 122}, map.data(), 7);
        VERIFY_NEAR(kept.x(), 80, 1e-9);
    }
};

QTEST_APPLESS_MAIN(TestNetworks)
#include "test_networks.moc"
