#include "exchange/track_file.h"
#include "media/decoder.h"
#include "support/near.h"
#include "support/shipped.h"
#include "vision/network.h"
#include "vision/network_store.h"
#include <QTemporaryDir>
#include <random>

using namespace jl;

namespace
{

QByteArray read(const QString& path)
{
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly)) qFatal("cannot read");
    return file.readAll();
}

QString write(const QTemporaryDir& dir, const char* name, const QByteArray& bytes)
{
    QFile file(dir.filePath(name));
    if (!file.open(QIODevice::WriteOnly)) qFatal("cannot write");
    file.write(bytes);
    return file.fileName();
}

} // namespace

/// Files that are cut off or altered anywhere give a message or what can still be read, never a crash.
class TestDamage : public QObject
{
    Q_OBJECT

private slots:
    void networksThatAreCutOffAreRefused()
    {
        const QTemporaryDir dir;
        const QByteArray whole = read(QString::fromStdString(*landmarkFile(LandmarkModel::Lite)));
        for (int i = 0; i < 12; ++i) {
            const auto length = static_cast<qsizetype>(static_cast<double>(whole.size()) * i / 12.0);
            const QString file = write(dir, "cut.tflite", whole.left(length));
            const auto network = Network::load(file.toStdString(), {"Identity"});
            QVERIFY(!network);
            QCOMPARE(network.error().exitCode(), 3);
            QVERIFY(network.error().message().find("cut.tflite") != std::string::npos);
        }
    }

    void networksWithOffsetsAstrayAreRefusedOrRead()
    {
        // The structure lies at both ends of the file; weights are in the middle.
        const QTemporaryDir dir;
        const QByteArray whole = read(QString::fromStdString(*landmarkFile(LandmarkModel::Lite)));
        std::mt19937 random(99);
        for (int round = 0; round < 24; ++round) {
            QByteArray altered = whole;
            for (int k = 0; k < 8; ++k) {
                const auto reach = static_cast<unsigned>(round % 2 ? 4000 : 60000);
                const auto back = static_cast<qsizetype>(random() % reach);
                const qsizetype at = round % 3 ? altered.size() - 1 - back : back;
                altered[at] = static_cast<char>(random());
            }
            const auto network = Network::load(write(dir, "odd.tflite", altered).toStdString(), {"Identity"});
            if (!network) QVERIFY(!network.error().message().empty());
        }
    }

    void clipsWithBytesAstrayGiveFramesOrAMessage()
    {
        const QTemporaryDir dir;
        ClipRequest clip;
        clip.width = 160;
        clip.height = 96;
        clip.framesPerSecond = 12;
        PerformanceRequest request;
        request.form = "stand";
        request.body = shipped().bodies.front();
        const std::string made = dir.filePath("made.mp4").toStdString();
        QVERIFY(renderClip(*Performance::create(shipped().standards, request), clip, made));
        const QByteArray whole = read(QString::fromStdString(made));
        std::mt19937 random(5);
        for (int round = 0; round < 16; ++round) {
            QByteArray altered = whole;
            for (int k = 0; k < 1 + round; ++k)
                altered[static_cast<qsizetype>(random() % static_cast<unsigned>(altered.size()))] =
                    static_cast<char>(random());
            if (round % 3 == 0) altered.truncate(altered.size() * (1 + round) / 45);
            auto decoder = Decoder::open(write(dir, "odd.mp4", altered).toStdString());
            if (!decoder) {
                QVERIFY(!decoder.error().message().empty());
                continue;
            }
            double last = -1;
            for (int i = 0; i < 200; ++i) {
                const auto frame = decoder->next();
                if (!frame || !*frame) break;
                QVERIFY((*frame)->time > last);
                last = (*frame)->time;
                QVERIFY((*frame)->width > 0 && (*frame)->plane[0]);
            }
        }
    }

    void tracksThatAreCutOffAnywhereAreRefused()
    {
        ClipRequest clip;
        clip.framesPerSecond = 5;
        const std::string whole = trackToJson(exactTrack(standing(), clip));
        for (std::size_t i = 1; i < 30; ++i) {
            const auto cut = trackFromJson(whole.substr(0, whole.size() * i / 30), "cut.json");
            QVERIFY(!cut);
            QVERIFY(cut.error().message().find("cut.json") != std::string::npos);
        }
    }

    void tracksWithLettersAstrayAreRefusedOrRead()
    {
        ClipRequest clip;
        clip.framesPerSecond = 5;
        const std::string whole = trackToJson(exactTrack(standing(), clip));
        std::mt19937 random(17);
        for (int round = 0; round < 60; ++round) {
            std::string altered = whole;
            for (int k = 0; k < 3; ++k)
                altered[random() % altered.size()] = static_cast<char>(' ' + random() % 90);
            const auto track = trackFromJson(altered, "odd.json");
            if (!track) {
                QVERIFY(!track.error().message().empty());
                continue;
            }
            for (std::size_t i = 1; i < track->frames.size(); ++i)
                QVERIFY(track->frames[i].time > track->frames[i - 1].time);
        }
    }

private:
    static Performance standing()
    {
        PerformanceRequest request;
        request.form = "stand";
        request.body = shipped().bodies.front();
        return *Performance::create(shipped().standards, request);
    }
};

QTEST_APPLESS_MAIN(TestDamage)
#include "test_damage.moc"
