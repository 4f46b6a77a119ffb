#include "support/near.h"
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QTemporaryDir>

namespace
{

struct Outcome {
    int code;
    QByteArray out, err;
};

Outcome run(const QStringList& arguments)
{
    QProcess p;
    p.start(CLI_PROGRAM, arguments);
    p.waitForFinished(120000);
    return {p.exitCode(), p.readAllStandardOutput(), p.readAllStandardError()};
}

QByteArray read(const QString& file)
{
    QFile f(file);
    f.open(QIODevice::ReadOnly);
    return f.readAll();
}

void write(const QString& file, const QByteArray& text)
{
    QFile f(file);
    f.open(QIODevice::WriteOnly);
    f.write(text);
}

QJsonObject object(const QByteArray& text)
{
    return QJsonDocument::fromJson(text).object();
}

} // namespace

/// The command line on tracks: what needs no pixels.
class TestTracks : public QObject
{
    Q_OBJECT

private:
    QTemporaryDir m_dir;
    QString path(const char* name) const { return m_dir.filePath(name); }

    void simulate(const char* name, const QStringList& more)
    {
        const Outcome o =
            run(QStringList{"simulate", "--fps", "15", "--body", "teacher", "--track", path(name)} + more);
        QVERIFY2(o.code == 0, o.err.constData());
    }

    /// A measure of the review at the push's arrival, or what tells one in another way.
    static QJsonObject measureIn(const QJsonObject& review, const char* id, const char* list = "measures")
    {
        for (const auto& posture : review["postures"].toArray())
            for (const auto& phase : posture.toObject()["phases"].toArray())
                if (posture.toObject()["id"] == "push" && phase.toObject()["id"] == "arrive")
                    for (const auto& m : phase.toObject()[list].toArray())
                        if (m.toObject()["id"] == id) return m.toObject();
        return {};
    }

private slots:
    void initTestCase()
    {
        simulate("side.json", {"--seed", "31", "--camera", "90,4,4.2"});
        simulate("front.json", {"--seed", "31", "--camera", "2,5,4.4"});
        write(path("profile.json"), "{\"height\": 1.72}");
    }

    void twoCamerasAtOnceGiveWhatOneCannot()
    {
        const QStringList ask{"review",    "--student",          path("side.json"),
                              "--profile", path("profile.json"), "--json"};
        const auto one = object(run(ask).out),
                   two = object(run(ask + QStringList{"--second", path("front.json")}).out);
        QCOMPARE(measureIn(one, "pelvis.square")["status"].toString(), QString("unseen"));
        QVERIFY(measureIn(one, "pelvis.square")["value"].isNull());
        QVERIFY(measureIn(two, "pelvis.square")["status"].toString() != "unseen");
        QCOMPARE(measureIn(two, "pelvis.square")["view"].toString(), QString("two-views"));
        QVERIFY(QJsonDocument(two["notes"].toArray()).toJson().contains("at once"));
        // With two views at least as much is seen of everything.
        for (const char* id : {"knee.lead.track", "stance.width", "trunk.lean.side", "knee.rear.flexion"}) {
            QVERIFY2(measureIn(one, id)["value"].isNull(), id);
            QVERIFY2(!measureIn(two, id)["value"].isNull(), id);
        }
    }

