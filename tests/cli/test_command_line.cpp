#include "media/clip_info.h"
#include "media/encoder.h"
#include "render/hall.h"
#include "support/near.h"
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QSet>
#include <QTemporaryDir>

namespace
{

struct Outcome {
    int code;
    QByteArray out, err;
};

Outcome run(const QStringList& arguments, const QStringList& environment = {})
{
    QProcess p;
    if (!environment.isEmpty()) p.setEnvironment(QProcess::systemEnvironment() + environment);
    p.start(CLI_PROGRAM, arguments);
    p.waitForFinished(300000);
    return {p.exitCode(), p.readAllStandardOutput(), p.readAllStandardError()};
}

QString clip(const char* name)
{
    return QString(TEST_DATA_DIR) + "/" + name;
}

QJsonObject readObject(const QString& file)
{
    QFile f(file);
    f.open(QIODevice::ReadOnly);
    return QJsonDocument::fromJson(f.readAll()).object();
}

QString heightOf(const QTemporaryDir& dir, const char* name)
{
    const double height = readObject(clip(name))["body"].toObject()["height"].toDouble();
    QFile f(dir.filePath("profile.json"));
    f.open(QIODevice::WriteOnly);
    f.write(QJsonDocument(QJsonObject{{"height", height}}).toJson());
    return f.fileName();
}

QJsonObject review(const QTemporaryDir& dir, const char* name, const QString& track = {})
{
    const QString base(name), student = track.isEmpty() ? clip(qPrintable(base + ".mp4")) : track;
    const Outcome o = run({"review",
                           "--student",
                           student,
                           "--reference",
                           "builtin",
                           "--form",
                           "sparrow-tail",
                           "--school",
                           "upright-broad",
                           "--level",
                           "forming",
                           "--profile",
                           heightOf(dir, qPrintable(base + ".json")),
                           "-o",
                           dir.filePath("review.json"),
                           "--slip",
                           dir.filePath("slip.pdf"),
                           dir.filePath("slip.html"),
                           dir.filePath("slip.txt"),
                           "--captions",
                           dir.filePath("slip.vtt"),
                           "--name",
                           "Ana Brook"});
    if (o.code != 0) qFatal("%s", o.err.constData());
    return readObject(dir.filePath("review.json"));
}

/// Faults found with at least the given severity, as "fault@posture/phase".
QSet<QString> found(const QJsonObject& review, const QStringList& severities)
{
    QSet<QString> all;
    for (const auto& f : review["findings"].toArray()) {
        const QJsonObject o = f.toObject();
        if (severities.contains(o["severity"].toString()))
            all.insert(o["fault"].toString() + "@" + o["posture"].toString() + "/" + o["phase"].toString());
    }
    return all;
}

} // namespace

/// A practice hall with nobody in it.
jl::RgbImage emptyHall(int width, int height)
{
    jl::Camera camera = jl::Camera::looking({0, 0, 0.9}, 20, 4, 4.2);
    camera.focal = 0.9 * width;
    camera.centre = {width / 2.0, height / 2.0};
    jl::RgbImage image(width, height);
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            const auto colour = jl::hallColour(jl::halls().front(), camera.position,
                                               camera.ray({x + 0.5, y + 0.5}).normalized());
            for (int c = 0; c < 3; ++c)
                image.row(y)[3 * x + c] = static_cast<std::uint8_t>(255 * colour[c]);
        }
    }
    return image;
}

