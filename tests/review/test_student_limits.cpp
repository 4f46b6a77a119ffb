#include "base/day.h"
#include "measure/measure_value.h"
#include "review/review.h"
#include "standards/band.h"
#include "support/forms.h"
#include "support/readings.h"
#include "support/shipped.h"
#include <QtTest>
#include <set>

using namespace jl;

namespace
{

Review reviewWith(const Performance& p, const StudentLimits& limits, const char* form)
{
    ClipRequest clip;
    clip.camera.azimuth = 90;
    clip.camera.fit = true;
    clip.framesPerSecond = 15;
    const ClipReading reading =
        readTrack(exactTrack(p, clip), {.form = form, .height = p.body().height, .limits = limits});
    ReviewInput request;
    request.form = form;
    request.level = "refining";
    request.student = &reading;
    request.limits = limits;
    auto review = judgeClip(shipped().standards, shipped().rules, request);
    if (!review) qFatal("%s", review.error().message().c_str());
    return *review;
}

Performance performed(const char* form, const char* bodyId, std::vector<FaultRequest> faults = {})
{
    PerformanceRequest request;
    request.form = form;
    for (const BodyShape& b : shipped().bodies)
        if (b.id == bodyId) request.body = b;
    request.faults = std::move(faults);
    auto p = Performance::create(shipped().standards, request);
    if (!p) qFatal("%s", p.error().message().c_str());
    return *p;
}

const JudgedValue& valueOf(const Review& r, const char* posture, const char* phase, Measure m)
{
    for (const ReviewedPosture& p : r.postures)
        for (const ReviewedPhase& ph : p.phases)
            if (p.id == posture && ph.student.phase == phase)
                return ph.values.at(static_cast<std::size_t>(m));
    qFatal("no phase %s/%s", posture, phase);
}

} // namespace

class TestStudentLimits : public QObject
{
    Q_OBJECT

private slots:
    /// Models are remembered; those of other limits, sides and schools are others.
    void rememberedModelsAreThoseThatWereAskedFor()
    {
        StudentLimits careful;
        careful.kneeFlexion = 30;
        const auto kneeOf = [](const ModelPerformance& m, std::size_t frame) {
            return measureValue(Measure::KneeLeadFlexion, m.frames[frame], BodyLengths::usual(m.height),
                                m.lead, 0);
        };
        for (int turn = 0; turn < 2; ++turn) { // the second time from memory
            const auto usual = shipped().models("sparrow-tail", "upright-broad"),
                       sparing = shipped().models("sparrow-tail", "upright-broad", {}, careful),
                       left = shipped().models("sparrow-tail", "upright-broad", Side::Left),
                       other = shipped().models("sparrow-tail", "compact");
            QVERIFY(usual && sparing && left && other);
            QCOMPARE(usual->size(), std::size_t(2));
            QCOMPARE(left->size(), std::size_t(1));
            QVERIFY(usual->at(0).lead == Side::Right && left->at(0).lead == Side::Left);
            double deepest = 0, deepestSparing = 0;
            for (std::size_t i = 0; i < usual->at(0).frames.size(); ++i)
                deepest = std::max(deepest, kneeOf(usual->at(0), i));
            for (std::size_t i = 0; i < sparing->at(0).frames.size(); ++i)
                deepestSparing = std::max(deepestSparing, kneeOf(sparing->at(0), i));
            QVERIFY2(deepestSparing < deepest - 5, qPrintable(QString::number(deepestSparing)));
            QVERIFY(other->at(0).frames.front() != usual->at(0).frames.front() ||
                    other->at(0).frames.size() != usual->at(0).frames.size() ||
                    other->at(0).frames[other->at(0).frames.size() / 2] !=
                        usual->at(0).frames[usual->at(0).frames.size() / 2]);
        }
    }

