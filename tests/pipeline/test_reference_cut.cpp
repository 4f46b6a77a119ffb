#include "base/json_file.h"
#include "body/motion.h"
#include "pipeline/reference_cut.h"
#include "reading/clip_reading.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"
#include <QTemporaryDir>
#include <nlohmann/json.hpp>

using namespace jl;

namespace
{

/// A teacher's push as read, which is cut anew in these tests.
const ClipReading& teachersPush()
{
    static const ClipReading reading =
        readTrack(filmedWhole(performForm("push", Side::Right, 86, "tall"), 90),
                  {.form = "push", .lead = Side::Right, .tables = shipped().tables});
    return reading;
}

Result<Done> cutAgain(ClipReading& clip, const std::vector<PostureCut>& cuts)
{
    auto again = readAsCut(clip, cuts, shipped().tables);
    if (!again) return again.error();
    clip = std::move(*again);
    return Done{};
}

} // namespace

/// Where a new reference is to be cut, on exact points.
class TestReferenceCut : public QObject
{
    Q_OBJECT

private slots:
    void aNamedFormIsCutWhereItsPosturesEnd()
    {
        const auto p = performForm("first-eight", Side::Left, 81, "tall", "gentle");
        const auto cut = proposeCut(shipped(), filmedWhole(p, 80), "gentle", "first-eight");
        QVERIFY(cut);
        QVERIFY(cut->others.empty());
        QVERIFY(cut->leftOut.empty());
        std::size_t phase = 0;
        for (const PostureCut& posture : cut->postures) {
            QVERIFY(posture.begin < posture.end);
            QVERIFY(posture.confidence > 0.7 && posture.confidence < 1);
            for (const PostureCut::Phase& found : posture.phases) {
                const PerformedPhase& truth = p.phases()[phase++];
                QCOMPARE(found.id, truth.phase);
                QCOMPARE(posture.id, truth.posture);
                QCOMPARE(posture.lead, truth.lead);
                if (phase > 1) VERIFY_NEAR(found.time, truth.time, 0.3);
            }
        }
        QCOMPARE(phase, p.phases().size());
    }

    void whatIsLeftOutIsSaid()
    {
        auto request = requestFor("kick-section");
        request.seed = 82;
        request.faults = {{"left-out", 1, "high-pat"}};
        const auto cut =
            proposeCut(shipped(), filmedWhole(performAs(request), 0), "upright-broad", "kick-section");
        QVERIFY(cut);
        QCOMPARE(cut->leftOut, std::vector<std::string>{"high-pat"});
        const auto json = nlohmann::json::parse(cutJson(*cut));
        QCOMPARE(json.at("left_out").at(0).get<std::string>(), std::string("high-pat"));
        QCOMPARE(json.at("postures").size(), cut->postures.size());
        QCOMPARE(json.at("postures").at(2).at("phases").size(), cut->postures[2].phases.size());
    }

    void aFormThatIsNotNamedIsRecognised()
    {
        const auto p = performForm("cloud-hands", Side::Right, 83, "small", "compact");
        int steps = 0;
        const auto cut = proposeCut(shipped(), filmedWhole(p, 10), "compact", {}, [&](double) {
            ++steps;
            return true;
        });
        QVERIFY(cut);
        QCOMPARE(cut->fit.form, std::string("cloud-hands"));
        QVERIFY(cut->fit.shown == 1);
        QVERIFY(!cut->others.empty());
        QVERIFY(cut->others.front().score() > cut->fit.score());
        QCOMPARE(static_cast<std::size_t>(steps), shipped().standards.forms.size());
    }

    void whatIsPutRightByHandIsReadThere()
    {
        QTemporaryDir dir;
        const std::filesystem::path file = dir.filePath("cut.json").toStdString();
        ReferenceCut proposed;
        proposed.fit.form = "push";
        proposed.postures = cutsOf(teachersPush().lineUp, teachersPush().model);
        PostureCut& posture = proposed.postures.back();
        QVERIFY(posture.phases.size() >= 2);
        const double arrived = posture.phases.back().time, earlier = arrived - 1;
        posture.phases.back().time = earlier;
        posture.phases.erase(posture.phases.begin()); // was not done, the teacher says
        QVERIFY(writeText(file, cutJson(proposed)));
        const auto cut = readCut(file);
        QVERIFY(cut);
        QCOMPARE(cut->fit.form, std::string("push"));
        ClipReading clip = teachersPush();
        QVERIFY(cutAgain(clip, cut->postures));
        const ModelPerformance::Place place = clip.model.places()[posture.place];
        QCOMPARE(clip.phases.size(), teachersPush().phases.size());
        QVERIFY(teachersPush().phases[place.firstPhase].phase.matched);
        QVERIFY(!clip.phases[place.firstPhase].phase.matched);
        QVERIFY(clip.phases[place.firstPhase].values.empty());
        VERIFY_NEAR(clip.phases[place.lastPhase].phase.time, earlier, 1e-3);
        // What is measured is measured at the new moment, at which the weight is still on its way.
        const auto weight = [&](const ClipReading& c) {
            return c.phases[place.lastPhase].values[static_cast<std::size_t>(Measure::WeightLead)].value;
        };
        const auto there = clip.valueAt(clip.track.nearest(earlier), Measure::WeightLead);
        QVERIFY(there);
        VERIFY_NEAR(weight(clip), *there, 3);
        QVERIFY(weight(clip) < weight(teachersPush()) - 5);
        VERIFY_NEAR(clip.lineUp.modelTimeAt(earlier), clip.phases[place.lastPhase].phase.modelTime, 0.01);
    }

