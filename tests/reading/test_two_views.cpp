#include "base/angles.h"
#include "camera/least_squares.h"
#include "lab/network_noise.h"
#include "performer/truth.h"
#include "reading/measure_course.h"
#include "review/review.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/lab.h"
#include "support/near.h"
#include "support/readings.h"

using namespace jl;

namespace
{

/// A perfect track, begun some time later, as by a camera that was started at another moment; what is heard
/// is cut to whole steps, nearest to it.
Track exactLater(const Performance& p, const ClipRequest& clip, double later)
{
    Track track = exactTrack(p, clip);
    std::erase_if(track.frames, [&](const BodyFrame& f) { return f.time < later; });
    for (BodyFrame& f : track.frames)
        f.time -= later;
    auto& heard = track.loudness.moments;
    const auto cut = std::min(std::ssize(heard), std::lround(later / LoudnessCourse::kStep));
    heard.erase(heard.begin(), heard.begin() + cut);
    return track;
}

/// One performance from the side and from the front at once.
struct SideAndFront {
    Performance p = perform("tall", 8);
    ClipReading first = readExact(exactTrack(p, from(90)), p), second = readExact(exactTrack(p, from(0)), p);
    Result<PairMeasurement> pair = measureTogether(first, second, MeasuringTables{});
};

} // namespace

/// Two cameras at once: their offset in time, their places, and everything that is read from both.
class TestTwoViews : public QObject
{
    Q_OBJECT

private slots:
    void leastSquaresFindsAMinimum()
    {
        // Rosenbrock's valley, as residuals: the only minimum is at (1, 1).
        const auto valley = [](const Eigen::VectorXd& x) {
            Eigen::VectorXd r(2);
            r << 10 * (x[1] - x[0] * x[0]), 1 - x[0];
            return r;
        };
        const auto found = leastSquares(valley, Eigen::Vector2d(-1.2, 1), 200);
        VERIFY_NEAR(found.unknowns[0], 1, 1e-3);
        VERIFY_NEAR(found.unknowns[1], 1, 2e-3);
        QVERIFY(found.residuals.norm() < 1e-3);
    }

    void clipsFindTheirOffset_data()
    {
        QTest::addColumn<double>("azimuth");
        QTest::addColumn<double>("later");
        QTest::addColumn<double>("fps");
        QTest::newRow("side and front") << 0.0 << 0.0 << 15.0;
        QTest::newRow("started later") << 10.0 << 0.437 << 15.0;
        QTest::newRow("another rate") << -20.0 << 0.61 << 24.0;
        QTest::newRow("from the corner") << 45.0 << 0.25 << 30.0;
    }

    void clipsFindTheirOffset()
    {
        QFETCH(double, azimuth);
        QFETCH(double, later);
        QFETCH(double, fps);
        const auto p = perform("teacher", 5);
        const auto first = readExact(exactTrack(p, from(90)), p),
                   second = readExact(exactLater(p, from(azimuth, fps), later), p);
        const auto rough = synchronise(first.track, second.track);
        QVERIFY(rough);
        QVERIFY(rough->likeness > 0.9);
        VERIFY_NEAR(rough->offset, -later, 0.03);
        const auto pair = measureTogether(first, second, MeasuringTables{});
        QVERIFY2(pair, pair ? "" : pair.error().message().c_str());
        VERIFY_NEAR(pair->measurer->cameras().offset, -later, 0.015);
        VERIFY_NEAR(pair->measurer->cameras().apart, 90 - azimuth, 5);
        QVERIFY(pair->measurer->cameras().rayDistance < 0.006);
    }

    void soundTellsWhichRepetition()
    {
        // Cloud hands five times over look alike wherever one cuts them; the hall's sound does not repeat.
        auto request = requestFor("cloud-line");
        request.seed = 3;
        const auto p = performAs(request);
        const double later = 9.214;
        ClipRequest side = from(90, 15), front = from(0, 24);
        side.sound = front.sound = true;
        const Track first = smoothed(exactTrack(p, side)), second = smoothed(exactLater(p, front, later));
        const auto found = synchronise(first, second);
        QVERIFY(found);
        QVERIFY(found->heard);
        VERIFY_NEAR(found->offset, -later, 0.015);
        QVERIFY(found->likeness > 0.8);
    }