    void bandsComeDownToTheKnee()
    {
        StudentLimits limits;
        limits.kneeFlexion = 50;
        bool capped = false;
        const auto knee = bandWithin(limits, {}, Measure::KneeLeadFlexion, Band{45, 80, 0}, capped);
        QVERIFY(capped);
        QCOMPARE(knee->high, 50.0);
        QCOMPARE(knee->low, 15.0); // as wide as before
        const auto shallow = bandWithin(limits, {}, Measure::KneeRearFlexion, Band{5, 30, 0}, capped);
        QVERIFY(!capped);
        QCOMPARE(shallow->high, 30.0);
        QCOMPARE(bandWithin(limits, {}, Measure::KneeRearFlexion, {}, capped)->high,
                 50.0); // even where no school asks
        QVERIFY(capped);
        QVERIFY(bandWithin(limits, {}, Measure::StanceLength, Band{0.5, 0.7, 0}, capped)->low == 0.4);
        QCOMPARE(bandWithin(limits, {}, Measure::PelvisHeight, Band{80, 88, 0}, capped)->high, 100.0);
        QVERIFY(!bandWithin(limits, {}, Measure::PelvisHeight, {}, capped) && !capped);
        QCOMPARE(bandWithin(limits, {}, Measure::KneeLeadPastToe, Band{-0.2, 0, 0.06}, capped)->high, 0.0);
        QVERIFY(!capped); // safety does not move
    }

    void hipsNeedNotComeSquare()
    {
        StudentLimits limits;
        limits.squareWithin = 25;
        bool capped = false;
        const auto band = bandWithin(limits, {}, Measure::PelvisSquare, Band{-10, 10, 0}, capped);
        QVERIFY(capped);
        QCOMPARE(band->low, -25.0);
        QCOMPARE(band->high, 25.0);
    }

    void limitsHaveASideAndAnEnd()
    {
        StudentLimits limits;
        limits.kneeFlexion = 50;
        limits.kneeSide = Side::Left;
        bool capped = false;
        const Band deep{45, 80, 0};
        const auto high = [&](Measure m, Side lead) {
            return bandWithin(limits, {StanceKind::Bow, false, lead}, m, deep, capped)->high;
        };
        QCOMPARE(high(Measure::KneeLeadFlexion, Side::Left), 50.0);
        QCOMPARE(high(Measure::KneeRearFlexion, Side::Left), 80.0); // the right knee
        QCOMPARE(high(Measure::KneeLeadFlexion, Side::Right), 80.0);
        QCOMPARE(high(Measure::KneeRearFlexion, Side::Right), 50.0);
        limits.until = dayFrom("2026-12-24");
        QCOMPARE(limits.inForceOn(*dayFrom("2026-12-24")), limits);
        QVERIFY(limits.inForceOn(*dayFrom("2026-12-25")).none());
        const auto words = limitWords(limits);
        QVERIFY(words.front().find("left knee") != std::string::npos);
        QCOMPARE(words.back(), std::string("until 2026-12-24"));
        StudentLimits hips;
        hips.squareWithin = 25;
        QCOMPARE(bandWithin(hips, {}, Measure::WaistTwist, Band{-10, 10, 0}, capped)->high, 25.0);
    }

    /// A limit is a promise, whatever the school asks.
    void whatGoesBeyondALimitIsAMatterOfSafety_data()
    {
        QTest::addColumn<QString>("form");
        QTest::addColumn<QString>("fault");
        QTest::newRow("kick") << "heel-kick"
                              << "kick-beyond-limit";
        QTest::newRow("crouch") << "snake-creeps"
                                << "low-beyond-limit";
    }
    void whatGoesBeyondALimitIsAMatterOfSafety()
    {
        QFETCH(QString, form);
        QFETCH(QString, fault);
        const std::string id = fault.toStdString();
        const Performance p = performed(qPrintable(form), "teacher");
        StudentLimits limits;
        limits.kicks = limits.lowStances = false;
        const auto isClaimed = [&](const Review& r) {
            return std::any_of(r.findings.begin(), r.findings.end(), [&](const Finding& f) {
                return f.fault == id && f.severity == Severity::Safety;
            });
        };
        const Review review = reviewWith(p, limits, qPrintable(form));
        QVERIFY(isClaimed(review));
        QVERIFY(!isClaimed(reviewWith(p, {}, qPrintable(form))));
        QVERIFY(std::any_of(review.teach.begin(), review.teach.end(), [&](const Correction& c) {
            return c.fault == id && c.severity == Severity::Safety &&
                   c.reason.find("agreed") != std::string::npos;
        }));
    }

