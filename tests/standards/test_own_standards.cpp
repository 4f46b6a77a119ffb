#include "base/json_file.h"
#include "standards/schema_check.h"
#include "support/shipped.h"
#include <QTemporaryDir>
#include <QtTest>

using namespace jl;

class TestOwnStandards : public QObject
{
    Q_OBJECT

private slots:
    void anOwnSchoolExtendsAndOverrides()
    {
        write("schools/mine.json", R"({"id": "mine", "name": "Our class", "extends": "gentle",
            "stances": {"bow": {"weight.lead": [40, 60]}}})");
        write("schools/spiral.json",
              R"({"id": "spiral", "name": "Spiral, our way", "extends": "upright-broad", "stances": {}})");
        const auto s = Standards::load(dataFolder(), own());
        QVERIFY2(s, s ? "" : s.error().message().c_str());
        QCOMPARE(s->school("mine")->stances.at(StanceKind::Bow).at(Measure::WeightLead).high, 60.0);
        QCOMPARE(s->school("mine")->stances.at(StanceKind::Bow).at(Measure::TrunkLeanForward).high,
                 8.0); // from gentle
        QCOMPARE(s->school("spiral")->name, std::string("Spiral, our way"));
        QCOMPARE(s->schools.size(), shipped().standards.schools.size() + 1);
    }

    void ownFormsAndFaultsJoinTheShippedOnes()
    {
        write("forms.json", R"({"forms": [{"id": "warm-up", "name": "Our warm-up",
            "postures": [{"posture": "stand"}, {"posture": "cloud-hands"}]}]})");
        const auto s = Standards::load(dataFolder(), own());
        QVERIFY2(s, s ? "" : s.error().message().c_str());
        QCOMPARE(s->form("warm-up")->steps.size(), std::size_t(2));
        QVERIFY(s->form("sparrow-tail"));

        write("faults.json",
              R"([{"id": "lean-forward", "name": "leaning", "measure": "trunk.lean.forward", "edge": "high",
            "stances": ["bow"], "title": "T", "cue": "Our own cue.", "reason": "R", "drill": "D", "minutes": 5}])");
        const auto rules = FaultRules::load(dataFolder(), own());
        QVERIFY2(rules, rules ? "" : rules.error().message().c_str());
        QCOMPARE(rules->find("lean-forward")->words.cue, std::string("Our own cue."));
        QCOMPARE(rules->find("lean-forward")->drillMinutes, 5.0);
        QCOMPARE(rules->all().size(), shipped().rules.all().size());
    }

    void whatIsWrongIsNamedWithItsPlace()
    {
        write("schools/bad.json",
              R"({"id": "bad", "name": "Bad", "stances": {"bow": {"weight.lead": [40]}}})");
        auto s = Standards::load(dataFolder(), own());
        QVERIFY(!s);
        QVERIFY2(s.error().where.find("bad.json") != std::string::npos, s.error().where.c_str());
        QVERIFY2(s.error().what.find("stances/bow/weight.lead") != std::string::npos, s.error().what.c_str());

        write("schools/bad.json", R"({"id": "bad", "name": "Bad", "extends": "nobody", "stances": {}})");
        s = Standards::load(dataFolder(), own());
        QVERIFY(!s && s.error().what.find("nobody") != std::string::npos);
        QFile::remove(m_dir.filePath("schools/bad.json"));

        write("forms.json",
              R"({"forms": [{"id": "f", "name": "F", "postures": [{"posture": "headstand"}]}]})");
        s = Standards::load(dataFolder(), own());
        QVERIFY(!s && s.error().what.find("headstand") != std::string::npos);
        QVERIFY(s.error().where.find(m_dir.path().toStdString()) != std::string::npos);
        QFile::remove(m_dir.filePath("forms.json"));

        write("faults.json", R"([{"id": "x", "cue": "c"}])");
        QVERIFY(!FaultRules::load(dataFolder(), own()));
    }

    void anEmptyFolderChangesNothing()
    {
        const QTemporaryDir empty;
        const auto s = Standards::load(dataFolder(), std::filesystem::path(empty.path().toStdString()));
        QVERIFY(s && s->schools.size() == shipped().standards.schools.size());
    }

    void kindsAreTold()
    {
        QCOMPARE(kindOfStandard(*readJson(dataFolder() / "faults.json")), std::string("faults"));
        QCOMPARE(kindOfStandard(*readJson(dataFolder() / "schools/gentle.json")), std::string("school"));
        QCOMPARE(kindOfStandard(*readJson(dataFolder() / "postures/push.json")), std::string("posture"));
        QCOMPARE(kindOfStandard(*readJson(dataFolder() / "forms.json")), std::string("forms"));
        QCOMPARE(kindOfStandard(nlohmann::json{{"height", 1.7}}), std::string());
    }

private:
    std::filesystem::path own() const { return m_dir.path().toStdString(); }
    void write(const char* name, const char* text)
    {
        QVERIFY(QDir(m_dir.path()).mkpath("schools"));
        QVERIFY(writeText(own() / name, text));
    }
    QTemporaryDir m_dir;
};

QTEST_APPLESS_MAIN(TestOwnStandards)
#include "test_own_standards.moc"
