#include "base/angles.h"
#include "lab/judgement_cases.h"
#include "lab/network_noise.h"
#include "lineup/stillness.h"
#include "reading/whole_phases.h"
#include "support/forms.h"
#include "support/lab.h"
#include "support/near.h"
#include <QtTest>

using namespace jl;

namespace
{

constexpr std::uint32_t kNoErrors = 0; ///< instead of a seed of what the networks do wrong

/// A form filmed from the side with the networks' usual errors, with what the case says of pauses and cuts.
class Filmed
{
public:
    explicit Filmed(const JudgementCase& c, std::uint32_t noise = 17)
        : m_case(c), m_performance(performForm(c.clip.form))
    {
        const ClipRequest request = clipRequestOf(c.clip);
        PersonProfile profile;
        profile.height = m_performance.body().height;
        const Track exact = conventionalTrack(m_performance, request, shipped().tables.offsets,
                                              filmedMoments(c, m_performance));
        auto read = readClip(noise == kNoErrors
                                 ? exact
                                 : withNoise(exact, bodyPixels(m_performance, request), noise, *lab().errors),
                             *shipped().models(c.clip.form, c.clip.school), profile, shipped().tables);
        if (!read) qFatal("%s", read.error().message().c_str());
        m_reading.emplace(std::move(*read));
    }
    const FoundPhase& found(std::size_t i) const { return m_reading->lineUp.phases[i]; }
    const ClipReading& reading() const { return *m_reading; }
    double trueTime(std::size_t i) const { return clipTimesOf(m_case, m_performance.phases()[i].time).first; }

private:
    JudgementCase m_case;
    Performance m_performance;
    std::optional<ClipReading> m_reading;
};

JudgementCase sparrowTail()
{
    JudgementCase c;
    c.clip.form = "sparrow-tail";
    c.clip.school = "upright-broad";
    c.clip.view = "side";
    return c;
}

} // namespace

class TestArrivals : public QObject
{
    Q_OBJECT

private slots:
    void whoeverHesitatesBesideAKeyMomentArrivesThereAllTheSame_data()
    {
        QTest::addColumn<double>("beside");
        QTest::newRow("on the way") << -0.5;
        QTest::newRow("soon after") << 0.5;
    }
    void whoeverHesitatesBesideAKeyMomentArrivesThereAllTheSame()
    {
        QFETCH(double, beside);
        const Performance performance = performForm("sparrow-tail");
        int right = 0, all = 0; // what errors do to a picture can look like an arrival
        for (const char* posture : {"ward-off", "press", "push"})
            for (std::uint32_t noise : {kNoErrors, 17u, 18u, 19u, 20u}) {
                JudgementCase c = sparrowTail();
                c.pauses = {{phaseOf(performance, posture, "arrive").time + beside, 1.8}};
                const Filmed clip(c, noise);
                for (std::size_t i = 1; i < performance.phases().size(); ++i) {
                    const PerformedPhase& phase = performance.phases()[i];
                    if (phase.posture != posture || phase.phase != "arrive") continue;
                    QVERIFY(clip.found(i).matched);
                    const double off = clip.found(i).time - clip.trueTime(i);
                    if (noise == kNoErrors) VERIFY_NEAR(off, 0, 0.25);
                    right += std::abs(off) <= 0.25;
                    ++all;
                }
            }
        QVERIFY2(5 * right >= 4 * all, qPrintable(QString("%1 of %2").arg(right).arg(all)));
    }

    /// However long somebody stands before the form begins, the first move begins where the body moves.
    void standingBeforeTheFormIsNoPartOfTheFirstMove()
    {
        const Performance performance = performForm("sparrow-tail");
        const double leaves = performance.phases()[1].begin;
        for (double longer : {0.0, 1.5, 3.0}) {
            JudgementCase c = sparrowTail();
            if (longer > 0) c.pauses = {{0.5 * leaves, longer}};
            const Filmed clip(c, kNoErrors);
            QVERIFY(clip.found(1).matched);
            const auto off = qPrintable(QString::number(clip.found(1).begin - (leaves + longer)));
            QVERIFY2(std::abs(clip.found(1).begin - (leaves + longer)) < 0.25, off);
            QCOMPARE(clip.found(0).left(), clip.found(1).begin);
            QCOMPARE(clip.found(2).begin,
                     clip.found(1).time); // later ones begin where the one before arrived
        }
    }

    void theModelArrivesWithTheStudentAndNeverJumps()
    {
        const Performance performance = performForm("sparrow-tail");
        JudgementCase c = sparrowTail();
        c.pauses = {{phaseOf(performance, "press", "arrive").time - 0.5, 1.8}};
        const Filmed clip(c);
        const LineUp& lineUp = clip.reading().lineUp;
        for (const FoundPhase& p : lineUp.phases)
            if (p.matched) QCOMPARE(lineUp.modelTimeAt(p.time), p.modelTime);
        constexpr double step = 1 / 30.0;
        for (double t = lineUp.phases.front().time; t < lineUp.phases.back().time; t += step)
            QVERIFY2(std::abs(lineUp.modelTimeAt(t + step) - lineUp.modelTimeAt(t)) < 0.2,
                     qPrintable(QString::number(t)));
    }

