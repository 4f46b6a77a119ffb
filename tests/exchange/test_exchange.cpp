#include "base/day.h"
#include "base/json_file.h"
#include "exchange/marker_file.h"
#include "exchange/measures_check.h"
#include "exchange/measures_file.h"
#include "exchange/profile_file.h"
#include "exchange/review_file.h"
#include "exchange/track_file.h"
#include "exchange/track_pack.h"
#include "performer/truth.h"
#include "support/near.h"
#include "support/shipped.h"
#include <QTemporaryDir>

using namespace jl;

namespace
{

std::string readAll(const std::filesystem::path& file)
{
    QFile f(QString::fromStdString(file.string()));
    f.open(QIODevice::ReadOnly);
    return f.readAll().toStdString();
}

/// A marker set with names of its own; the hips are the mean of two markers each.
struct Marker {
    const char* name;
    Landmark at;
    double forward; ///< m in front of the point
};
constexpr Marker kMarkers[] = {
    {"LSHO", Landmark::LeftShoulder, 0}, {"RSHO", Landmark::RightShoulder, 0},
    {"LELB", Landmark::LeftElbow, 0},    {"RELB", Landmark::RightElbow, 0},
    {"LWRI", Landmark::LeftWrist, 0},    {"RWRI", Landmark::RightWrist, 0},
    {"LASI", Landmark::LeftHip, 0.08},   {"LPSI", Landmark::LeftHip, -0.08},
    {"RASI", Landmark::RightHip, 0.08},  {"RPSI", Landmark::RightHip, -0.08},
    {"LKNE", Landmark::LeftKnee, 0},     {"RKNE", Landmark::RightKnee, 0},
    {"LANK", Landmark::LeftAnkle, 0},    {"RANK", Landmark::RightAnkle, 0},
    {"LHEE", Landmark::LeftHeel, 0},     {"RHEE", Landmark::RightHeel, 0},
    {"LTOE", Landmark::LeftToe, 0},      {"RTOE", Landmark::RightToe, 0},
};
const char* const kMapping = R"({"up": "y", "points": {
    "left_shoulder": ["LSHO"], "right_shoulder": ["RSHO"], "left_elbow": ["LELB"], "right_elbow": ["RELB"],
    "left_wrist": ["LWRI"], "right_wrist": ["RWRI"], "left_hip": ["LASI", "LPSI"], "right_hip": ["RASI", "RPSI"],
    "left_knee": ["LKNE"], "right_knee": ["RKNE"], "left_ankle": ["LANK"], "right_ankle": ["RANK"],
    "left_heel": ["LHEE"], "right_heel": ["RHEE"], "left_toe": ["LTOE"], "right_toe": ["RTOE"]}})";

/// A performance as another laboratory would export it: millimetres, y up, turned by a quarter and far from
/// the origin, with a gap in one marker.
std::string markersOf(const Performance& p)
{
    std::string text = "PathFileType\t4\t(X/Y/Z)\tm.trc\nDataRate\tCameraRate\tNumFrames\tNumMarkers\tUnits\n"
                       "20\t20\t0\t0\tmm\nFrame#\tTime";
    for (const Marker& m : kMarkers)
        text += std::string("\t") + m.name + "\t\t";
    text += "\n\t\tX1\tY1\tZ1\n";
    char cell[120];
    int n = 0;
    for (double t = 0; t < p.duration(); t += 0.05) {
        std::snprintf(cell, sizeof cell, "%d\t%.4f", ++n, 3 + t);
        text += cell;
        const Figure f = p.figureAt(t);
        for (const Marker& m : kMarkers) {
            const Eigen::Vector3d at = f.at(m.at) + m.forward * f.of(Bone::Pelvis).rotation.col(1);
            const Eigen::Vector3d turned(at.y() + 2, -at.x() - 1, at.z() + 0.4);
            std::snprintf(cell, sizeof cell, "\t%.2f\t%.2f\t%.2f", 1000 * turned.x(), 1000 * turned.z(),
                          -1000 * turned.y());
            text += n > 40 && n < 45 && m.at == Landmark::LeftKnee ? "\t\t\t" : cell;
        }
        text += "\n";
    }
    return text;
}

} // namespace

