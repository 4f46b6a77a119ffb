#include "review/fault_rules.h"
#include "support/forms.h"
#include "support/near.h"
#include "support/shipped.h"
#include <QTemporaryDir>
#include <QtTest>

using namespace jl;

namespace
{

constexpr const char* kTexts = R"("title": "t", "cue": "c", "reason": "r", "drill": "d")";

Result<FaultRules> rulesFrom(const QByteArray& rows)
{
    const QTemporaryDir dir;
    QFile file(dir.filePath("faults.json"));
    if (!file.open(QIODevice::WriteOnly)) qFatal("cannot write");
    file.write(rows);
    file.close();
    return FaultRules::load(dir.path().toStdString());
}

QByteArray row(const char* id, const char* more)
{
    return QByteArray(R"({"id": ")") + id + R"(", "name": "n", )" + more + kTexts + "}";
}

} // namespace

class TestFaultRules : public QObject
{
    Q_OBJECT

private slots:
    void allowedIsWhatTheReferenceShowsAndSomeMore()
    {
        const auto rules = rulesFrom("[" + row("head-tilts", R"("measure": "head.tilt", "edge": "both",
            "tolerance": 6, "stances": ["bow"], )") +
                                     "]");
        QVERIFY(rules);
        const auto band = rules->band(Measure::HeadTilt, StanceKind::Bow, SchoolLine{}, 2);
        QVERIFY(band);
        QCOMPARE(band->low, -4.0);
        QCOMPARE(band->high, 8.0);
        QCOMPARE(band->halfWidth(), 6.0);
        QVERIFY(!rules->band(Measure::HeadTilt, StanceKind::Sit, SchoolLine{}, 2)); // not asked there
        QVERIFY(!rules->band(Measure::HeadForward, StanceKind::Bow, SchoolLine{}, 2));
    }

    void limitsHoldForEverybodyButWhereTheReferenceNeedsMore()
    {
        const auto rules =
            rulesFrom("[" + row("gaze-down", R"("measure": "gaze.drop", "edge": "high",
            "limit": 15, "tolerance": 10, )") +
                      "," + row("support-locked", R"("measure": "knee.rear.flexion", "edge": "low",
            "limit": 5, "tolerance": 5, "safety": true, )") +
                      "]");
        QVERIFY(rules);
        QCOMPARE(rules->band(Measure::GazeDrop, StanceKind::Bow, SchoolLine{}, 0)->high, 15.0);
        QCOMPARE(rules->band(Measure::GazeDrop, StanceKind::Bow, SchoolLine{}, 0)->low, -10.0);
        QCOMPARE(rules->band(Measure::GazeDrop, StanceKind::Low, SchoolLine{}, 30)->high,
                 35.0); // a low punch looks down
        QCOMPARE(rules->band(Measure::KneeRearFlexion, StanceKind::OneLeg, SchoolLine{}, 2)->low,
                 5.0); // never of a knee
        // However far the reference is beyond it: what keeps to the limit is right.
        const auto far = rules->band(Measure::KneeRearFlexion, StanceKind::OneLeg, SchoolLine{}, -20);
        QCOMPARE(far->low, 5.0);
        QCOMPARE(far->excess(8), 0.0);
        QCOMPARE(far->excess(-20), -25.0);
        QCOMPARE(far->halfWidth(), 5.0);
    }

    void sharesAndSchoolsAreKept()
    {
        const auto rules = rulesFrom("[" + row("rushed", R"("measure": "phase.duration", "edge": "low",
            "share": 0.5, )") + "," + row("line-broken", R"("measure": "trunk.rear_leg_line", "edge": "both",
            "tolerance": 12, "schools": ["inclined-straight"], )") +
                                     "," + row("left-out", "") + "]");
        QVERIFY(rules);
        QCOMPARE(rules->band(PhaseMeasure::Duration, StanceKind::Bow, SchoolLine{}, 3)->low, 1.5);
        QVERIFY(
            rules->band(Measure::TrunkRearLegLine, StanceKind::Bow, SchoolLine{{"inclined-straight"}}, 0));
        QVERIFY(!rules->band(Measure::TrunkRearLegLine, StanceKind::Bow, SchoolLine{{"gentle"}}, 0));
        // Who extends a school inherits what is asked there.
        const SchoolLine own{{"my-school", "inclined-straight", "upright-broad"}};
        QVERIFY(rules->band(Measure::TrunkRearLegLine, StanceKind::Bow, own, 0));
        QVERIFY(!rules->find("left-out")->measure && !rules->find("left-out")->whole);
    }

    void whatIsWrongIsNamed()
    {
        const auto unknownMeasure =
            rulesFrom("[" + row("a", R"("measure": "knee.colour", "edge": "low", )") + "]");
        QVERIFY(!unknownMeasure);
        QVERIFY(unknownMeasure.error().message().find("\"a\"") != std::string::npos);
        QVERIFY(unknownMeasure.error().message().find("faults.json") != std::string::npos);
        const auto unknownCause = rulesFrom("[" + row("b", R"("causes": [["nobody", 1]], )") + "]");
        QVERIFY(!unknownCause);
        QVERIFY(unknownCause.error().message().find("nobody") != std::string::npos);
        const auto textless = rulesFrom(R"([{"id": "c", "name": "n"}])");
        QVERIFY(!textless);
        QVERIFY(textless.error().message().find("\"c\"") != std::string::npos);
        QVERIFY(!rulesFrom("{"));
    }

    void everyFaultOfThePerformerHasARule()
    {
        for (const FaultKind& kind : faultKinds())
            QVERIFY2(shipped().rules.find(std::string(kind.id)), std::string(kind.id).c_str());
    }

    void kneesAreASafetyMatter()
    {
        for (const char* id : {"knee-past-toe", "knee-caves-lead", "knee-caves-rear", "support-locked"})
            QVERIFY2(shipped().rules.find(id)->safety, id);
    }

    /// What nobody can do in a stance is no fault there: the back knee of a bow lies on the way from hip to
    /// ankle, not over toes that are turned out.
    void faultlessPerformersSpareTheirKnees_data()
    {
        QTest::addColumn<QString>("school");
        for (const SchoolStandard& school : shipped().standards.schools)
            QTest::newRow(school.id.c_str()) << QString::fromStdString(school.id);
    }
    void faultlessPerformersSpareTheirKnees()
    {
        QFETCH(QString, school);
        const std::string id = school.toStdString();
        const Performance p = performForm("full-24", Side::Right, 0, "teacher", id.c_str());
        int asked = 0;
        for (const PerformedPhase& phase : p.phases()) {
            const Figure figure = p.movingFigureAt(phase.time);
            const StanceKind stance = shipped().standards.phase(phase.posture, phase.phase).stance;
            for (const FaultRule& rule : shipped().rules.all()) {
                if (!rule.safety || !rule.measure || !rule.limit || !rule.holdsIn(stance)) continue;
                const double value = trueMeasure(*rule.measure, figure, phase.lead, phase.heading);
                const auto line = shipped().standards.school(id)->line;
                const double excess =
                    shipped().rules.band(*rule.measure, stance, line, value).value().excess(value);
                QVERIFY2(!rule.concerns(excess),
                         qPrintable(QString("%1 in %2 %3: %4")
                                        .arg(rule.id.c_str(), phase.posture.c_str(), phase.phase.c_str())
                                        .arg(value)));
                ++asked;
            }
        }
        QVERIFY2(asked > 5, qPrintable(QString::number(asked)));
    }
};

QTEST_APPLESS_MAIN(TestFaultRules)
#include "test_fault_rules.moc"
