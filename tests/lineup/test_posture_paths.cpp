#include "body/motion.h"
#include "lineup/departures.h"
#include "reading/pair_measurement.h"
#include "support/clips.h"
#include "support/forms.h"
#include <numeric>

using namespace jl;

namespace
{

constexpr double kRate = 5, kSide = 90, kDistance = 5; // of from()

ClipRequest filmedFrom(double azimuth)
{
    ClipRequest clip;
    clip.camera = {azimuth, 5, kDistance, 0, 0};
    clip.framesPerSecond = 15;
    return clip;
}

Performance repeated(const char* posture)
{
    auto request = requestFor("eight-energies");
    request.seed = 71;
    request.faults = {{"repeated", 1, posture}};
    return performAs(request);
}

/// A clip's pictures, with the model of its form.
struct Filmed {
    Track track;
    ModelPerformance model;
    PictureSeries pictures;

    explicit Filmed(const Performance& p, const char* form)
        : track(smoothed(exactTrack(p, filmedFrom(kSide)))),
          model(shipped().models(form, "upright-broad", p.lead())->front()),
          pictures(picturesOf(track, standingSize(track), kRate, 0, track.frames.back().time))
    {
    }
    PostureWays ways(double rate = kRate) const { return PostureWays(model, kSide, kDistance, rate); }
};

/// Doing something else for some moments.
void lookAside(PictureSeries& pictures, double from, double to)
{
    for (std::size_t i = 0; i < pictures.size(); ++i)
        if (pictures.time[i] >= from && pictures.time[i] <= to)
            for (Eigen::Vector2d& line : pictures.lines[i])
                line.x() += 0.3;
}

ClipReading readAs(const Performance& p, double azimuth, const std::vector<ModelPerformance>& models)
{
    PersonProfile profile;
    profile.height = p.body().height;
    auto clip = readClip(exactTrack(p, filmedFrom(azimuth)), models, profile, MeasuringTables{});
    if (!clip) qFatal("%s", clip.error().message().c_str());
    return *clip;
}

/// A reading that has seen nothing of what was done in another order.
void overlookDepartures(ClipReading& clip)
{
    LineUp& seen = clip.lineUp;
    std::erase_if(seen.runs, [](const PostureRun& r) { return !r.counts; });
    for (PostureRun& run : seen.runs)
        run.order = PostureRun::Order::InPlace;
}

int repeats(const ClipReading& clip)
{
    return static_cast<int>(
        std::count_if(clip.lineUp.runs.begin(), clip.lineUp.runs.end(),
                      [](const PostureRun& r) { return r.order == PostureRun::Order::Repeated; }));
}

} // namespace

/// Paths through the postures of a form: what they tell of themselves, what leaves doubts, what is believed,
/// and how two cameras agree.
class TestPosturePaths : public QObject
{
    Q_OBJECT

private slots:
    void aFaithfulClipLeavesNoDoubts()
    {
        const Filmed clip(performForm("first-eight"), "first-eight");
        const PosturePath path(clip.pictures, clip.ways(), transitionCostsAt(kRate));
        QCOMPARE(path.runs().size(), path.ways().places());
        QVERIFY(!departs(path));
        for (bool doubtful : doubtfulPlaces(path))
            QVERIFY(!doubtful);
    }

    void tempoIsTheModelsAgainstTheClips()
    {
        auto request = requestFor("first-eight");
        request.tempo = 0.8;
        const Filmed clip(performAs(request), "first-eight");
        const PosturePath path(clip.pictures, clip.ways(), transitionCostsAt(kRate));
        QVERIFY2(std::abs(path.usualTempo() - 0.8) < 0.04, qPrintable(QString::number(path.usualTempo())));
    }