    void everyValueSaysWhereItWasReadAndInWhatElseItIsTold()
    {
        write(path("feet.json"), R"({"height": 1.72, "foot_length": 0.25})");
        const QStringList ask{"review",    "--student",       path("side.json"),
                              "--profile", path("feet.json"), "--json"};
        const auto one = object(run(ask).out),
                   two = object(run(ask + QStringList{"--second", path("front.json")}).out);
        QCOMPARE(measureIn(one, "stance.length")["plane"].toString(), QString("along"));
        QCOMPARE(measureIn(two, "pelvis.square")["plane"].toString(), QString("space"));
        const QJsonObject feet = measureIn(one, "stance.length.feet", "derived");
        VERIFY_NEAR(feet["value"].toDouble() * 0.25, measureIn(one, "stance.length")["value"].toDouble(),
                    1e-9);
        QVERIFY(feet["u"].toDouble() * 0.25 > measureIn(one, "stance.length")["u"].toDouble());
        QCOMPARE(feet["of"].toString(), QString("stance.length"));
        for (const auto& p : one["postures"].toArray()) {
            const QJsonObject posture = p.toObject(), took = posture["duration"].toObject();
            if (posture["id"] == "stand") continue; // no move
            VERIFY_NEAR(took["value"].toDouble(), posture["end"].toDouble() - posture["start"].toDouble(),
                        1e-9);
            QVERIFY(took["u"].toDouble() > 0.05);
            VERIFY_NEAR(took["ratio"].toDouble(), 1,
                        0.25); // as the form has it, but for its small variations
            const auto phases = posture["phases"].toArray();
            if (phases.size() < 2) continue;
            const QJsonObject change = phases[1].toObject()["height_change"].toArray().first().toObject();
            QCOMPARE(change["since"].toObject()["phase"], phases[0].toObject()["id"]);
            const auto height = [&](int phase) {
                for (const auto& m : phases[phase].toObject()["measures"].toArray())
                    if (m.toObject()["id"] == "pelvis.height") return m.toObject()["value"].toDouble();
                return -1.0;
            };
            VERIFY_NEAR(change["value"].toDouble(), height(1) - height(0), 1e-9);
            QVERIFY(change["u"].toDouble() > 0);
        }
        QVERIFY(measureIn(one, "foot.R.heading", "derived")["value"].isNull()); // takes two cameras
        VERIFY_NEAR(measureIn(two, "foot.R.heading", "derived")["value"].toDouble(),
                    measureIn(two, "foot.lead.angle")["value"].toDouble(), 1e-9); // pushes go straight ahead
    }

    void aRowOfAFrameSaysWhereItWasRead()
    {
        QCOMPARE(
            run({"measure", path("side.json"), "--profile", path("profile.json"), "-o", path("m.csv")}).code,
            0);
        const auto lines = read(path("m.csv")).split('\n');
        const auto names = lines[0].split(',');
        int weak = 0, pushes = 0;
        for (qsizetype i = 1; i + 1 < lines.size(); ++i) {
            const auto cells = lines[i].split(',');
            QCOMPARE(cells.size(), names.size());
            const auto of = [&](const char* name) { return cells[names.indexOf(name)]; };
            QCOMPARE(of("knee.R.flexion"),
                     of("knee.lead.flexion")); // this form is led by the right throughout
            for (qsizetype c = 0; c < names.size(); ++c)
                weak += names[c].endsWith(".status") && cells[c] == "weak";
            if (of("posture") != "push") continue;
            ++pushes;
            QCOMPARE(of("plane"), QByteArray("along"));
            QCOMPARE(of("view"), QByteArray("side-near"));
        }
        QVERIFY(pushes > 20);
        QVERIFY(weak > 20);
    }

    void anotherPerformanceIsNotTakenForTheSame()
    {
        simulate("other.json", {"--camera", "2,5,4.4", "--tempo", "1.4", "--seed", "77"});
        const Outcome o =
            run({"review", "--student", path("side.json"), "--second", path("other.json"), "--json"});
        QCOMPARE(o.code, 0);
        QVERIFY2(o.err.contains("Each view is read by itself"), o.err.constData());
        QVERIFY(measureIn(object(o.out), "pelvis.square")["value"].isNull());
        QCOMPARE(measureIn(object(o.out), "knee.lead.track")["view"].toString(), QString("front"));
    }

