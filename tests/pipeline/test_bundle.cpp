#include "pipeline/review_bundle.h"
#include "support/shipped.h"
#include <QtTest>
#include <set>

using namespace jl;

namespace
{

Track filmed(const Performance& p, double azimuth)
{
    ClipRequest clip;
    clip.camera.azimuth = azimuth;
    clip.framesPerSecond = 15;
    return exactTrack(p, clip);
}

std::shared_ptr<const ReviewBundle> bundleOf(const BundleRequest& request)
{
    auto bundle = makeBundle(shipped(), request);
    if (!bundle) qFatal("%s", bundle.error().message().c_str());
    return *bundle;
}

std::set<Measure> seenAt(const ReviewBundle& b, const char* posture)
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

class TestBundle : public QObject
{
    Q_OBJECT

private slots:
    void initTestCase()
    {
        m_request.student = filmed(m_performance, 90);
        m_request.studentProfile.height = m_performance.body().height;
    }

    void twoViewsOfOnePerformanceAreReadTogether()
    {
        const auto one = bundleOf(m_request);
        BundleRequest request = m_request;
        request.second = filmed(m_performance, 0);
        const auto both = bundleOf(request);
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
        BundleRequest request = m_request;
        request.second = filmed(m_performance, 0);
        for (BodyFrame& f : request.second->frames) // the networks disagree about an ankle
            f.point[index(Landmark::LeftAnkle)].y() -= 90;
        const auto both = bundleOf(request);
        QVERIFY(both->together);
        int unseen = 0;
        for (const ReviewedPosture& posture : both->review.postures)
            for (const ReviewedPhase& phase : posture.phases)
                for (const JudgedValue& v : phase.values) {
                    if (v.value.seen) continue;
                    ++unseen;
                    QCOMPARE(v.value.view, View::Both);
                }
        QVERIFY(unseen > 0);
    }

    void aSecondClipOfSomethingElseIsLeftOutAndSaidSo()
    {
        BundleRequest request = m_request;
        request.second = m_request.student;
        for (BodyFrame& f : request.second->frames)
            f.seen = false;
        const auto bundle = bundleOf(request);
        QVERIFY(!bundle->second);
        QVERIFY(
            std::any_of(bundle->review.notes.begin(), bundle->review.notes.end(), [](const std::string& n) {
                return n.find("second view was left out") != std::string::npos;
            }));
    }

    void theReferenceStandsOnTheStudentsFeet()
    {
        BundleRequest request = m_request;
        const Performance teacher = perform("tall", 3, Side::Right, {}, 0.8);
        request.reference = filmed(teacher, 90);
        request.referenceProfile.height = teacher.body().height;
        const auto b = bundleOf(request);
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
        const auto first = bundleOf(m_request);
        QVERIFY(!first->progress);
        BundleRequest request = m_request;
        request.earlier = {recordOf(first->review)};
        const auto second = bundleOf(request);
        QVERIFY(second->progress && second->progress->incomparable.empty());
        QCOMPARE(second->earlier.size(), std::size_t(1));
        for (const FaultChange& c : second->progress->faults)
            QCOMPARE(c.change, Change::Same);
    }

private:
    const Performance m_performance = perform("teacher", 21, Side::Right, {{"knee-past-toe", 0.08}});
    BundleRequest m_request;
};

QTEST_APPLESS_MAIN(TestBundle)
#include "test_bundle.moc"
