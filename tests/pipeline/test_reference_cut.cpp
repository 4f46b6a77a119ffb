#include "body/motion.h"
#include "pipeline/reference_cut.h"
#include "pipeline/simulated_clip.h"
#include "support/forms.h"
#include "support/near.h"
#include <nlohmann/json.hpp>

using namespace jl;

namespace
{

Track filmed(const Performance& p, double azimuth)
{
    ClipRequest clip;
    clip.camera = {azimuth, 5, 6.5, 0, 0};
    clip.framesPerSecond = 15;
    return exactTrack(p, clip);
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
        const auto cut = proposeCut(shipped(), filmed(p, 80), "gentle", "first-eight");
        QVERIFY(cut);
        QVERIFY(cut->others.empty());
        QVERIFY(cut->leftOut.empty());
        std::size_t phase = 0;
        for (const ReferenceCut::Posture& posture : cut->postures) {
            QVERIFY(posture.begin < posture.end);
            QVERIFY(posture.confidence > 0.7 && posture.confidence < 1);
            for (const ReferenceCut::Phase& found : posture.phases) {
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
            proposeCut(shipped(), filmed(performAs(request), 0), "upright-broad", "kick-section");
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
        const auto cut = proposeCut(shipped(), filmed(p, 10), "compact", {}, [&](double) {
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

    /// What is stopped proposes nothing, and a school that nobody teaches is not the clip's fault.
    void whatCannotBeProposedSaysWhy()
    {
        const Track track = filmed(performForm("commence", Side::Right, 85, "small"), 0);
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
        Track track = filmed(p, 0);
        track.frames.resize(8);
        const auto cut = proposeCut(shipped(), track, "upright-broad", {});
        QVERIFY(!cut);
        QCOMPARE(cut.error().exitCode(), 4);
        QVERIFY(!proposeCut(shipped(), track, "upright-broad", "no-such-form"));
    }
};

QTEST_APPLESS_MAIN(TestReferenceCut)
#include "test_reference_cut.moc"
