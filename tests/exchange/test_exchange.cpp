#include "base/json_file.h"
#include "exchange/review_file.h"
#include "exchange/track_file.h"
#include "support/near.h"
#include "support/shipped.h"
#include <QTemporaryDir>

using namespace jl;

class TestExchange : public QObject
{
    Q_OBJECT

private slots:
    void tracksSurviveTheRoundTrip()
    {
        const QTemporaryDir dir;
        ClipRequest clip;
        clip.framesPerSecond = 10;
        Track track = exactTrack(perform(), clip);
        track.clip = "a clip.mp4";
        track.frames[3].seen = false;
        const auto file = std::filesystem::path(dir.filePath("t.json").toStdString());
        QVERIFY(writeTrack(track, file));
        const auto back = readTrack(file);
        QVERIFY(back);
        QCOMPARE(back->frames.size(), track.frames.size());
        QCOMPARE(back->clip, track.clip);
        QVERIFY(!back->frames[3].seen);
        for (std::size_t i = 0; i < track.frames.size(); ++i) {
            VERIFY_NEAR(back->frames[i].time, track.frames[i].time, 1e-6);
            if (track.frames[i].seen)
                QVERIFY(
                    (back->frames[i].at(Landmark::LeftKnee) - track.frames[i].at(Landmark::LeftKnee)).norm() <
                    2e-3);
        }
    }

    void damagedTracksAreRefused()
    {
        ClipRequest clip;
        clip.framesPerSecond = 5;
        const std::string whole = trackToJson(exactTrack(perform(), clip));
        QVERIFY(trackFromJson(whole, "x"));
        QVERIFY(!trackFromJson(whole.substr(0, whole.size() / 2), "x"));
        QVERIFY(!trackFromJson("{\"format\":\"something else\"}", "x"));
        std::string later = whole;
        later.replace(later.find("\"version\":1"), 11, "\"version\":9");
        const auto newer = trackFromJson(later, "x");
        QVERIFY(!newer && newer.error().message().find("newer") != std::string::npos);
        std::string letters = whole;
        letters.replace(letters.find("\"points\":[["), 11, "\"points\":[[\"a\",");
        QVERIFY(!trackFromJson(letters, "x"));
    }

    void tablesHaveARowAFrame()
    {
        const QTemporaryDir dir;
        ClipRequest clip;
        clip.framesPerSecond = 5;
        const Track track = exactTrack(perform(), clip);
        const auto lines = [&](const char* name) {
            const QString path = dir.filePath(name);
            if (!writeTrack(track, path.toStdString())) return QList<QByteArray>();
            QFile f(path);
            f.open(QIODevice::ReadOnly);
            return f.readAll().split('\n');
        };
        const auto csv = lines("t.csv");
        QCOMPARE(csv.size(), static_cast<qsizetype>(track.frames.size()) + 2);
        QCOMPARE(csv[0].count(','), 2 + 3 * 33);
        QCOMPARE(csv[1].count(','), csv[0].count(','));
        const auto trc = lines("t.trc");
        QVERIFY(trc[0].startsWith("PathFileType"));
        QCOMPARE(trc[6].split('\t').size(), 2 + 3 * 33);
        QCOMPARE(writeTrack(track, dir.filePath("t.xyz").toStdString()).error().exitCode(), 2);
    }

    void profilesAreChecked()
    {
        const QTemporaryDir dir;
        const auto file = std::filesystem::path(dir.filePath("p.json").toStdString());
        QVERIFY(writeText(file, "{\"height\": 1.71, \"foot_length\": 0.265}"));
        QCOMPARE(readProfile(file)->height, std::optional(1.71));
        QVERIFY(writeText(file, "{\"height\": 171}"));
        QVERIFY(readProfile(file).error().message().find("metres") != std::string::npos);
        QVERIFY(writeText(file, "{\"height\": \"tall\"}"));
        QVERIFY(!readProfile(file));
    }
};

QTEST_APPLESS_MAIN(TestExchange)
#include "test_exchange.moc"
