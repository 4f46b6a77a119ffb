#include "review/side_difference.h"
#include "review/standing.h"
#include "review/teaching.h"
#include "support/reviews.h"
#include "support/shipped.h"
#include <QtTest>

using namespace jl;

namespace
{

constexpr auto kBend = static_cast<std::size_t>(Measure::KneeRearFlexion);

/// A sit in which nothing is seen but the bend of the rear knee.
ReviewedPosture sit(Side lead, double bend, double u, double common, double reference)
{
    ReviewedPhase phase;
    phase.student.posture = "roll-back";
    phase.student.phase = "sit";
    phase.student.stance = StanceKind::Sit;
    phase.student.lead = lead;
    for (const MeasureInfo& m : allMeasures()) {
        JudgedValue v;
        v.value.measure = m.measure;
        phase.values.push_back(v);
    }
    JudgedValue& v = phase.values[kBend];
    v.value.value = bend;
    v.value.u = u;
    v.value.common = common;
    v.value.status = v.status = Status::Ok;
    v.band = Band{35, 70, 0};
    v.reference = reference;
    ReviewedPosture posture;
    posture.id = "roll-back";
    posture.name = "Roll back";
    posture.phases.push_back(phase);
    return posture;
}

Review reviewWith(std::vector<ReviewedPosture> postures)
{
    Review review;
    review.postures = std::move(postures);
    return review;
}

const StandingPoint& pointOf(const Review& review, const std::string& what)
{
    const auto& points = review.standing->points;
    const auto found =
        std::find_if(points.begin(), points.end(), [&](const StandingPoint& p) { return p.what == what; });
    if (found == points.end()) qFatal("no point %s", what.c_str());
    return *found;
}

} // namespace

/// What is said besides single findings: how somebody stands, and how the sides differ.
class TestOverview : public QObject
{
    Q_OBJECT

private slots:
    void sidesDifferBeyondTheirUncertainty()
    {
        const auto differences =
            sideDifferences(reviewWith({sit(Side::Right, 45, 3, 0, 50), sit(Side::Left, 60, 3, 0, 50)}));
        QCOMPARE(differences.size(), std::size_t(1));
        QCOMPARE(differences[0].difference, 15.0);
        QCOMPARE(differences[0].u, std::hypot(3, 3));
        QVERIFY(differences[0].words.find("left side leading the back knee bends deeper") !=
                std::string::npos);
        QVERIFY(differences[0].words.find("15\u00b0") != std::string::npos);
        // Within twice the uncertainty nothing is said.
        QVERIFY(sideDifferences(reviewWith({sit(Side::Right, 45, 6, 0, 50), sit(Side::Left, 60, 6, 0, 50)}))
                    .empty());
    }

    void whatTheReferenceHasOnOneSideTooIsNoDifference()
    {
        QVERIFY(sideDifferences(reviewWith({sit(Side::Right, 45, 3, 0, 45), sit(Side::Left, 60, 3, 0, 60)}))
                    .empty());
    }

    /// The body is the same on both sides.
    void whatBelongsToTheBodyDoesNotHideADifference()
    {
        const auto differences =
            sideDifferences(reviewWith({sit(Side::Right, 45, 6, 5, 50), sit(Side::Left, 60, 6, 5, 50)}));
        QCOMPARE(differences.size(), std::size_t(1));
        QVERIFY(std::abs(differences[0].u - std::sqrt(22.0)) < 1e-9);
    }

    void oneSideAloneSaysNothing()
    {
        QVERIFY(sideDifferences(reviewWith({sit(Side::Right, 45, 1, 0, 50), sit(Side::Right, 60, 1, 0, 50)}))
                    .empty());
    }

    /// Three mistakes of standing are three findings, in words.
    void aStandingClipIsJudged()
    {
        const Review review = reviewOf(readFilmed(perform("teacher", 71, Side::Right,
                                                          {{"stands-wide", 0.3, "stand"},
                                                           {"weight-uneven", 20, "stand"},
                                                           {"shoulders-tip", 9, "stand"}}),
                                                  0));
        QVERIFY(review.standing);
        for (const char* what : {"feet apart", "weight in the middle", "shoulders level"}) {
            const StandingPoint& p = pointOf(review, what);
            QVERIFY2(p.state == StandingPoint::State::Off,
                     qPrintable(QString("%1: %2, %3 ± %4")
                                    .arg(what, QString::fromUtf8(stateName(p.state).data()))
                                    .arg(p.value.value_or(0))
                                    .arg(p.u)));
            QVERIFY2(p.words.size() > 10 && p.value, what);
        }
        QVERIFY(pointOf(review, "ankle to ear in one line").state == StandingPoint::State::Unseen);
        for (const char* fault : {"stands-wide", "weight-uneven", "shoulders-tip"})
            QVERIFY2(std::any_of(
                         review.findings.begin(), review.findings.end(),
                         [&](const Finding& f) { return f.fault == fault && f.severity == Severity::Fault; }),
                     fault);
    }

    void whoStandsWellHasNothingOff()
    {
        const Review review = reviewOf(readFilmed(perform("teacher", 72, Side::Right), 0));
        QVERIFY(review.standing && review.standing->seesAnything());
        for (const StandingPoint& p : review.standing->points)
            QVERIFY2(p.state != StandingPoint::State::Off, p.what.c_str());
    }

    /// An own finding is a correction and counts in the lesson.
    void whatTheInstructorSeesCounts()
    {
        Review review;
        TeachingMemory memory;
        const OwnFinding own{3.5, "Wait for  the breath", "Let the breath end first.", "", {}};
        QCOMPARE(own.fault(), std::string("own-wait-for-the-breath"));
        memory.faults[own.fault()].lessons = 2;
        addOwnFindings(review, {own, {7, "wait for the Breath", "", "", {}}}, memory);
        QCOMPARE(review.teach.size(), std::size_t(1));
        QCOMPARE(review.counts.size(), std::size_t(1));
        QCOMPARE(review.counts[0].shows, 2);
        QVERIFY(review.teach[0].whyNow.find("last 2 times") != std::string::npos);
        QVERIFY(isOwnFinding(review.teach[0].fault) && !isOwnFinding("lean-back"));
    }
};

QTEST_APPLESS_MAIN(TestOverview)
#include "test_overview.moc"
