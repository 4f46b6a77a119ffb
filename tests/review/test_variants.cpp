#include "review/review.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"
#include "support/shipped.h"
#include <QtTest>

using namespace jl;

namespace
{

/// Both hands lower than the model's where the push arrives.
ClipReading lowPush()
{
    const Performance p =
        perform("teacher", 31, Side::Right,
                {{"hand-low", 38, "push", "arrive"}, {"hand-low-other", 38, "push", "arrive"}});
    return readTrack(exactTrack(p, from(90)), {.height = p.body().height});
}

Review judgedIn(const ClipReading& reading, const Standards& standards)
{
    ReviewInput input;
    input.level = "refining";
    input.student = &reading;
    auto review = judgeClip(standards, shipped().rules, input);
    if (!review) qFatal("%s", review.error().message().c_str());
    return *review;
}

std::size_t lowHands(const Review& r)
{
    return static_cast<std::size_t>(std::count_if(r.findings.begin(), r.findings.end(), [](const Finding& f) {
        return f.measure == Measure::HandLeadHeight || f.measure == Measure::HandRearHeight;
    }));
}

const ReviewedPhase& arrival(const Review& r)
{
    for (const ReviewedPosture& p : r.postures)
        if (p.id == "push") return p.phases.back();
    qFatal("no push");
}

} // namespace

/// Ways of a posture that a school accepts beside its first.
class TestVariants : public QObject
{
    Q_OBJECT

private slots:
    void aVariantIsNoFaultAndIsNamed()
    {
        const ClipReading reading = lowPush();
        const Review accepted = judgedIn(reading, shipped().standards);
        QCOMPARE(arrival(accepted).variant, std::string("a low push"));
        QCOMPARE(lowHands(accepted), std::size_t(0));

        Standards strict = shipped().standards;
        for (SchoolStandard& s : strict.schools)
            s.variants.clear();
        const Review refused = judgedIn(reading, strict);
        QVERIFY(arrival(refused).variant.empty());
        QVERIFY(lowHands(refused) > 0);
    }

    void theFirstWayNeedsNoName()
    {
        const Performance p = perform("teacher", 32);
        const ClipReading reading = readTrack(exactTrack(p, from(90)), {.height = p.body().height});
        for (const ReviewedPosture& posture : judgedIn(reading, shipped().standards).postures)
            for (const ReviewedPhase& phase : posture.phases)
                QCOMPARE(phase.variant, std::string());
    }

    void aSchoolInheritsThem()
    {
        const auto& standards = shipped().standards;
        QCOMPARE(standards.school("upright-broad")->variantsOf("push", "arrive").size(), std::size_t(2));
        QCOMPARE(standards.school("compact")->variantsOf("push", "arrive").size(), std::size_t(2));
        QCOMPARE(standards.school("spiral")->variantsOf("low-punch", "low").size(), std::size_t(2));
        for (const SchoolStandard& school : standards.schools)
            for (const AcceptedVariant& v : school.variants) {
                const std::size_t slash = v.phase.find('/');
                const PostureStandard* posture = standards.posture(v.phase.substr(0, slash));
                QVERIFY2(posture && std::any_of(posture->phases.begin(), posture->phases.end(),
                                                [&](const PhaseStandard& p) {
                                                    return p.id == v.phase.substr(slash + 1);
                                                }),
                         v.phase.c_str());
            }
    }

    void everySchoolStandsAsWideAsItSays_data()
    {
        QTest::addColumn<QString>("school");
        for (const SchoolStandard& s : shipped().standards.schools)
            QTest::newRow(s.id.c_str()) << QString::fromStdString(s.id);
    }

    void everySchoolStandsAsWideAsItSays()
    {
        QFETCH(QString, school);
        const SchoolStandard& standard = *shipped().standards.school(school.toStdString());
        const Performance p = performForm("stand", Side::Right, 0, "teacher", standard.id.c_str());
        VERIFY_NEAR(valueAt(p, p.phases().front(), Measure::FeetParallelWidth),
                    standard.style.standing * p.body().footLength(), 0.02);
    }
};

QTEST_APPLESS_MAIN(TestVariants)
#include "test_variants.moc"