    /// With the networks' usual errors in both pictures: surer, and still true.
    void whatEachClipSaysAloneMakesBothSurer()
    {
        const auto data = lab().withoutBias();
        const auto p = perform("tall", 8);
        const auto models = *data.models("sparrow-tail", "upright-broad", p.lead());
        PersonProfile profile;
        profile.height = p.body().height;
        const auto noisy = [&](double azimuth, std::uint32_t seed) {
            const ClipRequest clip = from(azimuth);
            const Track exact = conventionalTrack(p, clip, data.tables.offsets, clipTimes(p, clip));
            auto read = readClip(withNoise(exact, bodyPixels(p, clip), seed, *data.errors), models, profile,
                                 data.tables);
            if (!read) qFatal("%s", read.error().message().c_str());
            return *read;
        };
        double true2u = 0, surer = 0, all = 0;
        for (std::uint32_t seed : {1u, 2u, 3u}) {
            const auto pair = measureTogether(noisy(90, seed), noisy(0, seed + 100), data.tables);
            QVERIFY(pair);
            for (std::size_t i = 0; i < pair->phases.size(); ++i)
                for (std::size_t m = 0; m < pair->phases[i].values.size(); ++m) {
                    const Value &both = pair->phases[i].values[m], &meeting = pair->triangulated[i].values[m];
                    QCOMPARE(both.seen(), meeting.seen());
                    if (!both.seen()) continue;
                    const double truth = valueAt(p, p.phases()[i], both.measure);
                    true2u += std::abs(wrapDeg(both.value - truth)) <= 2 * both.u;
                    surer += both.u < meeting.u;
                    ++all;
                }
        }
        QVERIFY2(true2u > 0.93 * all, qPrintable(QString::number(true2u / all)));
        QVERIFY2(surer > 0.5 * all, qPrintable(QString::number(surer / all)));
    }

    void everythingIsReadFromTwoSides()
    {
        const auto p = perform("tall", 8);
        const auto pair = measureTogether(readExact(exactTrack(p, from(90, 15, 0.95)), p),
                                          readExact(exactTrack(p, from(-5, 15, 1.06)), p), MeasuringTables{});
        QVERIFY2(pair, pair ? "" : pair.error().message().c_str());
        int outside = 0, all = 0;
        for (std::size_t i = 0; i < pair->phases.size(); ++i) {
            const PerformedPhase& phase = p.phases()[i];
            QCOMPARE(
                pair->measurer->viewsOf({p.figureAt(phase.time).landmark, phase.lead, phase.heading, {}}),
                std::string_view("two-views-front"));
            for (const Value& v : pair->phases[i].values) {
                QVERIFY(v.seen() || v.measure == Measure::BalanceMargin);
                QCOMPARE(v.view, View::Both);
                if (!v.seen()) continue;
                const double truth = valueAt(p, phase, v.measure);
                const double error = allMeasures()[static_cast<std::size_t>(v.measure)].unit == Unit::Degree
                                         ? wrapDeg(v.value - truth)
                                         : v.value - truth;
                ++all;
                outside += std::abs(error) > 2 * v.u;
                if (v.measure == Measure::KneeLeadFlexion || v.measure == Measure::KneeRearFlexion)
                    VERIFY_NEAR(v.value, truth, 3.0);
                if (v.measure == Measure::KneeLeadPastToe || v.measure == Measure::KneeLeadTrack)
                    VERIFY_NEAR(v.value, truth, 0.02);
                if (v.measure == Measure::StanceLength || v.measure == Measure::StanceWidth)
                    VERIFY_NEAR(v.value, truth, 0.03);
                if (v.measure == Measure::PelvisSquare) VERIFY_NEAR(v.value, truth, 5.0);
                if (v.measure == Measure::WeightLead) VERIFY_NEAR(v.value, truth, 4.0);
            }
        }
        QVERIFY2(outside < 0.08 * all, qPrintable(QString("%1 of %2 outside 2 u").arg(outside).arg(all)));
    }

    /// A camera with a longer lens than usual, told by its file, is placed where it stands.
    void aLensThatIsToldPlacesBothCameras()
    {
        const auto p = perform("tall", 8);
        const auto longer = from(90, 15, 1.3);
        Track track = exactTrack(p, longer);
        const auto second = readExact(exactTrack(p, from(0)), p);
        const Camera truth = cameraFor(p, longer);
        const auto focal = [&] {
            const auto pair = measureTogether(readExact(track, p), second, MeasuringTables{});
            return pair ? pair->measurer->cameras().first.focal / truth.focal : 0;
        };
        const double untold = focal();
        track.fieldOfView = 2 * std::atan(0.5 * track.width / truth.focal) * kDegPerRad;
        VERIFY_NEAR(focal(), 1, 0.02);
        QVERIFY2(std::abs(untold - 1) > 0.04, qPrintable(QString::number(untold)));
    }

    /// What only both show has a course from both, which ends at the value of the arrival.
    void whatBothShowHasACourse()
    {
        const SideAndFront filmed;
        const auto& [p, first, second, pair] = filmed;
        QVERIFY(pair);
        const MeasuredPhase& phase = pair->phases.back();
        const double begin = phase.phase.begin, end = phase.phase.time;
        QVERIFY(measureCourse(first, Measure::PelvisSquare, begin, end).points.empty());
        const auto course = measureCourse(*pair, first, second, Measure::PelvisSquare, begin, end);
        QVERIFY(course.points.size() > 10);
        for (const auto& point : course.points) {
            const double time = begin + point.share * (end - begin);
            const Figure figure = p.figureAt(time);
            const double truth =
                trueMeasure(Measure::PelvisSquare, figure, p.phases().back().lead, p.phases().back().heading);
            VERIFY_NEAR(wrapDeg(point.value - truth), 0, 6.0);
            QVERIFY(point.u > 0.3 && point.u < 20);
        }
        const auto& atEnd = phase.values[static_cast<std::size_t>(Measure::PelvisSquare)];
        VERIFY_NEAR(course.points.back().value, atEnd.value, 2.0);
    }