    /// A key moment of the reference that is put elsewhere by hand asks something else of the student.
    void aReferenceIsReadAsItIsCut()
    {
        simulate("teacher.json", {"--seed", "33", "--camera", "90,4,4.2"});
        const Outcome made =
            run({"cut", path("teacher.json"), "--form", "sparrow-tail", "-o", path("cut.json")});
        QVERIFY2(made.code == 0, made.err.constData());
        const QStringList ask{"review",      "--student",          path("side.json"),
                              "--reference", path("teacher.json"), "--json"};
        const QStringList asCut = ask + QStringList{"--reference-cut", path("cut.json")};
        const auto reference = [&](const QStringList& how) {
            return measureIn(object(run(how).out), "knee.lead.flexion")["ref"].toDouble();
        };
        VERIFY_NEAR(reference(asCut), reference(ask), 0.5);

        QJsonObject cut = object(read(path("cut.json")));
        QJsonArray postures = cut["postures"].toArray();
        for (auto posture : postures) {
            QJsonObject changed = posture.toObject();
            if (changed["id"] != "push") continue;
            QJsonArray phases = changed["phases"].toArray();
            for (auto phase : phases) {
                QJsonObject moment = phase.toObject();
                if (moment["id"] == "arrive") moment["time"] = moment["time"].toDouble() - 0.6;
                phase = moment;
            }
            changed["phases"] = phases;
            posture = changed;
        }
        cut["postures"] = postures;
        write(path("cut.json"), QJsonDocument(cut).toJson());
        QVERIFY(std::abs(reference(asCut) - reference(ask)) > 2);

        const Outcome unasked =
            run({"review", "--student", path("side.json"), "--reference-cut", path("cut.json")});
        QCOMPARE(unasked.code, 2);
        QVERIFY2(unasked.err.contains("no recorded reference"), unasked.err.constData());
        cut["form"] = "push";
        write(path("cut.json"), QJsonDocument(cut).toJson());
        const Outcome another = run(asCut);
        QCOMPARE(another.code, 2);
        QVERIFY2(another.err.contains("\"push\""), another.err.constData());
    }

    void aRepairMovesWhatStandsOnIt()
    {
        const QStringList ask{"measure", path("side.json"), "--profile", path("profile.json"), "-o"};
        QCOMPARE(run(ask + QStringList{path("plain.csv")}).code, 0);
        // The front knee at 12.2 s is put sixty pixels off.
        const QJsonArray frames = object(read(path("side.json")))["frames"].toArray();
        QJsonObject at;
        for (const QJsonValue& f : frames)
            if (std::abs(f.toObject()["time"].toDouble() - 12.2) < 0.05) at = f.toObject();
        const QJsonArray knee = at["points"].toArray()[26].toArray(); // right_knee
        write(path("repairs.json"),
              QString(R"({"repairs":[{"landmark":"right_knee","time":%1,"point":[%2,%3]}]})")
                  .arg(at["time"].toDouble())
                  .arg(knee[0].toDouble() + 60)
                  .arg(knee[1].toDouble())
                  .toUtf8());
        QCOMPARE(run(ask + QStringList{path("repaired.csv"), "--repairs", path("repairs.json")}).code, 0);
        const auto plain = read(path("plain.csv")).split('\n'),
                   repaired = read(path("repaired.csv")).split('\n');
        const auto column = plain[0].split(',').indexOf("knee.lead.flexion");
        const auto changeAt = [&](double time) {
            for (qsizetype i = 1; i + 1 < plain.size(); ++i)
                if (std::abs(plain[i].split(',')[0].toDouble() - time) < 0.05)
                    return std::abs(plain[i].split(',')[column].toDouble() -
                                    repaired[i].split(',')[column].toDouble());
            return -1.0;
        };
        QVERIFY2(changeAt(12.2) > 5, qPrintable(QString::number(changeAt(12.2))));
        VERIFY_NEAR(changeAt(9.0), 0, 0.1);
        const Outcome wrong = run(ask + QStringList{path("x.csv"), "--repairs", path("profile.json")});
        QCOMPARE(wrong.code, 3);
        QVERIFY(wrong.err.contains("repair 1"));
        write(path("late.json"), R"({"repairs":[{"landmark":"right_knee","time":99,"point":[1,1]}]})");
        const Outcome late = run(ask + QStringList{path("same.csv"), "--repairs", path("late.json")});
        QCOMPARE(late.code, 0);
        QVERIFY(late.err.contains("late.json: the repair of right_knee at 99.00 s was left out"));
        QCOMPARE(read(path("same.csv")), read(path("plain.csv")));
    }