/// The program as others script it, on rendered pixels with the real networks.
class TestCommandLine : public QObject
{
    Q_OBJECT

private slots:
    void aKneePastTheToeIsFoundFromTheSide()
    {
        const QTemporaryDir dir;
        const QJsonObject r = review(dir, "past-toe");
        const auto safety = found(r, {"safety"});
        QVERIFY2(safety.contains("knee-past-toe@push/arrive"),
                 qPrintable(QStringList(safety.values()).join(' ')));
        for (const QString& f : safety)
            QVERIFY(f.startsWith("knee-past-toe@"));
        // Each where the performer really does it.
        QSet<QString> performed;
        for (const auto& f : readObject(clip("past-toe.json"))["faults"].toArray())
            performed.insert("knee-past-toe@" + f.toObject()["posture"].toString() + "/" +
                             f.toObject()["phase"].toString());
        QVERIFY(performed.contains(safety));
        const auto written = [&](const char* name) {
            QFile f(dir.filePath(name));
            return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
        };
        const QByteArray title = r["teach"][0].toObject()["title"].toString().toUtf8();
        QVERIFY(written("slip.txt").startsWith("Ana Brook") && written("slip.txt").contains(title));
        QVERIFY(written("slip.html").contains("data:image/jpeg"));
        QVERIFY(written("slip.pdf").startsWith("%PDF") && written("slip.vtt").startsWith("WEBVTT"));
        QVERIFY(!r["teach"].toArray().isEmpty());
        QVERIFY(!r["cautions"].toArray().isEmpty());
    }

    void aCavedKneeIsFoundFromTheFront()
    {
        const QTemporaryDir dir;
        const auto safety = found(review(dir, "caved"), {"safety"});
        QVERIFY2(safety.contains("knee-caves-lead@push/arrive"),
                 qPrintable(QStringList(safety.values()).join(' ')));
        for (const QString& f : safety)
            QVERIFY(f.startsWith("knee-caves-lead@"));
    }

    void fromBehindItSaysWhatItCannotSee()
    {
        const QTemporaryDir dir;
        const QJsonObject behind = review(dir, "behind");
        QCOMPARE(found(behind, {"safety", "fault"}), QSet<QString>());
        int looked = 0;
        for (const auto& posture : behind["postures"].toArray()) {
            for (const auto& phase : posture.toObject()["phases"].toArray()) {
                for (const auto& m : phase.toObject()["measures"].toArray()) {
                    if (m.toObject()["id"].toString() != "knee.lead.track") continue;
                    QCOMPARE(m.toObject()["status"].toString(), "unseen");
                    QVERIFY(m.toObject()["value"].isNull()); // never a number that the view cannot give
                    ++looked;
                }
            }
        }
        QVERIFY(looked >= 9);
    }

    void extractTracksEveryFrameMeasureMakesATableAndACleanClipHasNoFault()
    {
        const QTemporaryDir dir;
        const Outcome o = run({"extract", clip("clean.mp4"), "-o", dir.filePath("t.json"), "--json"});
        QCOMPARE(o.code, 0);
        const QJsonObject summary = QJsonDocument::fromJson(o.out).object();
        QCOMPARE(summary["tracked"].toInt(), summary["frames"].toInt());
        QVERIFY(summary["frames"].toInt() > 250);
        QCOMPARE(
            run({"measure", dir.filePath("t.json"), "--form", "sparrow-tail", "-o", dir.filePath("m.csv")})
                .code,
            0);
        QFile csv(dir.filePath("m.csv"));
        QVERIFY(csv.open(QIODevice::ReadOnly));
        const auto lines = csv.readAll().split('\n');
        QCOMPARE(lines.size(), summary["frames"].toInt() + 2);
        QVERIFY(lines[0].contains("knee.lead.past_toe"));
        QCOMPARE(run({"check", dir.filePath("t.json")}).code, 0);
        QCOMPARE(run({"check", clip("clean.mp4")}).code, 0);
        const Outcome cut =
            run({"cut", dir.filePath("t.json"), "--form", "sparrow-tail", "-o", dir.filePath("cut.json")});
        QCOMPARE(cut.code, 0);
        QVERIFY(cut.out.contains("sparrow-tail: 7 postures, 0 of the form not found"));
        const QJsonObject proposed = readObject(dir.filePath("cut.json"));
        QCOMPARE(proposed["postures"].toArray().size(), 7);
        QVERIFY(proposed["others"].toArray().isEmpty());
        QCOMPARE(found(review(dir, "clean", dir.filePath("t.json")), {"safety", "fault"}), QSet<QString>());
    }