class TestExchange : public QObject
{
    Q_OBJECT

private slots:
    void packedTracksHaveEverything()
    {
        ClipRequest clip;
        clip.framesPerSecond = 5;
        clip.sound = true;
        Track track = exactTrack(perform(), clip);
        track.clip = "a clip.mp4";
        track.frames[3].seen = false;
        track.frames[4].cameraShift = {1.5, -2};
        track.frames[5].cameraLost = true;
        QVERIFY(!unpackTrack(packTrack(track), "here")->fieldOfView);
        track.roll = CameraRoll{-3.5, 0.25};
        QVERIFY(!unpackTrack(packTrack(track), "here")->fieldOfView);
        track.fieldOfView = 64.5;
        const std::string packed = packTrack(track);
        for (const std::string& kept :
             {packed, trackToJson(track)}) { // the JSON is what earlier versions kept
            const auto back = unpackTrack(kept, "here");
            QVERIFY2(back, back ? "" : back.error().message().c_str());
            QCOMPARE(back->frames.size(), track.frames.size());
            QCOMPARE(back->clip, track.clip);
            QCOMPARE(back->model, track.model);
            QCOMPARE(back->width, track.width);
            QCOMPARE(back->fieldOfView, track.fieldOfView);
            QVERIFY(back->roll && back->roll->deg == -3.5 && back->roll->spread == 0.25);
            QCOMPARE(back->loudness.moments, track.loudness.moments);
            QVERIFY(!back->frames[3].seen && back->frames[5].cameraLost && !back->frames[6].cameraLost);
            QVERIFY((back->frames[4].cameraShift - track.frames[4].cameraShift).norm() < 1e-6);
            for (std::size_t i = 4; i < track.frames.size(); ++i) {
                VERIFY_NEAR(back->frames[i].time, track.frames[i].time, 1e-6);
                QVERIFY((back->frames[i].point[20] - track.frames[i].point[20]).norm() < 1e-3);
                QVERIFY((back->frames[i].metric[20] - track.frames[i].metric[20]).norm() < 1e-5);
                VERIFY_NEAR(back->frames[i].visibility[20], track.frames[i].visibility[20], 1e-4);
            }
        }
        for (std::size_t length = 0; length < packed.size(); length += length < 200 ? 1 : 9973) {
            const auto broken = unpackTrack(packed.substr(0, length), "here");
            QVERIFY(!broken);
            QCOMPARE(broken.error().kind, Error::Kind::BadInput);
        }
    }

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
        QCOMPARE(csv.size(), static_cast<qsizetype>(track.frames.size()) + 3);
        QCOMPARE(csv[1].count(','), 2 + 3 * 33);
        QCOMPARE(csv[2].count(','), csv[1].count(','));
        const auto trc = lines("t.trc");
        QVERIFY(trc[0].startsWith("PathFileType"));
        QCOMPARE(trc[6].split('\t').size(), 2 + 3 * 33);
        QCOMPARE(writeTrack(track, dir.filePath("t.xyz").toStdString()).error().exitCode(), 2);
    }

    void tablesOfPointsSurviveTheRoundTrip()
    {
        const QTemporaryDir dir;
        ClipRequest clip;
        clip.framesPerSecond = 10;
        Track track = exactTrack(perform(), clip);
        track.frames[4].seen = false;
        const auto file = std::filesystem::path(dir.filePath("t.csv").toStdString());
        QVERIFY(writeTrack(track, file));
        const auto back = readTrack(file);
        QVERIFY2(back, back ? "" : back.error().message().c_str());
        QCOMPARE(back->width, track.width);
        QCOMPARE(back->frames.size(), track.frames.size());
        QVERIFY(!back->frames[4].seen);
        QVERIFY((back->frames[9].at(Landmark::RightToe) - track.frames[9].at(Landmark::RightToe)).norm() <
                2e-3);
        std::string text = readAll(file);
        QVERIFY(writeText(file, text.substr(0, text.size() / 2)));
        QCOMPARE(readTrack(file).error().exitCode(), 3);
        QVERIFY(writeText(file, text.substr(text.find('\n') + 1)));
        QVERIFY(readTrack(file).error().message().find("line 1") != std::string::npos);
    }

    void markersOfMotionCaptureAreMeasured()
    {
        const QTemporaryDir dir;
        const auto p = perform("small", 4, Side::Left);
        const auto trc = std::filesystem::path(dir.filePath("m.trc").toStdString()),
                   map = std::filesystem::path(dir.filePath("m.json").toStdString());
        QVERIFY(writeText(trc, markersOf(p)));
        QVERIFY(writeText(map, kMapping));
        auto motion = readMarkers(trc, map);
        QVERIFY2(motion, motion ? "" : motion.error().message().c_str());
        PersonProfile profile;
        profile.height = p.body().height;
        const auto models = shipped().models("sparrow-tail", "upright-broad");
        const auto reading = lineUpMotion(std::move(*motion), *models, profile);
        QVERIFY2(reading, reading ? "" : reading.error().message().c_str());
        QCOMPARE(reading->lineUp.phases.front().lead, Side::Left);
        for (std::size_t i = 0; i < p.phases().size(); ++i) {
            const PerformedPhase& phase = p.phases()[i];
            VERIFY_NEAR(reading->lineUp.phases[i].time, phase.time, 0.3);
            const auto frame = static_cast<std::size_t>(std::lround(phase.time * 20));
            for (Measure m : {Measure::KneeLeadFlexion, Measure::KneeLeadPastToe, Measure::StanceLength,
                              Measure::StanceWidth, Measure::TrunkLeanForward, Measure::PelvisSquare,
                              Measure::HandLeadHeight, Measure::FootRearAngle, Measure::WeightLead})
                VERIFY_NEAR(
                    reading->value(m, frame),
                    trueMeasure(m, p.figureAt(static_cast<double>(frame) / 20), phase.lead, phase.heading),
                    m == Measure::KneeLeadPastToe                                    ? 0.005
                    : allMeasures()[static_cast<std::size_t>(m)].unit == Unit::Metre ? 0.03
                                                                                     : 3.0);
            QVERIFY(std::isnan(reading->value(Measure::HeadTilt, frame))); // the ears are not marked
        }
        const std::string csv = measuresCsv(*reading, {});
        QVERIFY(csv.find("push,arrive") != std::string::npos);
        QVERIFY(namesMeasures(csv));
        const auto table = checkMeasures(csv, "m.csv");
        QVERIFY2(table, table ? "" : table.error().message().c_str());
        QCOMPARE(table->moments, reading->motion.frames.size());
        QVERIFY(table->measures >= kMeasureCount);
        const auto said = [](const std::string& text) {
            return checkMeasures(text, "m.csv").error().message();
        };
        QVERIFY(said(csv + csv.substr(csv.rfind('\n', csv.size() - 2) + 1)).find("go on") !=
                std::string::npos);
        QVERIFY(said(csv.substr(0, csv.size() - 20)).find("cells instead of") != std::string::npos);
        QVERIFY(said("time,posture,phase,knee\n0,stand,settle,bent\n").find("under knee") !=
                std::string::npos);
        QVERIFY(said("time,posture,phase,knee\n").find("no line") != std::string::npos);

        QVERIFY(writeText(map, std::string(kMapping).replace(std::string(kMapping).find("RKNE"), 4, "KNIE")));
        QVERIFY(readMarkers(trc, map).error().message().find("KNIE") != std::string::npos);
        QVERIFY(writeText(trc, "something else"));
        QCOMPARE(readMarkers(trc, map).error().exitCode(), 3);
    }

    void profilesAreChecked()
    {
        const QTemporaryDir dir;
        const auto file = std::filesystem::path(dir.filePath("p.json").toStdString());
        QVERIFY(writeText(file, "{\"height\": 1.71, \"foot_length\": 0.265}"));
        QCOMPARE(readProfile(file)->body.height, std::optional(1.71));
        QVERIFY(writeText(file, "{\"height\": 171}"));
        QVERIFY(readProfile(file).error().message().find("metres") != std::string::npos);
        QVERIFY(writeText(file, "{\"height\": \"tall\"}"));
        QVERIFY(!readProfile(file));

        StudentLimits limits;
        limits.kneeFlexion = 60;
        limits.kicks = false;
        limits.kneeSide = Side::Left;
        limits.until = dayFrom("2026-12-24");
        QVERIFY(writeText(file, nlohmann::json{{"limits", limitsJson(limits)}}.dump()));
        QVERIFY(readProfile(file)->limits == limits);
        QVERIFY(writeText(file, R"({"limits": {"knee_flexion": 600}})"));
        QVERIFY(readProfile(file).error().message().find("limits/knee_flexion") != std::string::npos);
        QVERIFY(writeText(file, R"({"limits": {"until": "soon"}})"));
        QVERIFY(readProfile(file).error().message().find("limits/until") != std::string::npos);
        QVERIFY(writeText(file, R"({"limits": {"knee_side": "both"}})"));
        QVERIFY(readProfile(file).error().message().find("knee_side") != std::string::npos);
        QVERIFY(writeText(file, R"({"limits": {"headstands": false}})"));
        QVERIFY(readProfile(file).error().message().find("headstands") != std::string::npos);
    }
};

QTEST_APPLESS_MAIN(TestExchange)
#include "test_exchange.moc"
