#include "lab/judgement_cases.h"
#include "lineup/line_up.h"
#include "support/forms.h"
#include "support/near.h"
#include <set>

using namespace jl;

namespace
{

using Order = PostureRun::Order;

Track seenFrom(const Performance& p, double azimuth)
{
    ClipRequest clip;
    clip.camera = {azimuth, 5, 6.5, 0, 0};
    clip.framesPerSecond = 15;
    return smoothed(exactTrack(p, clip));
}

LineUp linedUp(const Track& track, const std::string& form, const std::string& school = "upright-broad")
{
    const auto models = shipped().models(form, school);
    if (!models) qFatal("%s", models.error().message().c_str());
    auto found = lineUp(track, *models, {});
    if (!found) qFatal("%s", found.error().message().c_str());
    return *found;
}

Performance spoilt(const std::string& form, const FaultRequest& fault)
{
    auto request = requestFor(form);
    request.seed = 71;
    request.faults = {fault};
    return performAs(request);
}

std::size_t placeOf(const std::string& form, const std::string& posture)
{
    const auto& steps = shipped().standards.form(form)->steps;
    for (std::size_t i = 1; i < steps.size(); ++i)
        if (steps[i].posture == posture) return i;
    qFatal("no %s in %s", posture.c_str(), form.c_str());
}

} // namespace

/// Postures left out, repeated, exchanged, turned or on the other side, and clips cut in the middle, on exact
/// points.
class TestDepartures : public QObject
{
    Q_OBJECT

private slots:
    void whatIsWrongIsFound_data()
    {
        QTest::addColumn<QString>("form");
        QTest::addColumn<QString>("fault");
        QTest::addColumn<QString>("posture");
        QTest::addColumn<double>("azimuth");
        QTest::newRow("left out, side") << "first-eight"
                                        << "left-out"
                                        << "white-crane" << 90.0;
        QTest::newRow("left out, front") << "kick-section"
                                         << "left-out"
                                         << "high-pat" << 0.0;
        QTest::newRow("repeated, corner") << "brush-walk"
                                          << "repeated"
                                          << "part-mane" << 45.0;
        QTest::newRow("repeated, side") << "eight-energies"
                                        << "repeated"
                                        << "pluck" << 90.0;
        QTest::newRow("other side") << "kick-section"
                                    << "wrong-side"
                                    << "box-ears" << 45.0;
        QTest::newRow("turned") << "kick-section"
                                << "wrong-heading"
                                << "high-pat" << 90.0;
        QTest::newRow("exchanged") << "kick-section"
                                   << "out-of-order"
                                   << "heel-kick" << 90.0;
        // Their ways into each other are not the form's.
        QTest::newRow("exchanged, from other stances") << "eight-energies"
                                                       << "out-of-order"
                                                       << "roll-back" << 90.0;
        QTest::newRow("exchanged, seen from the corner") << "eight-energies"
                                                         << "out-of-order"
                                                         << "elbow" << 45.0;
        QTest::newRow("other side, a short one") << "brush-walk"
                                                 << "wrong-side"
                                                 << "seven-star" << 90.0;
        // On the feet of the postures before it.
        QTest::newRow("other side, no step") << "eight-energies"
                                             << "wrong-side"
                                             << "press" << 45.0;
        // Five postures without a step stand on its feet.
        QTest::newRow("other side, a step") << "eight-energies"
                                            << "wrong-side"
                                            << "ward-off" << 90.0;
        QTest::newRow("turned, a step") << "eight-energies"
                                        << "wrong-heading"
                                        << "ward-off" << 90.0;
        // Read as well as the posture after the next, done before the next and again.
        QTest::newRow("other side, between its likes") << "full-24"
                                                       << "wrong-side"
                                                       << "brush-knee" << -90.0;
        QTest::newRow("exchanged short ones") << "brush-walk"
                                              << "out-of-order"
                                              << "seven-star" << 45.0;
        // Much like a hold and a ward-off, which lie near it in the form.
        QTest::newRow("exchanged, done as two others are") << "eight-energies"
                                                           << "out-of-order"
                                                           << "split" << -90.0;
        QTest::newRow("turned, no step") << "eight-energies"
                                         << "wrong-heading"
                                         << "press" << 90.0;
    }