    void threadsDoNotChangeTheFrames()
    {
        const QTemporaryDir dir;
        QCOMPARE(run({"extract", clip("clean.mp4"), "-o", dir.filePath("one.json"), "--threads", "1",
                      "--model", "lite", "--range", "2,8"})
                     .code,
                 0);
        QCOMPARE(run({"extract", clip("clean.mp4"), "-o", dir.filePath("three.json"), "--threads", "3",
                      "--model", "lite", "--range", "2,8"})
                     .code,
                 0);
        const QJsonArray a = readObject(dir.filePath("one.json"))["frames"].toArray(),
                         b = readObject(dir.filePath("three.json"))["frames"].toArray();
        QCOMPARE(a.size(), b.size());
        for (int i = 0; i < a.size(); ++i)
            QCOMPARE(a[i].toObject()["time"].toDouble(), b[i].toObject()["time"].toDouble());
    }

    void badInputsAreExplained_data()
    {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("says");
        QTest::newRow("text as video")
            << QStringList{"extract", "@letter.mp4", "-o", "@t.json"} << 3 << "letter.mp4";
        QTest::newRow("truncated video")
            << QStringList{"extract", "@cut.mp4", "-o", "@t.json"} << 3 << "breaks off";
        QTest::newRow("headless video")
            << QStringList{"extract", "@head.mp4", "-o", "@t.json"} << 3 << "head.mp4";
        QTest::newRow("missing file")
            << QStringList{"extract", "@none.mp4", "-o", "@t.json"} << 3 << "no such file";
        QTest::newRow("folder") << QStringList{"extract", "@", "-o", "@t.json"} << 3 << "folder";
        QTest::newRow("nobody") << QStringList{"extract", "@nobody.mp4", "-o", "@t.json"} << 4 << "no person";
        QTest::newRow("truncated track")
            << QStringList{"measure", "@cut.json", "-o", "@m.csv"} << 3 << "line";
        QTest::newRow("unknown form")
            << QStringList{"simulate", "--form", "no-form", "-o", "@x.mp4"} << 2 << "sparrow-tail";
        QTest::newRow("unknown form to cut")
            << QStringList{"cut", "@clean", "--form", "no-form", "-o", "@c.json"} << 2 << "sparrow-tail";
        QTest::newRow("nothing to cut")
            << QStringList{"cut", "@none.mp4", "-o", "@c.json"} << 3 << "no such file";
        QTest::newRow("unknown fault")
            << QStringList{"simulate", "--fault", "gloom=1", "-o", "@x.mp4"} << 2 << "knee-past-toe";
        QTest::newRow("unknown model")
            << QStringList{"extract", "@letter.mp4", "--model", "vast", "-o", "@t.json"} << 2 << "lite";
        QTest::newRow("no command") << QStringList{} << 2 << "subcommand";
        QTest::newRow("range outside")
            << QStringList{"extract", "@clean", "--range", "900,901", "-o", "@t.json"} << 2 << "range";
        QTest::newRow("unwritable") << QStringList{"simulate", "--track", "/proc/t.json", "--fps", "5"} << 3
                                    << "/proc/t.json";
    }

    void badInputsAreExplained()
    {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        QFETCH(QString, says);
        static const QTemporaryDir dir;
        const auto write = [&](const char* name, const QByteArray& content) {
            QFile f(dir.filePath(name));
            f.open(QIODevice::WriteOnly);
            f.write(content);
        };
        write("letter.mp4", "Dear friend,\nthis is no film.\n");
        QFile whole(clip("clean.mp4"));
        QVERIFY(whole.open(QIODevice::ReadOnly));
        const QByteArray bytes = whole.readAll();
        write("cut.mp4", bytes.left(bytes.size() / 2));
        write("head.mp4", bytes.left(300));
        write("cut.json", "{\"format\": \"jolly-lantern-track\",\n \"frames\": [");
        if (!QFile::exists(dir.filePath("nobody.mp4"))) {
            jl::EncoderOptions options;
            options.width = 640;
            options.height = 360;
            auto film = jl::Encoder::create(dir.filePath("nobody.mp4").toStdString(), options);
            QVERIFY(film);
            const jl::RgbImage hall = emptyHall(640, 360);
            for (int i = 0; i < 45; ++i)
                QVERIFY(film->add(hall, i / 30.0));
            QVERIFY(film->finish());
        }
        for (QString& a : arguments) {
            if (a == "@clean")
                a = clip("clean.mp4");
            else if (a.startsWith('@'))
                a = dir.filePath(a.mid(1));
        }
        const Outcome o = run(arguments);
        QCOMPARE(o.code, code);
        QVERIFY2((o.err + o.out).contains(says.toUtf8()), (o.err + o.out).constData());
    }