    void withoutKicksAToeTouchIsAskedAndNothingOfTheKick()
    {
        StudentLimits limits;
        limits.kicks = false;
        const PhaseStandard& kick = shipped().standards.phase("heel-kick", "kick");
        QCOMPARE(askedWithin(limits, kick).phase.stance, StanceKind::EmptyToe);
        QVERIFY(askedWithin(limits, kick).gentler);
        QVERIFY(!askedWithin({}, kick).gentler);
        QVERIFY(!askedWithin(limits, shipped().standards.phase("push", "arrive")).gentler);

        // This body touches the floor instead of kicking: with the limit it is found and right.
        const Performance touch = performed("heel-kick", "elder-careful");
        const Review review = reviewWith(touch, limits, "heel-kick");
        const ReviewedPosture& posture = review.postures.back();
        QCOMPARE(posture.id, std::string("heel-kick"));
        for (const ReviewedPhase& phase : posture.phases) {
            QVERIFY2(phase.student.matched, phase.name.c_str());
            QCOMPARE(phase.gentler, phase.student.phase != "cross");
        }
        for (const Finding& f : review.findings)
            if (&review.postures[f.posture] == &posture)
                QVERIFY2(f.severity == Severity::Watch, f.fault.c_str());
        QVERIFY(std::any_of(review.notes.begin(), review.notes.end(),
                            [](const std::string& n) { return n.find("toe touch") != std::string::npos; }));
    }

    void bendingBeyondTheLimitIsAMatterOfSafety()
    {
        const Performance p = performed("sparrow-tail", "teacher");
        QVERIFY(
            reviewWith(p, {}, "sparrow-tail").findings.empty() ||
            valueOf(reviewWith(p, {}, "sparrow-tail"), "push", "arrive", Measure::KneeLeadFlexion).status !=
                Status::Unseen);
        StudentLimits limits;
        limits.kneeFlexion = 35;
        const Review review = reviewWith(p, limits, "sparrow-tail");
        const JudgedValue& knee = valueOf(review, "push", "arrive", Measure::KneeLeadFlexion);
        QVERIFY(knee.capped && knee.band->high == 35);
        const auto found = std::find_if(review.findings.begin(), review.findings.end(),
                                        [](const Finding& f) { return f.fault == "knee-too-deep-lead"; });
        QVERIFY(found != review.findings.end());
        QVERIFY(std::any_of(review.findings.begin(), review.findings.end(), [](const Finding& f) {
            return f.fault == "knee-too-deep-lead" && f.severity == Severity::Safety;
        }));
        QCOMPARE(review.teach.front().severity, Severity::Safety);
    }

    void aJumpBeyondTheLimitIsAMatterOfSafety()
    {
        PerformanceRequest jumping = requestFor("double-kick");
        jumping.manner.jump = true;
        const Performance p = performAs(jumping);
        const auto jumps = [](const Review& r) {
            return std::count_if(r.findings.begin(), r.findings.end(), [](const Finding& f) {
                return f.fault == "jump-beyond-limit" && f.severity == Severity::Safety;
            });
        };
        StudentLimits limits;
        limits.jumps = false;
        const Review review = reviewWith(p, limits, "double-kick");
        QCOMPARE(jumps(review), 1);
        QCOMPARE(review.teach.front().fault, std::string("jump-beyond-limit"));
        QCOMPARE(jumps(reviewWith(p, {}, "double-kick")), 0);
        // The same posture with one foot after the other is what was asked.
        QCOMPARE(jumps(reviewWith(performed("double-kick", "teacher"), limits, "double-kick")), 0);
    }

    void limitsAreSaidInWords()
    {
        QVERIFY(limitWords({}).empty());
        StudentLimits limits;
        limits.kneeFlexion = 60;
        limits.jumps = false;
        const auto words = limitWords(limits);
        QCOMPARE(words.size(), std::size_t(2));
        QVERIFY(words[0].find("60\u00b0") != std::string::npos);
    }
};

QTEST_APPLESS_MAIN(TestStudentLimits)
#include "test_student_limits.moc"