    void whatIsKnownOfTheRoomIsUsed()
    {
        write(path("room.json"), R"({"field_of_view": 58, "wall": {"from": [0, 400], "to": [1280, 400]}})");
        const QStringList ask{"review", "--student", path("front.json"), "--json"};
        const Outcome with = run(ask + QStringList{"--calibration", path("room.json")});
        QCOMPARE(with.code, 0);
        QVERIFY(with.out != run(ask).out);
        const Outcome wrong = run(ask + QStringList{"--calibration", path("profile.json")});
        QCOMPARE(wrong.code, 3);
        QVERIFY(wrong.err.contains("calibration"));
    }

    void phasesComeWithTheirWhole()
    {
        const QJsonObject review = object(
            run({"review", "--student", path("side.json"), "--profile", path("profile.json"), "--json"}).out);
        int told = 0;
        for (const QJsonValue& posture : review["postures"].toArray())
            for (const QJsonValue& phase : posture.toObject()["phases"].toArray())
                for (const QJsonValue& v : phase.toObject()["whole"].toArray()) {
                    const QJsonObject value = v.toObject();
                    const bool seen = value["status"].toString() != "unseen";
                    QCOMPARE(value["value"].isNull(), !seen);
                    QCOMPARE(value["u"].isNull(), !seen);
                    told += seen && value["id"].toString() == "weight.transfer.evenness";
                    QVERIFY(value["id"].toString() != "pelvis.turn" || !seen); // one camera cannot tell
                }
        QVERIFY(told >= 4);
        QVERIFY(review["events"].toArray().size() >= 2);
    }

    void tablesAreAsGoodAsTracks()
    {
        simulate("side.csv", {"--seed", "31", "--camera", "90,4,4.2"});
        QCOMPARE(run({"check", path("side.csv")}).code, 0);
        const Outcome fromJson = run({"measure", path("side.json"), "-o", path("a.csv")}),
                      fromCsv = run({"measure", path("side.csv"), "-o", path("b.csv")});
        QCOMPARE(fromJson.code, 0);
        QCOMPARE(fromCsv.code, 0);
        const auto a = read(path("a.csv")).split('\n'), b = read(path("b.csv")).split('\n');
        QCOMPARE(a.size(), b.size());
        QCOMPARE(a[0], b[0]);
        QVERIFY(a[0].contains("pelvis.height,pelvis.height.u,pelvis.height.status"));
        const auto row = [](const QByteArray& line, int cell) { return line.split(',')[cell].toDouble(); };
        for (qsizetype i = 10; i + 1 < a.size(); i += 40)
            VERIFY_NEAR(row(a[i], 1), row(b[i], 1), 0.05);
        // Rounded points may move the path, and with it the depths expected, by some thousandths of a second.
        for (qsizetype i = 1; i + 1 < a.size(); ++i)
            VERIFY_NEAR(row(a[i], 1), row(b[i], 1), 0.15);
        write(path("half.csv"), read(path("side.csv")).left(30000));
        const Outcome half = run({"measure", path("half.csv"), "-o", path("c.csv")});
        QCOMPARE(half.code, 3);
        QVERIFY(half.err.contains("line"));
    }