    void whatIsWrongIsFound()
    {
        QFETCH(QString, form);
        QFETCH(QString, fault);
        QFETCH(QString, posture);
        QFETCH(double, azimuth);
        const std::string id = fault.toStdString();
        const auto p =
            spoilt(form.toStdString(), {id, id == "wrong-heading" ? 45.0 : 1, posture.toStdString()});
        const LineUp found = linedUp(seenFrom(p, azimuth), form.toStdString());
        const std::size_t place = placeOf(form.toStdString(), posture.toStdString());
        const auto has = [&](auto is) {
            return std::any_of(found.runs.begin(), found.runs.end(),
                               [&](const PostureRun& r) { return r.place == place && is(r); });
        };
        if (id != "left-out" && id != "repeated") // and all else where it was
            for (const PostureRun& r : found.runs)
                QVERIFY(r.place == place || (r.order == Order::InPlace && !r.otherSide && r.turned == 0));
        if (id == "left-out") QVERIFY(found.shows(place) && !found.runOf(place));
        if (id == "repeated") QVERIFY(has([](const PostureRun& r) { return r.order == Order::Repeated; }));
        if (id == "out-of-order")
            QVERIFY(has([](const PostureRun& r) { return r.order == Order::OutOfOrder; }));
        if (id == "wrong-side") QVERIFY(has([](const PostureRun& r) { return r.otherSide; }));
        if (id == "wrong-heading") QVERIFY(has([](const PostureRun& r) { return r.turned == 45; }));
    }

    void whatIsRightIsNotCalledWrong_data()
    {
        QTest::addColumn<QString>("form");
        QTest::addColumn<QString>("school");
        QTest::addColumn<double>("azimuth");
        for (const char* school : {"upright-broad", "compact"})
            for (const char* form : {"first-eight", "cloud-line", "sparrow-tail"})
                QTest::addRow("%s %s", form, school) << form << school << (*school == 'c' ? 50.0 : 88.0);
    }

    void whatIsRightIsNotCalledWrong()
    {
        QFETCH(QString, form);
        QFETCH(QString, school);
        QFETCH(double, azimuth);
        const auto p = performForm(form.toStdString(), Side::Left, 72, "small", qPrintable(school));
        const LineUp found = linedUp(seenFrom(p, azimuth), form.toStdString(), school.toStdString());
        QCOMPARE(found.runs.size(), shipped().standards.form(form.toStdString())->steps.size());
        for (std::size_t i = 0; i < found.runs.size(); ++i) {
            const PostureRun& run = found.runs[i];
            QCOMPARE(run.place, i);
            QVERIFY(run.order == Order::InPlace && !run.otherSide && run.turned == 0 && run.counts);
        }
    }

    /// The built-in performer shows each posture after itself, after the one that follows it and after the
    /// one two before it, on the other side and in other directions; as many places as there are parts.
    void everyOtherWayIntoAPostureIsPerformed()
    {
        const auto models = shipped().models("first-eight", "upright-broad", Side::Right);
        QVERIFY(models && models->size() == 1);
        const ModelPerformance& model = models->front();
        const std::size_t places = model.places().size();
        std::set<std::pair<std::size_t, std::size_t>> follows; // (before, after)
        std::set<std::size_t> mirrored, turnedRight;
        for (const ModelPerformance::Rearrangement& r : model.rearranged) {
            const auto performed = r.perform();
            QVERIFY(performed);
            QCOMPARE(performed->places.size(), r.parts.size());
            for (std::size_t i = 1; i < r.parts.size(); ++i) {
                const auto phase = performed->places[i].firstPhase;
                const auto& usual = model.phases[model.places()[r.parts[i].place].firstPhase];
                QCOMPARE(performed->phases[phase].posture, usual.posture);
                QCOMPARE(performed->phases[phase].lead != usual.lead, r.parts[i].otherSide);
                const double turned = performed->phases[phase].heading - usual.heading;
                if (!r.parts[i].otherSide) VERIFY_NEAR(turned, r.parts[i].turned, 1e-9);
                if (turned == 90) turnedRight.insert(r.parts[i].place);
                if (r.parts[i].otherSide) mirrored.insert(r.parts[i].place);
                follows.emplace(r.parts[i - 1].place, r.parts[i].place);
            }
        }
        QCOMPARE(mirrored.size(), places - 1);
        QCOMPARE(turnedRight.size(), places - 1);
        for (std::size_t i = 1; i < places; ++i) {
            QVERIFY(follows.contains({i, i}));
            QVERIFY(i + 1 == places || follows.contains({i + 1, i}));
            QVERIFY(i < 2 || follows.contains({i - 2, i}));
        }
    }

