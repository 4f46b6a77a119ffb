#include "review/review.h"
#include "support/clips.h"
#include "support/readings.h"
#include "support/shipped.h"
#include <QtTest>
#include <set>

using namespace jl;

namespace
{

ClipReading readingOf(const Performance& p)
{
    return readTrack(exactTrack(p, from(90)), {.height = p.body().height});
}

} // namespace

/// A student who leans, and a teacher who leans as much.
class TestYardstick : public QObject
{
    Q_OBJECT

private slots:
    void theReferenceExcusesWhatTheStandardDoesNot()
    {
        QVERIFY(!leans(judgedBy(Yardstick::Reference)));
        const Finding* byStandard = leans(judgedBy(Yardstick::Standard));
        QVERIFY(byStandard && byStandard->byStandard);
        QCOMPARE(m_review.mode, std::string("standard"));
        const Finding* both = leans(judgedBy(Yardstick::Both));
        QVERIFY(both && both->byStandard);
        QCOMPARE(both->band->high, byStandard->band->high);
        QCOMPARE(m_review.mode, std::string("both"));
    }

    void theReferenceFindsWhatTheStandardExcuses()
    {
        // An upright student against the leaning teacher.
        const ClipReading upright = readingOf(perform("teacher", 61));
        const Review byReference = review(upright, Yardstick::Reference);
        const auto back = [](const Review& r) {
            return std::any_of(r.findings.begin(), r.findings.end(), [](const Finding& f) {
                return f.measure == Measure::TrunkLeanForward && f.severity != Severity::Watch;
            });
        };
        QVERIFY(back(byReference));
        QVERIFY(!back(review(upright, Yardstick::Standard)));
        QVERIFY(back(review(upright, Yardstick::Both)));
    }

    void kneesAreNeverMovedByAReference()
    {
        const ClipReading deep = readingOf(perform("teacher", 62, Side::Right, {{"knee-past-toe", 0.08}}));
        for (Yardstick y : {Yardstick::Reference, Yardstick::Standard, Yardstick::Both}) {
            ReviewInput request = requestFor(deep, y);
            request.reference = &deep; // as deep as the student
            const auto r = judgeClip(shipped().standards, shipped().rules, request);
            QVERIFY(std::any_of(r->findings.begin(), r->findings.end(),
                                [](const Finding& f) { return f.severity == Severity::Safety; }));
        }
    }

    void namesAreRead()
    {
        for (Yardstick y : {Yardstick::Reference, Yardstick::Standard, Yardstick::Both})
            QCOMPARE(yardstickFromName(yardstickName(y)), std::optional(y));
        QVERIFY(!yardstickFromName("gut feeling"));
    }

private:
    ReviewInput requestFor(const ClipReading& student, Yardstick y) const
    {
        ReviewInput request;
        request.level = "refining";
        request.student = &student;
        request.reference = &m_teacher;
        request.yardstick = y;
        return request;
    }
    Review review(const ClipReading& student, Yardstick y) const
    {
        auto made = judgeClip(shipped().standards, shipped().rules, requestFor(student, y));
        if (!made) qFatal("%s", made.error().message().c_str());
        return *made;
    }
    const Review& judgedBy(Yardstick y) { return m_review = review(m_student, y); }
    static const Finding* leans(const Review& r)
    {
        for (const Finding& f : r.findings)
            if (f.fault == "lean-forward" && f.severity != Severity::Watch) return &f;
        return nullptr;
    }

    const ClipReading m_student = readingOf(perform("teacher", 61, Side::Right, {{"lean-forward", 14}})),
                      m_teacher = readingOf(perform("tall", 3, Side::Right, {{"lean-forward", 14}}));
    Review m_review;
};

QTEST_APPLESS_MAIN(TestYardstick)
#include "test_yardstick.moc"