    void aFewOddMomentsAreDoubtedThoughTheirPostureFits()
    {
        Filmed clip(performForm("first-eight"), "first-eight");
        const PosturePath before(clip.pictures, clip.ways(), transitionCostsAt(kRate));
        const std::size_t run = 6; // a long posture
        const WarpedRun& long1 = before.runs()[run];
        const double middle =
            clip.pictures.time[static_cast<std::size_t>(long1.steps[long1.steps.size() / 2].first)];
        lookAside(clip.pictures, middle, middle + 0.8);
        const PosturePath path(clip.pictures, clip.ways(), transitionCostsAt(kRate));
        const std::vector<bool> doubtful = doubtfulPlaces(path);
        QVERIFY(doubtful[static_cast<std::size_t>(before.place(run))]);
        QVERIFY(!doubtful[1]); // far from it
    }

    void paceCostsWhatThePricesSay()
    {
        const Filmed clip(performForm("first-eight"), "first-eight");
        const ConnectedOptions prices = transitionCostsAt(kRate);
        const auto sum = [](const std::vector<double>& v) {
            return std::accumulate(v.begin(), v.end(), 0.0);
        };
        const PosturePath even(clip.pictures, clip.ways(), prices);
        // Twice as many states to go through in the same time: one is passed over at nearly every sample.
        const PosturePath hasty(clip.pictures, clip.ways(2 * kRate), prices);
        const double paid = (sum(hasty.costAlong()) - sum(hasty.dissimilarityAlong())) / prices.skip;
        const auto samples = static_cast<double>(clip.pictures.size());
        QVERIFY2(paid > 0.7 * samples && paid < 1.1 * samples, qPrintable(QString::number(paid / samples)));
        QVERIFY(sum(even.costAlong()) - sum(even.dissimilarityAlong()) < 0.2 * prices.skip * samples);
        // The path's own cost is what its samples cost, for one in the form's order from its beginning.
        QVERIFY(std::abs(sum(even.costAlong()) / samples - even.meanCost()) < 0.001 * even.meanCost());
    }

    void aPostureDoneAgainIsBelievedAgainstTheOrder()
    {
        const Filmed clip(repeated("press"), "eight-energies");
        const ConnectedOptions prices = transitionCostsAt(kRate, true);
        PostureWays every = clip.ways();
        every.addRearranged(std::vector<bool>(every.places(), true));
        const PosturePath departing(clip.pictures, every, prices);
        QVERIFY(departs(departing));
        ConnectedOptions keeping = prices;
        for (double* price : {&keeping.unfinished, &keeping.leftOut, &keeping.again, &keeping.back})
            *price = 50;
        keeping.beam = 3;
        const PosturePath inOrder(clip.pictures, clip.ways(), keeping);
        QVERIFY(!departs(inOrder));
        QVERIFY(isBelieved(departing, inOrder, inOrder, 1));
        QVERIFY(!isBelieved(departing, departing, inOrder, 1)); // no better than what would keep the order
        QVERIFY(!isBelieved(departing, inOrder, departing, 1));
    }

    void aCameraThatSawNoDepartureLooksAgain()
    {
        const auto p = repeated("press");
        const auto models = *shipped().models("eight-energies", "upright-broad");
        ClipReading first = readAs(p, 90, models), second = readAs(p, 0, models);
        QCOMPARE(repeats(first), 1);
        QCOMPARE(repeats(second), 1);
        overlookDepartures(first);
        QVERIFY(!first.lineUp.departs());
        std::tie(first, second) = agreedOnOrder(first, second, models, MeasuringTables{});
        QCOMPARE(repeats(first), 1);
        overlookDepartures(second);
        std::tie(first, second) = agreedOnOrder(first, second, models, MeasuringTables{});
        QCOMPARE(repeats(second), 1);
    }

    void aClipFilmedAtAnotherTimeIsNotAsked()
    {
        const auto models = *shipped().models("eight-energies", "upright-broad");
        const auto p = repeated("press");
        ClipReading first = readAs(p, 90, models), second = readAs(p, 0, models);
        overlookDepartures(first);
        for (BodyFrame& f : second.track.frames) // nothing that moves as the other one does
            f = second.track.frames.front();
        std::tie(first, second) = agreedOnOrder(first, second, models, MeasuringTables{});
        QCOMPARE(repeats(first), 0);
    }
};

QTEST_APPLESS_MAIN(TestPosturePaths)
#include "test_posture_paths.moc"
