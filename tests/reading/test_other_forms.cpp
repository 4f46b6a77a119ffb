#include "performer/truth.h"
#include "pipeline/review_scene.h"
#include "reading/clip_reading.h"
#include "support/clips.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/readings.h"
#include "support/shipped.h"

using namespace jl;

namespace
{

ClipReading readForm(const Performance& p, const std::string& form, double azimuth)
{
    return readExact(filmedWhole(p, azimuth), p, form);
}

} // namespace

/// Forms that turn and change the leading side, on exact points.
class TestOtherForms : public QObject
{
    Q_OBJECT

private slots:
    void keyMomentsAreFound_data()
    {
        QTest::addColumn<QString>("form");
        QTest::addColumn<double>("azimuth");
        QTest::newRow("brush walk, from the right") << "brush-walk" << 90.0;
        QTest::newRow("brush walk, from the front") << "brush-walk" << 0.0;
        QTest::newRow("first eight") << "first-eight" << 10.0;
        QTest::newRow("whip and snake") << "snake-pair" << 0.0;
        QTest::newRow("clouds") << "cloud-line" << 0.0;
    }

    void keyMomentsAreFound()
    {
        QFETCH(QString, form);
        QFETCH(double, azimuth);
        const auto p = performForm(form.toStdString(), Side::Right, 61, "small");
        const ClipReading reading = readForm(p, form.toStdString(), azimuth);
        std::vector<double> errors;
        for (std::size_t i = 1; i < reading.phases.size(); ++i)
            errors.push_back(std::abs(reading.phases[i].phase.time - p.phases()[i].time));
        std::sort(errors.begin(), errors.end());
        QVERIFY2(errors[errors.size() / 2] < 0.12, qPrintable(QString::number(errors[errors.size() / 2])));
        QVERIFY2(errors[errors.size() * 9 / 10] < 0.6,
                 qPrintable(QString::number(errors[errors.size() * 9 / 10])));
    }

    void everyPhaseKnowsItsLead()
    {
        const auto p = performForm("first-eight", Side::Right, 62, "teacher");
        const ClipReading reading = readForm(p, "first-eight", 0);
        for (std::size_t i = 0; i < reading.phases.size(); ++i) {
            QCOMPARE(reading.phases[i].phase.lead, p.phases()[i].lead);
            QCOMPARE(reading.phases[i].phase.heading, p.phases()[i].heading);
            if (reading.phases[i].phase.matched)
                QCOMPARE(reading.leadAt(reading.phases[i].phase.time), p.phases()[i].lead);
        }
    }

    void whatTurnsToTheSideIsReadFromTheFront()
    {
        // The first eight travel to the left of where they begin: a camera in front sees their bows from the
        // side.
        const auto p = performForm("first-eight", Side::Right, 63, "tall");
        const ClipReading reading = readForm(p, "first-eight", 0);
        int read = 0;
        for (std::size_t i = 0; i < reading.phases.size(); ++i) {
            const PerformedPhase& phase = p.phases()[i];
            const MeasuredPhase& r = reading.phases[i];
            if (phase.stance != StanceKind::Bow || !r.phase.matched ||
                std::abs(r.phase.time - phase.time) > 0.3)
                continue;
            const Value& v = r.values[static_cast<std::size_t>(Measure::KneeLeadPastToe)];
            if (!v.seen()) continue;
            ++read;
            VERIFY_NEAR(
                v.value,
                trueMeasure(Measure::KneeLeadPastToe, p.figureAt(phase.time), phase.lead, phase.heading),
                0.05);
            QVERIFY(!r.values[static_cast<std::size_t>(Measure::KneeLeadTrack)].seen());
        }
        QVERIFY(read >= 3);
    }

    void aCleanFormHasNoSafetyFault()
    {
        for (const char* form : {"first-eight", "brush-walk"}) {
            const auto p = performForm(form, Side::Right, 64, "sturdy");
            const ClipReading reading = readForm(p, form, 0);
            const auto review = judgeClip(shipped().standards, shipped().rules,
                                          {form, "upright-broad", "forming", &reading, nullptr, nullptr});
            QVERIFY(review);
            for (const Finding& f : review->findings)
                QVERIFY2(f.severity != Severity::Safety,
                         qPrintable(QString("%1 in %2").arg(f.fault.c_str(), form)));
        }
    }
};

QTEST_APPLESS_MAIN(TestOtherForms)
#include "test_other_forms.moc"
