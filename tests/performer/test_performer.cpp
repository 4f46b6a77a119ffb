#include "base/angles.h"
#include "performer/truth.h"
#include "support/near.h"
#include "support/shipped.h"
#include <algorithm>

using namespace jl;

namespace
{

Performance performForm(const std::string& form, const std::string& school, Side lead, const BodyShape& body)
{
    PerformanceRequest request;
    request.form = form;
    request.school = school;
    request.lead = lead;
    request.body = body;
    const auto performance = Performance::create(shipped().standards, request);
    if (!performance) qFatal("%s", performance.error().message().c_str());
    return *performance;
}

/// Bodies without limits, which would change what they do.
std::vector<BodyShape> ordinaryBodies()
{
    std::vector<BodyShape> bodies;
    for (const BodyShape& b : shipped().bodies)
        if (b.kicks && b.kneeLimit >= 150 && b.hipTurnLimit >= 90) bodies.push_back(b);
    return bodies;
}

/// What lies outside the school's bands at the key moments, as text.
QStringList outOfBand(const Performance& p, const std::string& school)
{
    QStringList wrong;
    for (const PerformedPhase& phase : p.phases()) {
        const Figure f = p.figureAt(phase.time);
        const Bands bands =
            shipped().standards.bandsFor(shipped().standards.phase(phase.posture, phase.phase),
                                         *shipped().standards.school(school), p.body().footLength());
        for (const auto& [measure, band] : bands) {
            const double value = trueMeasure(measure, f, phase.lead, phase.heading);
            if (band.excess(value) != 0)
                wrong << QString("%1 %2 %3 %4: %5 = %6, allowed %7 to %8")
                             .arg(school.c_str(), p.body().id.c_str(), phase.posture.c_str(),
                                  phase.phase.c_str(), std::string(measureInfo(measure).key).c_str())
                             .arg(value)
                             .arg(band.low)
                             .arg(band.high);
        }
    }
    return wrong;
}

} // namespace

class TestPerformer : public QObject
{
    Q_OBJECT

private slots:
    void faultlessPosturesLieInTheirBands_data()
    {
        QTest::addColumn<QString>("posture");
        for (const PostureStandard& p : shipped().standards.postures)
            QTest::newRow(p.id.c_str()) << QString::fromStdString(p.id);
    }

    void faultlessPosturesLieInTheirBands()
    {
        QFETCH(QString, posture);
        QStringList wrong;
        for (const SchoolStandard& school : shipped().standards.schools)
            for (const BodyShape& body : ordinaryBodies())
                for (Side lead : {Side::Right, Side::Left})
                    wrong += outOfBand(performForm(posture.toStdString(), school.id, lead, body), school.id);
        wrong.removeDuplicates();
        for (const QString& line : wrong)
            qWarning("%s", qPrintable(line));
        QVERIFY2(wrong.isEmpty(), "outside the bands, see above");
    }

    void faultsShowWithTheirSize_data()
    {
        QTest::addColumn<QString>("fault");
        QTest::addColumn<int>("measure");
        QTest::addColumn<double>("value"); // of the measure at the arrivals, for the teacher's body
        const double foot = shipped().bodies.front().footLength();
        QTest::newRow("past toe") << "knee-past-toe=0.08" << static_cast<int>(Measure::KneeLeadPastToe)
                                  << 0.08;
        QTest::newRow("in cm") << "knee-past-toe=5cm" << static_cast<int>(Measure::KneeLeadPastToe) << 0.05;
        QTest::newRow("caved") << "knee-caves-lead=0.08" << static_cast<int>(Measure::KneeLeadTrack) << -0.08;
        QTest::newRow("short") << "stance-short=0.1" << static_cast<int>(Measure::StanceLength)
                               << 1.8 * foot - 0.1;
        QTest::newRow("one line") << "one-line=0.09" << static_cast<int>(Measure::StanceWidth) << 0.01;
        QTest::newRow("lean") << "lean-forward=9" << static_cast<int>(Measure::TrunkLeanForward) << 15.0;
        QTest::newRow("weight") << "weight-short=14" << static_cast<int>(Measure::WeightLead) << 50.0;
    }

    void faultsShowWithTheirSize()
    {
        QFETCH(QString, fault);
        QFETCH(int, measure);
        QFETCH(double, value);
        const auto request = parseFault(fault.toStdString());
        QVERIFY(request);
        const auto p = perform("teacher", 0, Side::Right, {*request});
        // Ward-off, roll-back's opening, press, push; some faults show in other stances too.
        QCOMPARE(std::count_if(p.faults().begin(), p.faults().end(),
                               [&](const PerformedFault& f) {
                                   return shipped().standards.phase(f.posture, f.phase).stance ==
                                          StanceKind::Bow;
                               }),
                 std::ptrdiff_t(4));
        for (const PerformedPhase& phase : p.phases()) {
            if (phase.stance != StanceKind::Bow) continue;
            const double tolerance =
                measureInfo(static_cast<Measure>(measure)).unit == Unit::Metre ? 0.006 : 0.6;
            VERIFY_NEAR(
                trueMeasure(static_cast<Measure>(measure), p.figureAt(phase.time), p.lead(), phase.heading),
                value, tolerance);
        }
    }