    /// From the corner the plane that shows the body best changes on the way; a phase keeps that of its key
    /// moment, so that the body does not jump.
    void aPhaseIsReadInOnePlane()
    {
        JudgementCase c = sparrowTail();
        int otherwise = 0; // frames that another plane would show better
        for (double azimuth : {43.0, 44.0, 45.0, 46.0, 47.0}) {
            c.clip.azimuthShift = azimuth - cameraPlace("side", c.clip.seed)->azimuth;
            const Filmed clip(c);
            const ClipReading& reading = clip.reading();
            const BodyMotion motion = motionOf(reading);
            const auto isSide = [&](double t, const FoundPhase& p) {
                return seenFromSide(reading.camera.azimuthFrom(reading.priorAt(t, p).points), p.heading);
            };
            for (const FoundPhase& p : reading.lineUp.phases)
                for (std::size_t i = 0; i < motion.time.size(); ++i) {
                    if (!p.matched || motion.time[i] <= p.begin || motion.time[i] > p.time) continue;
                    MomentPrior prior = reading.priorAt(motion.time[i], p);
                    prior.fromSide = isSide(p.time, p);
                    const BodyPoints asThePhase = reading.measurer->place(reading.track.frames[i], prior);
                    for (std::size_t k = 0; k < kLandmarkCount; ++k)
                        QVERIFY((motion.frames[i][k] - asThePhase[k]).norm() < 1e-9);
                    if (isSide(motion.time[i], p) == *prior.fromSide) continue;
                    ++otherwise;
                    prior.fromSide.reset();
                    const BodyPoints asTheMoment = reading.measurer->place(reading.track.frames[i], prior);
                    QVERIFY(asTheMoment != asThePhase);
                }
        }
        QVERIFY(otherwise > 0);
    }

    void whatAClipEndsBeforeIsNotClaimed()
    {
        const Performance performance = performForm("sparrow-tail");
        for (const char* posture : {"ward-off", "press", "push"}) {
            JudgementCase c = sparrowTail();
            const PerformedPhase& phase = phaseOf(performance, posture, "arrive");
            for (double missing : {0.8, 1.0}) {
                c.shown = {0.0, phase.time - missing};
                const Filmed clip(c);
                const auto i = static_cast<std::size_t>(&phase - performance.phases().data());
                QVERIFY2(!clip.found(i).matched, posture);
                QVERIFY(clip.found(i - 1).matched);
                VERIFY_NEAR(clip.found(i - 1).time, clip.trueTime(i - 1), 0.25);
            }
        }
    }

    void whereAClipEndsOnTheWayTheArrivalBeforeIsNotTakenTwice()
    {
        JudgementCase c = sparrowTail();
        c.clip.form = "brush-walk";
        const Performance performance = performForm(c.clip.form);
        for (std::size_t i = 10; i < performance.phases().size(); ++i) {
            const PerformedPhase& phase = performance.phases()[i];
            if (phase.posture != "brush-knee" || phase.phase != "push") continue;
            for (double share : {0.5, 0.6, 0.65}) {
                c.shown = {0.0, mix(phase.begin, phase.time, share)};
                QVERIFY2(!Filmed(c).found(i).matched, qPrintable(QString("%1 at %2").arg(i).arg(share)));
            }
        }
    }

    void stillnessesAreToldApartByTheMovesBetween()
    {
        // One point pair swings out twice: still up to 2 s, from 3 to 4 s, and from 5 s on.
        Track track;
        track.width = 640;
        track.height = 480;
        track.framesPerSecond = 30;
        for (int n = 0; n < 210; ++n) {
            BodyFrame f;
            f.time = n / 30.0;
            f.seen = true;
            const double t = f.time;
            const double out = t < 2 ? 0 : t < 3 ? t - 2 : t < 4 ? 1 : t < 5 ? t - 3 : 2;
            for (std::size_t i = 0; i < kLandmarkCount; ++i)
                f.point[i] = {300 + 60 * out, 100 + 10.0 * static_cast<double>(i)};
            track.frames.push_back(f);
        }
        constexpr double size = 200;
        const StillnessFinder finder(track, size, 0);
        const Stillness near = finder.near(3.4);
        VERIFY_NEAR(near.begin, 3, 0.15);
        VERIFY_NEAR(near.end, 4, 0.15);
        VERIFY_NEAR(near.middle(), 3.5, 0.1);
        QCOMPARE(finder.around(3.4).size(), std::size_t(1)); // the others are out of reach
        const auto both = finder.around(2.6);
        QCOMPARE(both.size(), std::size_t(2));
        VERIFY_NEAR(both[0].end, 2, 0.15);
        VERIFY_NEAR(both[1].begin, 3, 0.15);
    }
};

QTEST_APPLESS_MAIN(TestArrivals)
#include "test_arrivals.moc"
