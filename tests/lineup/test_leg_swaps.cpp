#include "lineup/leg_swaps.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/near.h"

using namespace jl;

namespace
{

std::vector<ModelPerformance> modelsOf(Side lead)
{
    return *shipped().models("sparrow-tail", "upright-broad", lead);
}

/// A track in which the legs are exchanged for some spans of time, and in which frames.
std::pair<Track, std::vector<bool>> withExchanges(const Performance& p, double azimuth,
                                                  const std::vector<std::pair<double, double>>& spans)
{
    const Track clean = exactTrack(p, from(azimuth));
    std::vector<bool> done(clean.frames.size());
    for (std::size_t i = 0; i < done.size(); ++i)
        done[i] = std::any_of(spans.begin(), spans.end(), [&](const auto& s) {
            return clean.frames[i].time >= s.first && clean.frames[i].time < s.second;
        });
    return {withLegsUnswapped(clean, done), done}; // exchanging is its own undoing
}

/// The frames that are named wrongly after the search, against what was done to the track.
double wrongShare(const Performance& p, double azimuth, const std::vector<std::pair<double, double>>& spans)
{
    const auto [spoilt, done] = withExchanges(p, azimuth, spans);
    const auto models = modelsOf(p.lead());
    const auto found = lineUp(smoothed(spoilt), models, azimuth);
    if (!found) return 1;
    const auto exchanged = swappedLegs(spoilt, *found, models[found->model]);
    std::size_t wrong = 0;
    for (std::size_t i = 0; i < done.size(); ++i)
        wrong += exchanged[i] != done[i];
    return static_cast<double>(wrong) / static_cast<double>(done.size());
}

} // namespace

class TestLegSwaps : public QObject
{
    Q_OBJECT

private slots:
    void cleanTracksAreLeftAlone_data()
    {
        QTest::addColumn<double>("azimuth");
        for (double azimuth : {90.0, -90.0, 0.0, 45.0, 180.0})
            QTest::newRow(qPrintable(QString::number(azimuth))) << azimuth;
    }

    void cleanTracksAreLeftAlone()
    {
        QFETCH(double, azimuth);
        QCOMPARE(wrongShare(perform("sturdy", 7), azimuth, {}), 0.0);
    }

    void exchangedLegsAreFound_data()
    {
        QTest::addColumn<double>("azimuth");
        QTest::addColumn<double>("begin");
        QTest::addColumn<double>("length");
        QTest::newRow("a moment, from the side") << 90.0 << 9.3 << 0.4;
        QTest::newRow("through an arrival") << 90.0 << 8.0 << 2.0;
        QTest::newRow("the other side") << -90.0 << 14.0 << 1.2;
        QTest::newRow("for long") << 90.0 << 10.0 << 6.0;
    }

    void exchangedLegsAreFound()
    {
        QFETCH(double, azimuth);
        QFETCH(double, begin);
        QFETCH(double, length);
        const double wrong = wrongShare(perform("teacher", 3), azimuth, {{begin, begin + length}});
        QVERIFY2(wrong < 0.02, qPrintable(QString::number(wrong)));
    }

    /// What the reading of a clip begins with: moments are put right by it, and the camera is nearly known.
    void aRoughLookPutsMomentsRight()
    {
        const Performance p = perform("teacher", 3);
        const double azimuth = 90;
        const auto [spoilt, done] = withExchanges(p, azimuth, {{9.3, 9.7}, {14, 15.2}, {16, 22}});
        const auto models = modelsOf(p.lead());
        const auto rough = roughLineUp(smoothed(spoilt), models, {});
        QVERIFY(rough);
        VERIFY_NEAR(rough->azimuth, azimuth, 10);
        QVERIFY(rough->phases.empty() && !rough->runs.empty());
        const auto brief = spellsWithin(2, swappedLegs(spoilt, *rough, models[rough->model]), spoilt);
        std::size_t right = 0, asked = 0, late = 0;
        for (std::size_t i = 0; i < done.size(); ++i) {
            const double time = spoilt.frames[i].time;
            if (time < 15.5) right += brief[i] == done[i];
            asked += time < 15.5;
            late += time > 16.1 && time < 21.9 && brief[i];
        }
        QVERIFY(static_cast<double>(right) > 0.97 * static_cast<double>(asked));
        QCOMPARE(late, std::size_t(0)); // it lasts too long to be a moment
        const auto whole = lineUp(smoothed(withLegsUnswapped(spoilt, done)), models, {}),
                   from = lineUpFrom(*rough, smoothed(withLegsUnswapped(spoilt, done)), models);
        QVERIFY(whole && from);
        for (std::size_t i = 0; i < whole->phases.size(); ++i)
            VERIFY_NEAR(from->phases[i].time, whole->phases[i].time, 0.1);
    }

    void severalExchangesAreFound()
    {
        const double wrong = wrongShare(perform("tall", 4, Side::Left), 90,
                                        {{3.1, 3.4}, {8.2, 9.0}, {15.5, 15.8}, {18, 18.6}});
        QVERIFY2(wrong < 0.03, qPrintable(QString::number(wrong)));
    }

    void putRightTracksMeasureAsBefore()
    {
        const auto p = perform("teacher", 3);
        Track spoilt = exactTrack(p, from(90));
        std::vector<bool> span(spoilt.frames.size());
        for (std::size_t i = 0; i < span.size(); ++i)
            span[i] = spoilt.frames[i].time > 8 && spoilt.frames[i].time < 10;
        spoilt = withLegsUnswapped(spoilt, span);
        PersonProfile profile;
        profile.height = p.body().height;
        const auto models = modelsOf(Side::Right);
        const auto clip = readClip(spoilt, models, profile, MeasuringTables{});
        QVERIFY(clip);
        for (std::size_t i = 0; i < p.phases().size(); ++i) {
            if (p.phases()[i].stance != StanceKind::Bow) continue;
            const Value& v = clip->phases[i].values[static_cast<std::size_t>(Measure::KneeLeadPastToe)];
            QVERIFY(v.seen());
            VERIFY_NEAR(v.value, valueAt(p, p.phases()[i], Measure::KneeLeadPastToe), 0.02);
        }
    }

    void aBrokenShankIsNotBelieved()
    {
        const auto p = perform("teacher", 3);
        Track track = exactTrack(p, from(90));
        for (BodyFrame& f : track.frames) // the network puts the front knee half way down the shank
            f.point[index(Landmark::RightKnee)] =
                0.45 * f.at(Landmark::RightKnee) + 0.55 * f.at(Landmark::RightAnkle);
        PersonProfile profile;
        profile.height = p.body().height;
        const auto models = modelsOf(Side::Right);
        const auto clip = readClip(track, models, profile, MeasuringTables{});
        QVERIFY(clip);
        for (const MeasuredPhase& phase : clip->phases) {
            if (phase.phase.stance != StanceKind::Bow) continue;
            const auto seen = [&](Measure m) { return phase.values[static_cast<std::size_t>(m)].seen(); };
            QVERIFY(!seen(Measure::KneeLeadPastToe));
            QVERIFY(!seen(Measure::KneeLeadFlexion));
            QVERIFY(seen(Measure::TrunkLeanForward));
        }
    }
};

QTEST_APPLESS_MAIN(TestLegSwaps)
#include "test_leg_swaps.moc"
