#include "base/json_file.h"
#include "base/paths.h"
#include "review/rule_coverage.h"
#include "support/shipped.h"
#include <QtTest>
#include <set>

using namespace jl;

namespace
{

const std::vector<Unjudged>& unjudged()
{
    static const auto all = loadUnjudged(dataFolder());
    if (!all) qFatal("%s", all.error().message().c_str());
    return *all;
}

bool isExplained(std::string_view measure, StanceKind stance, bool above)
{
    return std::any_of(unjudged().begin(), unjudged().end(),
                       [&](const Unjudged& u) { return u.covers(measure, stance, above); });
}

std::vector<std::string> allKeys()
{
    std::vector<std::string> keys;
    for (const MeasureInfo& m : allMeasures())
        keys.emplace_back(m.key);
    for (const PhaseMeasureInfo& m : allPhaseMeasures())
        keys.emplace_back(m.key);
    return keys;
}

} // namespace

/// No phase is silent: whatever is measured in a stance can become a finding, or a table says why not.
class TestRuleCoverage : public QObject
{
    Q_OBJECT

private slots:
    void everyBandCanBecomeAFinding()
    {
        const Standards& s = shipped().standards;
        int bands = 0;
        for (const SchoolStandard& school : s.schools)
            for (const PostureStandard& posture : s.postures)
                for (const PhaseStandard& phase : posture.phases)
                    for (const auto& [measure, band] : s.bandsFor(phase, school, 0.267))
                        for (bool above : {true, false}) {
                            const std::string_view key = measureInfo(measure).key;
                            ++bands;
                            QVERIFY2(
                                ruleFor(shipped().rules, key, phase.stance, school.line, above) ||
                                    isExplained(key, phase.stance, above),
                                qPrintable(QString("%1 %2/%3: %4 %5")
                                               .arg(school.id.c_str(), posture.id.c_str(), phase.id.c_str(),
                                                    std::string(key).c_str(), above ? "above" : "below")));
                        }
        QVERIFY2(bands > 5000, qPrintable(QString::number(bands)));
    }

    void everyMeasureHasARuleOrAReasonInEveryStance()
    {
        QStringList silent;
        for (const SchoolStandard& school : shipped().standards.schools)
            for (const std::string& key : allKeys())
                for (std::size_t s = 0; s < kStanceKindCount; ++s)
                    for (bool above : {true, false}) {
                        const auto stance = static_cast<StanceKind>(s);
                        if (!ruleFor(shipped().rules, key, stance, school.line, above) &&
                            !isExplained(key, stance, above))
                            silent << QString("%1 %2 %3 %4")
                                          .arg(school.id.c_str(), key.c_str(),
                                               std::string(stanceName(stance)).c_str(),
                                               above ? "above" : "below");
                    }
        QVERIFY2(silent.isEmpty(), qPrintable(silent.join("\n")));
    }

    /// A reason that explains nothing is out of date.
    void everyReasonIsNeeded()
    {
        const auto keys = allKeys();
        for (const Unjudged& u : unjudged())
            for (const std::string& key : u.measures) {
                QVERIFY2(std::find(keys.begin(), keys.end(), key) != keys.end(), key.c_str());
                bool needed = false;
                for (const SchoolStandard& school : shipped().standards.schools)
                    for (std::size_t s = 0; s < kStanceKindCount; ++s)
                        for (bool above : {true, false}) {
                            const auto stance = static_cast<StanceKind>(s);
                            needed |= u.covers(key, stance, above) &&
                                      !ruleFor(shipped().rules, key, stance, school.line, above);
                        }
                QVERIFY2(needed, qPrintable(QString::fromStdString(key + ": " + u.reason)));
            }
    }

    /// What is right for too much is wrong for too little.
    void whatHasTwoEdgesHasTwoTexts()
    {
        for (const FaultRule& rule : shipped().rules.all()) {
            if (!(rule.measure || rule.whole) || rule.edge != Edge::Both) continue;
            const FaultContext any{"", StanceKind::Parallel, {}, "", true};
            FaultContext low = any;
            low.above = false;
            const FaultWords over = rule.wordsIn(any), under = rule.wordsIn(low);
            QVERIFY2(over.name != under.name, rule.id.c_str());
        }
    }

    void schoolsAreWhatTheirTableSays_data()
    {
        QTest::addColumn<QString>("fault");
        QTest::addColumn<QStringList>("free"); // schools that do not ask for it
        const auto row = [](const char* fault, const QStringList& schools) {
            QTest::newRow(fault) << fault << schools;
        };
        row("toe-lifts", {"gentle", "compact"});
        row("flat-landing", {"gentle"});
        row("heel-peels", {"compact"});
        row("stops", {"gentle", "spiral"});
        row("rushed", {"spiral"});
        row("dragged", {"spiral"});
        row("line-broken", {"upright-broad", "spiral", "gentle", "compact"});
        row("knee-past-toe", {});
    }
    void schoolsAreWhatTheirTableSays()
    {
        QFETCH(QString, fault);
        QFETCH(QStringList, free);
        const FaultRule* rule = shipped().rules.find(fault.toStdString());
        QVERIFY(rule);
        for (const SchoolStandard& school : shipped().standards.schools) {
            QCOMPARE(rule->askedBy(school.line), !free.contains(QString::fromStdString(school.id)));
            SchoolStandard own = school; // an instructor's copy
            own.line.ids.insert(own.line.ids.begin(), "my-school");
            QCOMPARE(rule->askedBy(own.line), rule->askedBy(school.line));
        }
    }

    void theTableInTheDocsIsWrittenFromTheRules()
    {
        const auto kept = readText(TEST_SOURCE_DIR "/../docs/accuracy/rules.md");
        QVERIFY2(kept, kept ? "" : kept.error().message().c_str());
        QVERIFY2(kept->ends_with(coverageTable(shipped().standards, shipped().rules, unjudged())),
                 "write it again: jolly-lantern-cli validate --page docs/accuracy");
    }
};

QTEST_APPLESS_MAIN(TestRuleCoverage)
#include "test_rule_coverage.moc"