    void mannersChangeThePerformance()
    {
        const auto heightOf = [&](const char* stance) {
            const Outcome o = run({"simulate", "--fps", "5", "--seed", "0", "--body", "teacher", "--stance",
                                   stance, "--truth", path("t.json")});
            if (o.code != 0) return -1.0;
            for (const auto& phase : object(read(path("t.json")))["phases"].toArray())
                if (phase.toObject()["posture"] == "push" && phase.toObject()["phase"] == "arrive")
                    return phase.toObject()["measures"].toObject()["pelvis.height"].toDouble();
            return -2.0;
        };
        const double low = heightOf("low"), middle = heightOf("middle"), high = heightOf("high");
        QVERIFY2(low > 0 && low < middle && middle < high,
                 qPrintable(QString("%1 %2 %3").arg(low).arg(middle).arg(high)));
        QCOMPARE(run({"simulate", "--stance", "floating", "--truth", path("t.json")}).code, 2);
        QCOMPARE(run({"simulate", "--form", "double-kick", "--jump", "--fps", "5", "--truth", path("t.json")})
                     .code,
                 0);
    }

    void truthTellsOfWholePhases()
    {
        QCOMPARE(run({"simulate", "--fps", "5", "--truth", path("t.json"), "--fault", "jerky=0.9"}).code, 0);
        const QJsonObject truth = object(read(path("t.json")));
        QVERIFY(!truth["phases"].toArray().isEmpty());
        for (const auto& phase : truth["phases"].toArray()) {
            const QJsonObject whole = phase.toObject()["whole"].toObject();
            for (const char* key : {"phase.duration", "flow.smoothness", "flow.pauses", "balance.sway",
                                    "balance.hold", "balance.touches", "order.shift.step", "order.shift.turn",
                                    "order.shift.sink", "pivot.L.on", "pelvis.turn", "hand_foot.lag"})
                QVERIFY2(whole.contains(key), key);
            QVERIFY(whole["flow.smoothness"].toDouble() <= 0);
        }
        const QJsonObject camera = truth["camera"].toObject();
        QVERIFY(camera["distance"].toDouble() >= 4); // stepped back until the body stays in the picture
    }

    void analyticValidationPrintsItsTable()
    {
        const Outcome o = run({"validate", "--analytic", "--cases", "14", "--also", "7", "2", "--json",
                               "--fit-accuracy", path("fit.json")});
        QVERIFY2(o.code == 0, o.err.constData());
        const QJsonObject result = object(o.out);
        QCOMPARE(result["cases"].toInt(), 16);
        QVERIFY(result["rows"].toArray().size() > 40);
        QVERIFY(result["pairs"].toInt() >= 1);
        for (const auto& row : result["followed"].toArray())
            QCOMPARE(row.toObject()["seen"].toInt(), row.toObject()["frames"].toInt());
        // Of so few clips two cameras are surer nowhere than any two are.
        const QJsonObject table = object(read(path("fit.json")));
        const QJsonObject any = table["two-views"].toObject();
        int compared = 0;
        for (const QString& view : table.keys()) {
            if (!view.startsWith("two-views-")) continue;
            const QJsonObject rows = table[view].toObject();
            for (const QString& measure : rows.keys()) {
                QVERIFY2(any.contains(measure), qPrintable(measure));
                const QJsonObject own = rows[measure].toObject(), all = any[measure].toObject();
                QVERIFY(own["floor"].toDouble() >= all["floor"].toDouble());
                QVERIFY(own["scale"].toDouble(1) >= all["scale"].toDouble(1));
                ++compared;
            }
        }
        QVERIFY2(compared > 10, qPrintable(QString::number(compared)));
    }

    void markersNeedTheirMapping()
    {
        write(path("m.trc"), "PathFileType\t4\t(X/Y/Z)\tm.trc\nnothing\n");
        write(path("m.json"), "{\"up\": \"y\", \"points\": {}}");
        const Outcome o = run({"measure", path("m.trc"), "--markers", path("m.json"), "-o", path("m.csv")});
        QCOMPARE(o.code, 3);
        QVERIFY(o.err.contains("m.trc"));
        QCOMPARE(run({"measure", path("m.trc"), "--markers", path("none.json"), "-o", path("m.csv")}).code,
                 3);
    }
};

QTEST_GUILESS_MAIN(TestTracks)
#include "test_tracks.moc"