    /// Feet below the edge of one picture are guessed there, and whatever stands on them says so.
    void whatIsOutsideOfOnePictureIsGuessed()
    {
        const SideAndFront filmed;
        const auto& [p, first, second, pair] = filmed;
        QVERIFY(pair);
        const FoundPhase& phase = pair->phases.back().phase;
        BodyFrame a = frameAt(first.track, phase.time);
        const BodyFrame b = frameAt(second.track, phase.time + pair->measurer->cameras().offset);
        const auto uncertainty = [&](Measure m) {
            return pair->measurer->measure(a, b, first.priorAt(phase.time))[static_cast<std::size_t>(m)].u;
        };
        const double toe = uncertainty(Measure::KneeLeadPastToe),
                     lean = uncertainty(Measure::TrunkLeanForward);
        // The same points in a picture that was shaken downwards: the feet were never in it.
        a.cameraShift.y() = 2 * pair->measurer->cameras().first.centre.y() - a.at(Landmark::LeftAnkle).y();
        QVERIFY(uncertainty(Measure::KneeLeadPastToe) > 3 * toe);
        VERIFY_NEAR(uncertainty(Measure::TrunkLeanForward), lean, 1e-9);
    }

    /// Nobody twists the waist by a quarter turn: hips taken for each other say nothing of the pelvis.
    void hipsTakenForEachOtherAreNotBelieved()
    {
        const SideAndFront at;
        QVERIFY(at.pair);
        const TwoViewMeasurer& measurer = *at.pair->measurer;
        const double time = at.p.phases()[3].time;
        BodyFrame a = frameAt(at.first.track, time),
                  b = frameAt(at.second.track, time + measurer.cameras().offset);
        const auto seen = [&](Measure m) {
            return measurer.measure(a, b, at.first.priorAt(time))[static_cast<std::size_t>(m)].seen();
        };
        QVERIFY(seen(Measure::PelvisSquare) && seen(Measure::WaistTwist));
        for (BodyFrame* f : {&a, &b})
            std::swap(f->point[index(Landmark::LeftHip)], f->point[index(Landmark::RightHip)]);
        QVERIFY(!seen(Measure::PelvisSquare) && !seen(Measure::WaistTwist));
        QVERIFY(seen(Measure::ShouldersLevel));
    }

    void whatWasNotFilmedAtOnceIsRefused_data()
    {
        QTest::addColumn<double>("tempo");
        for (double tempo : {1.0, 0.95, 1.1, 1.3})
            QTest::addRow("tempo %g", tempo) << tempo;
    }

    /// Who does the form again, even at the same tempo, hurries here and lags there.
    void whatWasNotFilmedAtOnceIsRefused()
    {
        QFETCH(double, tempo);
        const auto p = perform("teacher", 5), other = perform("teacher", 6, Side::Right, {}, tempo);
        const auto apart = measureTogether(readExact(exactTrack(p, from(90)), p),
                                           readExact(exactTrack(other, from(0)), other), MeasuringTables{});
        QVERIFY2(!apart, apart ? qPrintable(QString::number(apart->measurer->cameras().rayDistance)) : "");
        QCOMPARE(apart.error().exitCode(), 4);
    }

    void nearlyTheSameSideIsRefused()
    {
        const auto p = perform("teacher", 5);
        QVERIFY(!measureTogether(readExact(exactTrack(p, from(90)), p), readExact(exactTrack(p, from(80)), p),
                                 MeasuringTables{})); // there is no depth to win
    }

    void theSecondViewFillsWhatTheFirstCannotSee()
    {
        const auto p = perform("teacher", 5, Side::Right, {{"hips-not-square", 25}});
        const auto first = readExact(exactTrack(p, from(90)), p),
                   second = readExact(exactTrack(p, from(0)), p);
        const auto pair = measureTogether(first, second, MeasuringTables{});
        QVERIFY(pair);
        ReviewInput request;
        request.student = &first;
        request.second = &second;
        const auto value = [&](Measure m) {
            const auto review = judgeClip(shipped().standards, shipped().rules, request);
            return review->postures.at(1).phases.back().values.at(static_cast<std::size_t>(m));
        };
        QVERIFY(!value(Measure::PelvisSquare).value.seen());
        request.together = &*pair;
        QVERIFY(value(Measure::PelvisSquare).value.seen());
        QCOMPARE(value(Measure::PelvisSquare).value.view, View::Both);
    }
};

QTEST_APPLESS_MAIN(TestTwoViews)
#include "test_two_views.moc"