    void aCutThatCannotBeIsRefused_data()
    {
        QTest::addColumn<std::function<void(std::vector<PostureCut>&)>>("spoil");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* name, std::function<void(std::vector<PostureCut>&)> spoil,
                            const char* says) { QTest::newRow(name) << std::move(spoil) << QString(says); };
        row(
            "nothing", [](auto& c) { c.clear(); }, "no posture");
        row(
            "elsewhere", [](auto& c) { c[0].place = 40; }, "postures");
        row(
            "another", [](auto& c) { c[0].id = "press"; }, "\"press\"");
        row(
            "twice", [](auto& c) { c.push_back(c.back()); }, "twice");
        row(
            "backwards", [](auto& c) { c.back().end = c.back().begin - 1; }, "not within the clip");
        row(
            "too late", [](auto& c) { c.back().end += 100; }, "not within the clip");
        row(
            "no phase", [](auto& c) { c.back().phases[0].id = "fly"; }, "no phase \"fly\"");
        row(
            "phases exchanged", [](auto& c) { std::swap(c.back().phases[0].id, c.back().phases[1].id); },
            "earlier");
        row(
            "phase outside", [](auto& c) { c.back().phases[0].time = c.back().end + 1; },
            "not within the posture");
        row(
            "no number", [](auto& c) { c.back().phases[0].time = std::nan(""); }, "not within the posture");
    }

    void aCutThatCannotBeIsRefused()
    {
        QFETCH(std::function<void(std::vector<PostureCut>&)>, spoil);
        QFETCH(QString, says);
        auto cuts = cutsOf(teachersPush().lineUp, teachersPush().model);
        spoil(cuts);
        ClipReading clip = teachersPush();
        const auto done = cutAgain(clip, cuts);
        QVERIFY(!done);
        QVERIFY2(done.error().what.find(says.toStdString()) != std::string::npos, done.error().what.c_str());
        QCOMPARE(done.error().exitCode(), 3);
        VERIFY_NEAR(clip.phases.back().phase.time, teachersPush().phases.back().phase.time, 1e-9);
    }

    void aFileThatIsNoCutIsNamed()
    {
        QTemporaryDir dir;
        const std::filesystem::path file = dir.filePath("cut.json").toStdString();
        for (const char* text :
             {"{\"form\": \"press\"}", "{\"form\": \"press\", \"postures\": [{\"place\": 0}]}",
              "{\"form\": \"press\", \"postu"}) {
            QVERIFY(writeText(file, text));
            const auto cut = readCut(file);
            QVERIFY2(!cut, text);
            QCOMPARE(cut.error().where.substr(0, file.string().size()), file.string());
            QVERIFY(!cut.error().remedy.empty());
        }
    }

    /// What is stopped proposes nothing, and a school that nobody teaches is not the clip's fault.
    void whatCannotBeProposedSaysWhy()
    {
        const Track track = filmedWhole(performForm("commence", Side::Right, 85, "small"), 0);
        const auto stopped = proposeCut(shipped(), track, "gentle", {}, [](double) { return false; });
        QVERIFY(!stopped);
        QVERIFY(stopped.error().kind == Error::Kind::Cancelled);
        const auto nowhere = proposeCut(shipped(), track, "no-school", {});
        QVERIFY(!nowhere);
        QCOMPARE(nowhere.error().exitCode(), 2);
    }

    void standingAboutIsNoForm()
    {
        const auto p = performForm("first-eight", Side::Right, 84, "small");
        Track track = filmedWhole(p, 0);
        track.frames.resize(8);
        const auto cut = proposeCut(shipped(), track, "upright-broad", {});
        QVERIFY(!cut);
        QCOMPARE(cut.error().exitCode(), 4);
        QVERIFY(!proposeCut(shipped(), track, "upright-broad", "no-such-form"));
    }
};

QTEST_APPLESS_MAIN(TestReferenceCut)
#include "test_reference_cut.moc"