    void wrongFaultsAreExplained()
    {
        QVERIFY(parseFault("no-such-fault=1").error().message().find("knee-past-toe") != std::string::npos);
        QCOMPARE(parseFault("knee-past-toe=8").error().exitCode(), 2); // metres, so eight is no knee
        QVERIFY(!parseFault("knee-past-toe=much"));
        QVERIFY(!parseFault("knee-past-toe=-0.1"));
        const auto inPhase = parseFault("lean-forward=9@push/arrive");
        QCOMPARE(inPhase->posture, std::string("push"));
        QCOMPARE(inPhase->phase, std::string("arrive"));
    }

    void aFaultStaysInItsPosture()
    {
        const auto p = perform("teacher", 0, Side::Right, {{"lean-forward", 10, "push"}});
        QCOMPARE(p.faults().size(), std::size_t(2)); // sit and push
        for (const PerformedPhase& phase : p.phases()) {
            const double lean =
                trueMeasure(Measure::TrunkLeanForward, p.figureAt(phase.time), p.lead(), phase.heading);
            QCOMPARE(lean > 10, phase.posture == "push");
        }
    }

    void leftIsTheMirrorOfRight()
    {
        const auto right = perform(), left = perform("teacher", 0, Side::Left);
        for (double t = 0; t < right.duration(); t += 0.7) {
            const Figure a = right.figureAt(t), b = left.figureAt(t);
            for (std::size_t i = 0; i < kLandmarkCount; ++i) {
                const Eigen::Vector3d twin = b.landmark[index(mirrored(static_cast<Landmark>(i)))];
                QVERIFY((a.landmark[i] - Eigen::Vector3d(-twin.x(), twin.y(), twin.z())).norm() < 1e-6);
            }
        }
    }

    void standingFeetDoNotSlide()
    {
        const auto p = perform("small", 5);
        // From the arrival of ward-off to that of push both feet stand where they were set.
        double begin = 0, end = 0;
        for (const PerformedPhase& phase : p.phases()) {
            if (phase.posture == "ward-off" && phase.phase == "arrive") begin = phase.time;
            if (phase.posture == "push" && phase.phase == "arrive") end = phase.time;
        }
        const Figure first = p.figureAt(begin);
        for (double t = begin; t <= end; t += 0.05) {
            const Figure f = p.figureAt(t);
            for (Landmark l :
                 {Landmark::LeftHeel, Landmark::RightHeel, Landmark::LeftToe, Landmark::RightToe})
                QVERIFY((f.at(l) - first.at(l)).norm() < 0.003);
        }
    }

    void motionIsContinuousAndBonesKeepTheirLength()
    {
        const auto p = perform("tall", 9);
        const BodyShape& body = p.body();
        Figure before = p.figureAt(0);
        for (double t = 0.01; t < p.duration(); t += 0.01) {
            const Figure f = p.figureAt(t);
            for (std::size_t i = 0; i < kLandmarkCount; ++i)
                QVERIFY2((f.landmark[i] - before.landmark[i]).norm() < 0.035,
                         qPrintable(QString("a jump at %1 s").arg(t)));
            for (Side s : {Side::Left, Side::Right}) {
                VERIFY_NEAR((f.at(sided(Landmark::LeftKnee, s)) - f.at(sided(Landmark::LeftHip, s))).norm(),
                            body.thigh(), 1e-6);
                VERIFY_NEAR(
                    (f.at(sided(Landmark::LeftElbow, s)) - f.at(sided(Landmark::LeftShoulder, s))).norm(),
                    body.upperArm(), 1e-6);
                const double knee =
                    trueMeasure(s == Side::Right ? Measure::KneeLeadFlexion : Measure::KneeRearFlexion, f,
                                Side::Right, 0);
                QVERIFY(knee > 2 && knee < 140);
            }
            before = f;
        }
    }

    void theWeightIsWhatWasAsked()
    {
        const auto p = perform();
        for (const PerformedPhase& phase : p.phases()) {
            if (phase.stance != StanceKind::Bow) continue;
            VERIFY_NEAR(trueMeasure(Measure::WeightLead, p.figureAt(phase.time), p.lead(), 0), 70, 0.5);
        }
    }
};

QTEST_APPLESS_MAIN(TestPerformer)
#include "test_performer.moc"