    /// Whoever stands and then begins with the second posture has left out the first; a clip that is cut
    /// there has not.
    void aBeginningThatIsLeftOutIsToldFromACut()
    {
        const std::string form = "first-eight";
        const auto p = spoilt(form, {"left-out", 1, shipped().standards.form(form)->steps[1].posture});
        const LineUp left = linedUp(seenFrom(p, 88), form);
        QVERIFY(left.shows(1));
        QVERIFY(!left.runOf(1));
        QCOMPARE(left.runs.front().place, 0UL);
        QCOMPARE(left.runs[1].place, 2UL);
        QVERIFY(left.runs.front().end <= left.runs[1].begin);
        const auto all = performForm(form, Side::Right, 76, "small");
        JudgementCase cut;
        cut.clip.framesPerSecond = 10;
        cut.shown = {all.phases()[2].time, all.duration()};
        ClipRequest clip;
        clip.camera = {88, 5, 6, 0, 0};
        clip.framesPerSecond = 10;
        const LineUp late =
            linedUp(smoothed(conventionalTrack(all, clip, LandmarkOffsets(), filmedMoments(cut, all))), form);
        QVERIFY(!late.shows(0));
    }

    void aClipCutInTheMiddleIsReadWhereItIs()
    {
        const auto p = performForm("full-24", Side::Right, 73, "tall");
        JudgementCase cut;
        cut.clip.framesPerSecond = 10;
        cut.shown = {70, 150};
        ClipRequest clip;
        clip.camera = {60, 5, 8, 0, 0};
        clip.framesPerSecond = 10;
        const Track track = smoothed(conventionalTrack(p, clip, LandmarkOffsets(), filmedMoments(cut, p)));
        const LineUp found = linedUp(track, "full-24");
        int n = 0;
        for (std::size_t i = 0; i < found.phases.size(); ++i) {
            const double moment = p.phases()[i].time;
            const bool shown = moment > 70.5 && moment < 149.5;
            if (!shown && (moment < 69 || moment > 151)) QVERIFY(!found.phases[i].matched);
            if (!shown) continue;
            QVERIFY(found.phases[i].matched);
            VERIFY_NEAR(found.phases[i].time, moment - 70, 0.4);
            ++n;
        }
        QVERIFY(n > 12);
        QVERIFY(!found.shows(0));
        QVERIFY(!found.shows(40));
    }

    /// What the clip does not show from its beginning is neither hurried nor still nor anything.
    void aPhaseThatIsCutOffIsNotJudgedAsAWhole()
    {
        const auto p = performForm("first-eight", Side::Right, 75, "small");
        const PerformedPhase& phase = p.phases()[4];
        JudgementCase cut;
        cut.clip.framesPerSecond = 10;
        cut.shown = {0.3 * phase.begin + 0.7 * phase.time, p.phases()[9].time};
        ClipRequest clip;
        clip.camera = {90, 5, 6, 0, 0};
        clip.framesPerSecond = 10;
        PersonProfile profile;
        profile.height = p.body().height;
        const auto models = shipped().models("first-eight", "upright-broad", Side::Right);
        const auto reading = readClip(conventionalTrack(p, clip, LandmarkOffsets(), filmedMoments(cut, p)),
                                      *models, profile, shipped().tables);
        QVERIFY(reading);
        QVERIFY(reading->phases[4].phase.matched);
        QVERIFY(reading->phases[4].whole.empty());
        const auto& next = reading->phases[5].whole;
        QVERIFY(!next.empty());
        const auto& duration = next[static_cast<std::size_t>(PhaseMeasure::Duration)];
        QVERIFY(duration.seen());
        VERIFY_NEAR(duration.value, p.phases()[5].time - phase.time, 3 * duration.u);
    }

    void theCameraIsPlacedInACutClip()
    {
        // Whoever walks aside is seen from another direction: the first posture shown stands metres off.
        const auto p = performForm("full-24", Side::Right, 74, "teacher");
        JudgementCase cut;
        cut.clip.framesPerSecond = 10;
        cut.shown = {66, 200};
        ClipRequest clip;
        clip.camera = {90, 5, 9, 0, 0};
        clip.framesPerSecond = 10;
        const auto models = shipped().models("full-24", "upright-broad", Side::Right);
        PersonProfile profile;
        profile.height = p.body().height;
        const auto reading = readClip(conventionalTrack(p, clip, LandmarkOffsets(), filmedMoments(cut, p)),
                                      *models, profile, MeasuringTables{});
        QVERIFY(reading);
        const Eigen::Vector3d off = reading->camera.camera.position - cameraFor(p, clip).position;
        QVERIFY2(off.norm() < 1, qPrintable(QString::number(off.norm())));
    }
};

QTEST_APPLESS_MAIN(TestDepartures)
#include "test_departures.moc"
