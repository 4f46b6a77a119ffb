#include "pipeline/review_scene.h"
#include "support/clips.h"
#include "support/forms.h"
#include <QtTest>
#include <set>

using namespace jl;

namespace
{

std::shared_ptr<const ReviewScene> reviewed(const ReviewRequest& request)
{
    auto finished = makeReview(shipped(), request);
    if (!finished) qFatal("%s", finished.error().message().c_str());
    return sceneOf(std::move(*finished));
}

/// Another clip of whoever performs.
ReviewClip clipOf(Track track)
{
    ReviewClip clip;
    clip.track = std::move(track);
    return clip;
}

bool isNoted(const ReviewScene& scene, const char* words)
{
    const auto& notes = scene.review.notes;
    return std::any_of(notes.begin(), notes.end(),
                       [&](const std::string& n) { return n.find(words) != std::string::npos; });
}

std::set<Measure> seenAt(const ReviewScene& b, const char* posture)
{
    std::set<Measure> seen;
    for (const ReviewedPosture& p : b.review.postures)
        if (p.id == posture)
            for (const JudgedValue& v : p.phases.back().values)
                if (v.status != Status::Unseen) seen.insert(v.value.measure);
    return seen;
}

Eigen::Vector3d feetMiddle(const BodyPoints& p)
{
    using enum Landmark;
    return 0.25 * (p[index(LeftHeel)] + p[index(RightHeel)] + p[index(LeftToe)] + p[index(RightToe)]);
}

} // namespace

class TestMakeReview : public QObject
{
    Q_OBJECT

private slots:
    void initTestCase()
    {
        m_request.student.track = exactFrom(m_performance, 90);
        m_request.student.profile.height = m_performance.body().height;
    }

    void twoViewsOfOnePerformanceAreReadTogether()
    {
        const auto one = reviewed(m_request);
        ReviewRequest request = m_request;
        request.second = clipOf(exactFrom(m_performance, 0));
        const auto both = reviewed(request);
        QVERIFY(both->second && both->together);
        QVERIFY(!seenAt(*one, "push").contains(Measure::StanceWidth));
        QVERIFY(seenAt(*both, "push").contains(Measure::StanceWidth));
        QVERIFY(seenAt(*both, "push").size() > seenAt(*one, "push").size() + 5);
        for (double t : {5.0, 9.0, 14.0}) // filmed at once: the same moments
            QVERIFY2(std::abs(both->secondTimeAt(t) - t) < 0.15,
                     qPrintable(QString::number(both->secondTimeAt(t))));
    }

    /// So that nobody is asked for two clips filmed at once who has them.
    void whatNoViewGivesIsWhatBothSay()
    {
        ReviewRequest request = m_request;
        request.second = clipOf(exactFrom(m_performance, 0));
        for (BodyFrame& f : request.second->track.frames) // the networks disagree about an ankle
            f.point[index(Landmark::LeftAnkle)].y() -= 90;
        const auto both = reviewed(request);
        QVERIFY(both->together);
        int unseen = 0;
        for (const ReviewedPosture& posture : both->review.postures)
            for (const ReviewedPhase& phase : posture.phases)
                for (const JudgedValue& v : phase.values) {
                    if (v.value.seen()) continue;
                    ++unseen;
                    QCOMPARE(v.value.view, View::Both);
                }
        QVERIFY(unseen > 0);
    }

    void aSecondClipOfSomethingElseIsLeftOutAndSaidSo()
    {
        ReviewRequest request = m_request;
        request.second = clipOf(m_request.student.track);
        for (BodyFrame& f : request.second->track.frames)
            f.seen = false;
        const auto scene = reviewed(request);
        QVERIFY(!scene->second);
        QVERIFY(isNoted(*scene, "second view was left out"));
    }

    void viewsThatWereNotFilmedAtOnceAreReadByThemselves()
    {
        ReviewRequest request = m_request;
        request.second = clipOf(exactFrom(perform("teacher", 22, Side::Right, {}, 0.8), 0));
        const auto scene = reviewed(request);
        QVERIFY(scene->second && !scene->together);
        QVERIFY(isNoted(*scene, "Each view is read by itself"));
        QCOMPARE(scene->leftOut.size(), std::size_t(1));
    }

    void whatTheCallerCouldNotProvideIsNoted()
    {
        ReviewRequest request = m_request;
        request.leftOut = {"The second view was left out: its points are gone."};
        request.student.known.repairs = {{Landmark::LeftKnee, 999, {10, 10}}};
        const auto scene = reviewed(request);
        QVERIFY(isNoted(*scene, "its points are gone"));
        QVERIFY(isNoted(*scene, "the repair of left_knee at 999.00 s was left out"));
    }

    void aReferenceThatCannotBeReadIsAnError()
    {
        ReviewRequest request = m_request;
        request.reference = clipOf(m_request.student.track);
        for (BodyFrame& f : request.reference->track.frames)
            f.seen = false;
        request.reference->source = "teacher.mp4";
        const auto finished = makeReview(shipped(), request, FormComparison::Later);
        QVERIFY(!finished);
        QCOMPARE(finished.error().kind, Error::Kind::NothingFound);
        QCOMPARE(finished.error().where, std::string("teacher.mp4"));
    }

