#include "body/motion.h"
#include "exchange/track_file.h"
#include "support/near.h"
#include "support/shipped.h"
#include "vision/network_store.h"
#include "vision/second_pass.h"

using namespace jl;

namespace
{

const std::string kBase = std::string(TEST_DATA_DIR) + "/past-toe", kClip = kBase + ".mp4";

/// Where the points of that clip really are.
Track truthOfClip()
{
    ClipRequest clip;
    clip.camera = *cameraPlace("side", 811);
    clip.framesPerSecond = 15;
    clip.seed = 811;
    return exactTrack(perform("teacher", 811, Side::Right, {{"knee-past-toe", 0.08}}), clip);
}

/// Mean distance of knees and ankles from their places at the times, pixels.
double legError(const Track& track, const Track& truth, const std::vector<double>& times)
{
    double sum = 0;
    int n = 0;
    for (double t : times) {
        const BodyFrame &seen = track.frames[track.nearest(t)], &real = truth.frames[truth.nearest(t)];
        for (Landmark l :
             {Landmark::LeftKnee, Landmark::RightKnee, Landmark::LeftAnkle, Landmark::RightAnkle}) {
            sum += (seen.at(l) - real.at(l)).norm();
            ++n;
        }
    }
    return sum / n;
}

} // namespace

class TestSecondPass : public QObject
{
    Q_OBJECT

private slots:
    void initTestCase()
    {
        if (!landmarkFile(LandmarkModel::Heavy)) QSKIP("the heavy network is not installed");
        auto track = readTrack(kBase + ".track.json");
        QVERIFY(track);
        m_plain = std::move(*track);
        m_sharp = m_plain;
        const auto done = runSecondPass(m_sharp, kClip, 2, {});
        QVERIFY(done);
    }

    void holdsAreSeenMoreSharply()
    {
        const Track truth = truthOfClip();
        const auto still = stillMoments(smoothed(m_plain));
        QVERIFY(still.size() >= 8);
        const double before = legError(m_plain, truth, still), after = legError(m_sharp, truth, still);
        QVERIFY2(after < 0.85 * before,
                 qPrintable(QString("%1 px before, %2 px after").arg(before).arg(after)));
    }

    void theRestStaysAsItWas()
    {
        QCOMPARE(m_sharp.frames.size(), m_plain.frames.size());
        const auto still = stillMoments(smoothed(m_plain));
        int kept = 0, changed = 0;
        for (std::size_t i = 0; i < m_plain.frames.size(); ++i) {
            const BodyFrame &a = m_plain.frames[i], &b = m_sharp.frames[i];
            QCOMPARE(b.time, a.time);
            const bool same = a.at(Landmark::LeftKnee) == b.at(Landmark::LeftKnee);
            const bool near =
                std::any_of(still.begin(), still.end(), [&](double t) { return std::abs(t - a.time) < 1.1; });
            if (!near) QVERIFY(same);
            (same ? kept : changed) += 1;
        }
        QVERIFY(kept > 0 && changed > 50);
    }

    /// Where the networks change, the body must not seem to move more than it does.
    void noJumpBesideIt()
    {
        const double size = standingSize(m_plain);
        const auto sameKnee = [&](std::size_t i) {
            return m_plain.frames[i].at(Landmark::LeftKnee) == m_sharp.frames[i].at(Landmark::LeftKnee);
        };
        const Track truth = truthOfClip();
        double before = 0, after = 0; // by how much faster than it is the body seems beside a hold
        int n = 0;
        for (double t : stillMoments(smoothed(m_plain)))
            for (double beside : {-0.35, 0.35}) {
                const std::size_t i = m_plain.nearest(t + beside);
                if (sameKnee(i)) continue;
                const double real = motionAt(truth, standingSize(truth), t + beside, 3);
                before += motionAt(m_plain, size, t + beside, 3) - real;
                after += motionAt(m_sharp, size, t + beside, 3) - real;
                ++n;
            }
        QVERIFY(n >= 8);
        QVERIFY2(after < 1.2 * before, qPrintable(QString("%1 %2").arg(before / n).arg(after / n)));

        // What the second look changed is left step by step, not at once.
        const auto changed = [&](std::size_t k) {
            return Eigen::Vector2d(m_sharp.frames[k].at(Landmark::LeftShoulder) -
                                   m_plain.frames[k].at(Landmark::LeftShoulder));
        };
        double change = 0, dropped = 0;
        for (std::size_t k = 1; k < m_plain.frames.size(); ++k) {
            change += changed(k).norm();
            if (changed(k).isZero()) dropped = std::max(dropped, changed(k - 1).norm());
        }
        QVERIFY(dropped < change / static_cast<double>(m_plain.frames.size()));
    }

    void itCanBeStopped()
    {
        Track track = m_plain;
        const auto done = runSecondPass(track, kClip, 1, [](double) { return false; });
        QVERIFY(!done);
        QCOMPARE(done.error().kind, Error::Kind::Cancelled);
    }

    void aClipThatIsGoneIsSaidSo()
    {
        Track track = m_plain;
        const auto done = runSecondPass(track, "/nowhere/clip.mp4", 1, {});
        QVERIFY(!done);
        QCOMPARE(done.error().exitCode(), 3);
    }

    void nothingStillNothingToDo()
    {
        Track empty;
        QVERIFY(runSecondPass(empty, "/nowhere/clip.mp4", 1, {}));
    }

private:
    Track m_plain, m_sharp;
};

QTEST_APPLESS_MAIN(TestSecondPass)
#include "test_second_pass.moc"