    void aMissingNetworkIsNamed()
    {
        const QTemporaryDir empty, dir;
        const Outcome o = run({"extract", clip("clean.mp4"), "-o", dir.filePath("t.json")},
                              {"LANTERN_MODELS=" + empty.path()});
        QCOMPARE(o.code, 3);
        QVERIFY(o.err.contains("network file is missing"));
    }

    void listsAreJson()
    {
        const Outcome o = run({"simulate", "--list"});
        QCOMPARE(o.code, 0);
        const QJsonObject list = QJsonDocument::fromJson(o.out).object();
        for (const char* key : {"postures", "forms", "faults", "bodies", "schools", "halls", "cameras"})
            QVERIFY2(!list[key].toArray().isEmpty(), key);
        QCOMPARE(list["schools"].toArray().size(), 5);
        QVERIFY(list["postures"].toArray().size() >= 39);
        QVERIFY(list["forms"].toArray().size() >= 8);
        QVERIFY(list["bodies"].toArray().size() >= 8);
        QVERIFY(list["faults"].toArray().size() >= 55);
        for (const QJsonValue& fault : list["faults"].toArray()) {
            QVERIFY(fault.toObject()["usual"].toDouble() > 0);
            QVERIFY(!fault.toObject()["unit"].toString().isEmpty());
        }
    }

    void theTruthOfAFormThatTurns()
    {
        const QTemporaryDir dir;
        const QString truth = dir.filePath("truth.json");
        QCOMPARE(
            run({"simulate", "--form", "first-eight", "--seed", "3", "--fps", "10", "--truth", truth}).code,
            0);
        const QJsonObject o = readObject(truth);
        QSet<QString> sides, how;
        for (const QJsonValue& phase : o["phases"].toArray()) {
            sides << phase.toObject()["side"].toString();
            QVERIFY(phase.toObject()["measures"].toObject().contains("pelvis.height"));
            QVERIFY(phase.toObject()["whole"].toObject()["phase.duration"].toDouble() > 0 ||
                    phase.toObject()["phase"].toString() == "settle");
        }
        QCOMPARE(sides, (QSet<QString>{"L", "R"}));
        const QJsonObject first = o["postures"].toArray().first().toObject();
        QVERIFY(first["posture.duration"].toDouble() > 0);
        QVERIFY(o["frames"].toObject().contains("foot.L.heading"));
        for (const QJsonValue& event : o["events"].toArray())
            how << event.toObject()["how"].toString();
        QVERIFY(how.contains("heel"));
        const auto frames = o["frames"].toObject();
        const auto count = frames["time"].toArray().size();
        QVERIFY(count > 300);
        for (const QString& key : frames.keys())
            QCOMPARE(frames[key].toArray().size(), count); // each side of the body keeps its column
    }

    void camerasThatShakeAndPhonesHeldUpright()
    {
        const QTemporaryDir dir;
        const QString file = dir.filePath("phone.mp4");
        const Outcome o = run({"simulate",   "--form",  "stand",   "--size",    "192x128", "--fps",    "10",
                               "--portrait", "--shake", "4",       "--shutter", "0.5",     "--uneven", "0.5",
                               "--roll",     "3",       "--aside", "0.1",       "-o",      file});
        QCOMPARE(o.code, 0);
        const auto info = jl::probe(file.toStdString());
        QVERIFY(info);
        QCOMPARE(info->quarterTurns, 1);
        QCOMPARE(info->width, 128);
        QCOMPARE(run({"simulate", "--form", "stand", "--shake", "900", "-o", file}).code, 2);
        QCOMPARE(run({"simulate", "--form", "no-such-form", "-o", file}).code, 2);
        QCOMPARE(run({"simulate", "--fault", "left-out=1@cloud-hands", "-o", file}).code, 2);
    }
};

QTEST_GUILESS_MAIN(TestCommandLine)
#include "test_command_line.moc"