    /// The student's own limits change what is asked of the student, not what the teacher does.
    void theReferenceKeepsToItsOwnLimits()
    {
        const Performance kick = performForm("heel-kick", Side::Right, 5);
        ReviewRequest request;
        request.form = "heel-kick";
        request.student = clipOf(exactFrom(kick, 90));
        request.student.limits.kicks = false;
        request.reference = clipOf(exactFrom(kick, 90));
        const auto scene = reviewed(request);
        const auto highest = [](const ClipReading& clip) {
            double height = 0;
            for (const BodyPoints& p : clip.model.frames)
                height = std::max(height, p[index(Landmark::RightAnkle)].z());
            return height;
        };
        QVERIFY2(highest(*scene->reference) > highest(scene->student) + 0.2,
                 qPrintable(QString("%1 %2").arg(highest(*scene->reference)).arg(highest(scene->student))));
    }

    void whatCannotGoTogetherIsRefusedBeforeAnythingIsRead_data()
    {
        QTest::addColumn<QString>("form");
        QTest::addColumn<QString>("cutOf");
        QTest::addColumn<QString>("says");
        QTest::newRow("no such form") << "no-form"
                                      << ""
                                      << "no-form";
        QTest::newRow("a cut without a reference") << "sparrow-tail"
                                                   << "sparrow-tail"
                                                   << "no recorded reference";
    }
    void whatCannotGoTogetherIsRefusedBeforeAnythingIsRead()
    {
        QFETCH(QString, form);
        QFETCH(QString, cutOf);
        QFETCH(QString, says);
        ReviewRequest request;
        request.form = form.toStdString();
        if (!cutOf.isEmpty()) request.referenceCut.emplace().fit.form = cutOf.toStdString();
        const auto sound = checkRequest(shipped().standards, request);
        QVERIFY(!sound);
        QCOMPARE(sound.error().exitCode(), 2);
        QVERIFY(sound.error().message().find(says.toStdString()) != std::string::npos);
        QCOMPARE(makeReview(shipped(), request).error().message(), sound.error().message());
    }

    /// Left for later, the comparison of forms gives what it gives at once.
    void theDoubtAboutTheFormCanBeLeftForLater()
    {
        ReviewRequest request;
        request.form = "ward-off";
        request.student = m_request.student;
        auto later = makeReview(shipped(), request, FormComparison::Later);
        const auto now = makeReview(shipped(), request);
        QVERIFY(later && now);
        QVERIFY(later->review.doubt.empty() && !now->review.doubt.empty());
        compareForms(shipped(), *later);
        QCOMPARE(later->review.doubt, now->review.doubt);
    }

    void theReferenceStandsOnTheStudentsFeet()
    {
        ReviewRequest request = m_request;
        const Performance teacher = perform("tall", 3, Side::Right, {}, 0.8);
        request.reference = clipOf(exactFrom(teacher, 90));
        request.reference->profile.height = teacher.body().height;
        const auto b = reviewed(request);
        for (const auto& [student, reference] : b->keyTimes) {
            const BodyPoints own = b->studentBodyAt(student), over = b->referenceOverAt(student);
            Eigen::Vector3d apart = feetMiddle(over) - feetMiddle(own);
            apart.z() = 0;
            QVERIFY(apart.norm() < 1e-9);
            const auto headOf = [](const BodyPoints& p) { return p[index(Landmark::Nose)].z(); };
            const double ratio = m_performance.body().height / teacher.body().height;
            QVERIFY(std::abs(headOf(own) - headOf(m_performance.figureAt(student).landmark)) < 0.03);
            QVERIFY(std::abs(headOf(over) - ratio * headOf(teacher.figureAt(reference).landmark)) <
                    0.04); // in the student's size
        }
        // The points are where the performer really is, in the plane that the camera sees.
        const double time = b->keyTimes.back().first;
        const Eigen::Vector3d knee = b->studentBodyAt(time)[index(Landmark::RightKnee)],
                              real = m_performance.figureAt(time).landmark[index(Landmark::RightKnee)];
        QVERIFY2(std::abs(knee.z() - real.z()) < 0.03 && std::abs(knee.y() - real.y()) < 0.08,
                 qPrintable(QString("%1 %2").arg(knee.z() - real.z()).arg(knee.y() - real.y())));
        QVERIFY(!b->studentPath.empty() && !b->referencePath.empty());
    }

    void aPreviousReviewIsComparedWith()
    {
        const auto first = reviewed(m_request);
        QVERIFY(!first->progress);
        ReviewRequest request = m_request;
        request.earlier = {recordOf(first->review)};
        const auto second = reviewed(request);
        QVERIFY(second->progress && second->progress->incomparable.empty());
        QCOMPARE(second->earlier.size(), std::size_t(1));
        for (const FaultChange& c : second->progress->faults)
            QCOMPARE(c.change, Change::Same);
    }

private:
    const Performance m_performance = perform("teacher", 21, Side::Right, {{"knee-past-toe", 0.08}});
    ReviewRequest m_request;
};

QTEST_APPLESS_MAIN(TestMakeReview)
#include "test_make_review.moc"
