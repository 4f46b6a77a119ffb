#include "body/framing.h"
#include "pipeline/shipped_data.h"
#include "reading/clip_reading.h"
#include "review/review.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/near.h"

using namespace jl;

namespace
{

/// The picture ends so far above its lower edge, share of its height: feet are cut off.
Track cutBelow(const Performance& p, double share)
{
    Track track = exactTrack(p, from(90, 10));
    track.height = static_cast<int>((1 - share) * track.height);
    return track;
}

Result<ClipReading> readCut(const Performance& p, double share)
{
    const auto models = shipped().models("sparrow-tail", "upright-broad", p.lead());
    PersonProfile profile;
    profile.height = p.body().height;
    return readClip(cutBelow(p, share), *models, profile, shipped().tables);
}

const Value& valueOf(const ClipReading& clip, std::size_t phase, Measure m)
{
    return clip.phases[phase].values[static_cast<std::size_t>(m)];
}

} // namespace

/// Clips that show only a part of the body.
class TestFraming : public QObject
{
    Q_OBJECT

private slots:
    void whatIsCutOffIsCounted()
    {
        const Performance p = performForm("sparrow-tail");
        const Framing whole = framingOf(cutBelow(p, 0)), noFeet = framingOf(cutBelow(p, 0.3));
        QCOMPARE(whole.feetCut, 0.0);
        QCOMPARE(whole.headCut, 0.0);
        QVERIFY(framingTrouble(whole).empty());
        QVERIFY(noFeet.feetCut > 0.99);
        QCOMPARE(noFeet.headCut, 0.0);
        QVERIFY(framingTrouble(noFeet).find("feet") != std::string::npos);
        Track above = exactTrack(p, from(90, 10));
        for (BodyFrame& f : above.frames)
            for (Eigen::Vector2d& point : f.point)
                point.y() -= 0.3 * above.height;
        QVERIFY(framingTrouble(framingOf(above)).find("head") != std::string::npos);
        QCOMPARE(framingOf(Track()).feetCut, 0.0);
    }

    void guessedPointsAreNotTrusted()
    {
        const Performance p = performForm("sparrow-tail");
        const auto whole = readCut(p, 0), cut = readCut(p, 0.3);
        QVERIFY(whole);
        QVERIFY2(cut, cut ? "" : cut.error().message().c_str());
        const std::size_t phase = 3; // an arrival in a bow stance
        const Value &before = valueOf(*whole, phase, Measure::KneeLeadPastToe),
                    &after = valueOf(*cut, phase, Measure::KneeLeadPastToe);
        QVERIFY(before.seen() && before.u < 0.03);
        QVERIFY(!after.seen() || after.u > 0.05);
        // The trunk is in the picture as before.
        VERIFY_NEAR(valueOf(*cut, phase, Measure::TrunkLeanForward).u,
                    valueOf(*whole, phase, Measure::TrunkLeanForward).u, 0.8);
    }

    void halfABodyIsNamed()
    {
        // What the network makes up of legs that it cannot see follows no form.
        const Performance p = performForm("sparrow-tail");
        Track track = cutBelow(p, 0.3);
        unsigned state = 1;
        for (BodyFrame& f : track.frames)
            for (Eigen::Vector2d& point : f.point) {
                point.x() += static_cast<double>((state = state * 1664525U + 1013904223U) >> 24U) - 128;
                if (point.y() < track.height)
                    point.y() = std::min(point.y() + (state >> 25U), track.height - 20.0);
            }
        const auto models = shipped().models("sparrow-tail", "upright-broad", p.lead());
        const auto read = readClip(track, *models, {}, shipped().tables);
        QVERIFY(!read);
        QCOMPARE(read.error().kind, Error::Kind::NothingFound);
        QVERIFY2(read.error().what.find("the feet are outside of the picture") == 0,
                 read.error().what.c_str());
        QVERIFY(read.error().remedy.find("Step back") == 0);
        // From too near the networks hardly find a body at all.
        for (std::size_t i = 0; i < track.frames.size(); ++i)
            track.frames[i].seen = i % 3 == 0;
        track.height *= 2;
        const auto seldom = readClip(track, *models, {}, shipped().tables);
        QVERIFY(!seldom);
        QVERIFY2(seldom.error().what.find("a body is found in only 3") == 0, seldom.error().what.c_str());
    }
};

QTEST_APPLESS_MAIN(TestFraming)
#include "test_framing.moc"
