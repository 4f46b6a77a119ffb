#include "body/motion.h"
#include "pipeline/form_fit.h"
#include "pipeline/review_scene.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"
#include <atomic>

using namespace jl;

namespace
{

std::string doubtOf(const Performance& p, double azimuth, const char* takenFor)
{
    const ClipReading clip =
        readTrack(filmedWhole(p, azimuth), {.form = takenFor, .tables = shipped().tables});
    return formDoubt(shipped(), clip, "upright-broad", takenFor);
}

} // namespace

/// What is said where a clip shows another form than the one it is taken for.
class TestFormFit : public QObject
{
    Q_OBJECT

private slots:
    void aWrongFormIsDoubtedAndTheLikelierNamed()
    {
        const std::string doubt = doubtOf(performForm("brush-walk", Side::Right, 91), 90, "kick-section");
        QVERIFY2(doubt.find('"' + shipped().standards.form("brush-walk")->name + '"') != std::string::npos,
                 doubt.c_str());
        QVERIFY(doubt.find('"' + shipped().standards.form("kick-section")->name + '"') != std::string::npos);
    }

    /// Stances far too long are as unlike the form as another form is, but no other fits better.
    void faultsAreNoOtherForm()
    {
        auto request = requestFor("sparrow-tail", "upright-broad", "small");
        request.seed = 92;
        request.faults = {{"stance-long", 0.15, ""}, {"hand-behind", 0.1, ""}};
        const auto clean = requestFor("sparrow-tail", "upright-broad", "small");
        QCOMPARE(doubtOf(performAs(request), 90, "sparrow-tail"), std::string());
        QCOMPARE(doubtOf(performAs(clean), 0, "sparrow-tail"), std::string());
        const Track faulty = smoothed(filmedWhole(performAs(request), 90));
        const auto models = *shipped().models("sparrow-tail", "upright-broad");
        const auto found = lineUp(faulty, models, {});
        QVERIFY(found);
        QVERIFY(found->meanCost > 0.03);
        QVERIFY(!betterForm(shipped(), faulty, "upright-broad", "sparrow-tail"));
    }

    /// Whoever does part of a form does that form, if it is the one that was chosen.
    void aPartOfAFormIsThatForm()
    {
        QCOMPARE(doubtOf(performForm("push", Side::Right, 93), 90, "sparrow-tail"), std::string());
    }

    void aComparisonThatIsStoppedSaysNothing()
    {
        const Track clip = smoothed(filmedWhole(performForm("brush-walk", Side::Right, 91), 90));
        std::atomic<int> asked = 0;
        QVERIFY(!betterForm(shipped(), clip, "upright-broad", "kick-section", [&](double) {
            ++asked;
            return false;
        }));
        QVERIFY(asked > 0);
    }

    void whereNothingCanBeFollowedTheLikelierIsNamedToo()
    {
        ReviewRequest request;
        request.student.track = filmedWhole(performForm("sparrow-tail", Side::Right, 94), 90);
        request.form = "stand";
        const auto finished = makeReview(shipped(), request);
        QVERIFY(!finished);
        QCOMPARE(finished.error().exitCode(), 4);
        QVERIFY2(finished.error().remedy.find("It looks more like") != std::string::npos,
                 finished.error().message().c_str());
    }
};

QTEST_APPLESS_MAIN(TestFormFit)
#include "test_form_fit.moc"
