#include "base/json_file.h"
#include "base/paths.h"
#include "support/shipped.h"
#include <QtTest>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validation_results.hpp>
#include <valijson/validator.hpp>

using namespace jl;
using Json = nlohmann::json;

namespace
{

Json read(const std::filesystem::path& file)
{
    const auto json = readJson(file);
    if (!json) qFatal("%s", json.error().message().c_str());
    return *json;
}

/// What a schema finds wrong, one line each.
QStringList faultsOf(const Json& document, const char* schemaName)
{
    const Json text = read(dataFolder() / "schema" / (std::string(schemaName) + ".schema.json"));
    valijson::Schema schema;
    valijson::SchemaParser parser;
    parser.populateSchema(valijson::adapters::NlohmannJsonAdapter(text), schema);
    valijson::Validator validator;
    valijson::ValidationResults results;
    QStringList wrong;
    if (!validator.validate(schema, valijson::adapters::NlohmannJsonAdapter(document), &results)) {
        valijson::ValidationResults::Error error;
        while (results.popError(error)) {
            QString where;
            for (const std::string& part : error.context)
                where += QString::fromStdString(part);
            wrong << where + ": " + QString::fromStdString(error.description);
        }
    }
    return wrong;
}

} // namespace

class TestDataFiles : public QObject
{
    Q_OBJECT

private slots:
    void everyFileFollowsItsSchema_data()
    {
        QTest::addColumn<QString>("file");
        QTest::addColumn<QString>("schema");
        const auto add = [](const std::filesystem::path& file, const char* schema) {
            QTest::newRow(file.filename().c_str()) << QString::fromStdString(file.string()) << schema;
        };
        for (const char* folder : {"postures", "schools"})
            for (const auto& entry : std::filesystem::directory_iterator(dataFolder() / folder))
                add(entry.path(), folder == std::string("postures") ? "posture" : "school");
        add(dataFolder() / "forms.json", "forms");
        add(dataFolder() / "bodies.json", "bodies");
        add(dataFolder() / "faults.json", "faults");
    }

    void everyFileFollowsItsSchema()
    {
        QFETCH(QString, file);
        QFETCH(QString, schema);
        const QStringList wrong = faultsOf(read(file.toStdString()), qPrintable(schema));
        QVERIFY2(wrong.isEmpty(), qPrintable(wrong.join("\n")));
    }

    void theSchemasRefuseWhatIsWrong()
    {
        const Json push = read(dataFolder() / "postures/push.json");
        QVERIFY(faultsOf(push, "posture").isEmpty());
        Json wrong = push;
        wrong["phases"][0]["stance"] = "bwo";
        QVERIFY(!faultsOf(wrong, "posture").isEmpty());
        wrong = push;
        wrong["phases"][0]["moves"][0].erase("seconds");
        QVERIFY(!faultsOf(wrong, "posture").isEmpty());
        wrong = push;
        wrong["phases"][0]["moves"][0]["lead"] = {{"along", 2.0}}; // where across?
        QVERIFY(!faultsOf(wrong, "posture").isEmpty());
        wrong = push;
        wrong["phases"][0]["moves"][0]["hieght"] = 90;
        QVERIFY(!faultsOf(wrong, "posture").isEmpty());
        Json bodies = read(dataFolder() / "bodies.json");
        bodies[0]["height"] = 172;
        QVERIFY(!faultsOf(bodies, "bodies").isEmpty());
    }

    void idsAndFileNamesAgree()
    {
        for (const char* folder : {"postures", "schools"})
            for (const auto& entry : std::filesystem::directory_iterator(dataFolder() / folder))
                QCOMPARE(read(entry.path()).at("id").get<std::string>(), entry.path().stem().string());
    }

    void everyPostureCanBePractisedAlone()
    {
        const Standards& s = shipped().standards;
        for (const PostureStandard& posture : s.postures) {
            const FormStandard* form = s.form(posture.id);
            QVERIFY(form && form->single);
            QCOMPARE(form->steps.front().posture, std::string("stand"));
            QCOMPARE(form->steps.front().heading, 0.0);
            QCOMPARE(form->steps.back().posture, posture.id);
            QVERIFY(!form->steps.back().otherSide);
        }
        // The whip follows the push of the other side, from the opposite direction.
        const auto& whip = s.form("single-whip")->steps;
        QVERIFY(whip[whip.size() - 2].otherSide);
        QCOMPARE(std::abs(whip.back().heading - whip[whip.size() - 2].heading), 180.0);
    }

    void formsNameTheirPostures()
    {
        const Standards& s = shipped().standards;
        for (const char* id : {"sparrow-tail", "eight-energies", "brush-walk", "kick-section", "snake-pair",
                               "cloud-line", "first-eight", "full-24"})
            QVERIFY2(s.form(id) && !s.form(id)->single, id);
        const FormStandard& full = *s.form("full-24");
        QCOMPARE(full.leadOf({"push", 0, true}, Side::Right), Side::Left);
        QCOMPARE(full.headingOf({"push", -90, true}, Side::Left), 90.0);
    }

    void levelsBuildOnEachOther()
    {
        const auto& levels = shipped().standards.levels;
        QCOMPARE(levels.size(), std::size_t(4));
        for (std::size_t i = 1; i < levels.size(); ++i) {
            QVERIFY2(levels[i].measures.size() > levels[i - 1].measures.size(), levels[i].id.c_str());
            for (const std::string& m : levels[i - 1].measures)
                QVERIFY2(levels[i].teaches(m), (levels[i].id + ": " + m).c_str());
        }
        // What each level brings first (domain: schools and levels).
        const auto from = [&](std::string_view measure) {
            for (const LevelStandard& level : levels)
                if (level.teaches(measure)) return level.id;
            return std::string("nowhere");
        };
        QCOMPARE(from("heel.rear.lift"), std::string("first-steps"));
        QCOMPARE(from("balance.margin"), std::string("first-steps"));
        QCOMPARE(from("pelvis.square"), std::string("forming"));
        QCOMPARE(from("elbow.lead.below_shoulder"), std::string("forming"));
        QCOMPARE(from("hand.lead.height"), std::string("joining"));
        QCOMPARE(from("hand_foot.lag"), std::string("joining"));
        QCOMPARE(from("waist.twist"), std::string("refining"));
        QCOMPARE(from("weight.transfer.evenness"), std::string("refining"));
    }

    void everyFaultIsTaughtInTheEnd()
    {
        const LevelStandard& last = shipped().standards.levels.back();
        for (const FaultRule& rule : shipped().rules.all()) {
            if (rule.measure)
                QVERIFY2(last.teaches(measureInfo(*rule.measure).key), rule.id.c_str());
            else if (rule.whole)
                QVERIFY2(last.teaches(phaseMeasureInfo(*rule.whole).key), rule.id.c_str());
        }
    }

    void bodiesCoverTheRange()
    {
        QVERIFY(shipped().bodies.size() >= 8);
        double low = 9, high = 0;
        for (const BodyShape& b : shipped().bodies) {
            low = std::min(low, b.height);
            high = std::max(high, b.height);
        }
        QVERIFY(low < 1.5 && high > 1.9);
    }
};

QTEST_APPLESS_MAIN(TestDataFiles)
#include "test_data_files.moc"
