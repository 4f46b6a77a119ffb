#include "base/json_file.h"
#include "exchange/hint_files.h"
#include "support/near.h"
#include <QTemporaryDir>

using namespace jl;

class TestHintFiles : public QObject
{
    Q_OBJECT

    QTemporaryDir m_folder;

    std::filesystem::path file(const std::string& text)
    {
        const std::filesystem::path path = m_folder.filePath("hints.json").toStdString();
        if (!writeText(path, text)) qFatal("cannot write");
        return path;
    }

private slots:
    void calibrationIsRead()
    {
        const auto hints = readCalibration(file(
            R"({"field_of_view": 62, "floor": [{"from": [100, 600], "to": [700, 610], "length": 1.8}],
                "sheet": {"corners": [[1,2],[3,4],[5,6],[7,8]], "first": 1.8, "second": 0.6},
                "wall": {"from": [0, 400], "to": [1280, 390]}})"));
        QVERIFY(hints);
        QCOMPARE(*hints->fieldOfView, 62.0);
        QCOMPARE(hints->spans.size(), std::size_t(7)); // one length, four sides, two diagonals
        QCOMPARE(hints->spans.front().to.x(), 700.0);
        VERIFY_NEAR(hints->spans.back().length, std::hypot(1.8, 0.6), 1e-12);
        QVERIFY(hints->wall);
    }

    void unusableCalibrationIsRefused_data()
    {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("named");
        QTest::newRow("empty") << "{}"
                               << "neither";
        QTest::newRow("cut off") << R"({"field_of_view": 6)"
                                 << "hints.json";
        QTest::newRow("no length") << R"({"floor": [{"from": [1,2], "to": [3,4]}]})"
                                   << "length";
        QTest::newRow("centimetres") << R"({"floor": [{"from": [1,2], "to": [3,4], "length": 180}]})"
                                     << "metres";
        QTest::newRow("three corners")
            << R"({"sheet": {"corners": [[1,2],[3,4],[5,6]], "first": 1, "second": 1}})"
            << "cannot be used";
        QTest::newRow("wide") << R"({"field_of_view": 190})"
                              << "degrees";
        QTest::newRow("words") << R"({"wall": {"from": ["a", 2], "to": [3, 4]}})"
                               << "cannot be used";
    }

    void unusableCalibrationIsRefused()
    {
        QFETCH(QString, text);
        QFETCH(QString, named);
        const auto hints = readCalibration(file(text.toStdString()));
        QVERIFY(!hints);
        QCOMPARE(hints.error().exitCode(), 3);
        QVERIFY2(QString::fromStdString(hints.error().message()).contains(named),
                 hints.error().message().c_str());
    }

    void repairsComeBackAsTheyWere()
    {
        const std::vector<JointRepair> repairs{{Landmark::RightHeel, 1.25, {410.5, 620}},
                                               {Landmark::LeftWrist, 3, {80, 90}}};
        const auto back = readRepairs(file(repairsJson(repairs)));
        QVERIFY(back);
        QCOMPARE(back->size(), repairs.size());
        for (std::size_t i = 0; i < repairs.size(); ++i) {
            QVERIFY((*back)[i].landmark == repairs[i].landmark);
            QCOMPARE((*back)[i].time, repairs[i].time);
            QCOMPARE((*back)[i].point, repairs[i].point);
        }
    }

    void whatIsKnownOfAClipComesBack()
    {
        ClipKnowledge known;
        known.repairs = {{Landmark::LeftKnee, 4.25, {512, 430.5}}};
        known.hints.spans = {{{410, 655}, {870, 660}, 1.8}};
        known.hints.wall = std::array{Eigen::Vector2d(0, 480), Eigen::Vector2d(1280, 474)};
        known.hints.fieldOfView = 58;
        const auto back = knowledgeFrom(knowledgeJson(known), "here");
        QVERIFY(back);
        QCOMPARE(back->repairs.size(), std::size_t(1));
        QCOMPARE(back->repairs[0].landmark, Landmark::LeftKnee);
        QCOMPARE(back->repairs[0].point, Eigen::Vector2d(512, 430.5));
        QCOMPARE(back->hints.spans[0].length, 1.8);
        QCOMPARE(back->hints.spans[0].to, Eigen::Vector2d(870, 660));
        QCOMPARE(back->hints.wall->at(1), Eigen::Vector2d(1280, 474));
        QCOMPARE(back->hints.fieldOfView, std::optional(58.0));
        QVERIFY(knowledgeFrom(knowledgeJson({}), "here")->empty());

        const auto broken = knowledgeFrom("{\"repairs\": [{}]}", "a library");
        QVERIFY(!broken);
        QCOMPARE(broken.error().where, std::string("a library"));
    }

    void unusableRepairsNameTheirPlace()
    {
        const auto third = readRepairs(file(
            R"({"repairs": [{"landmark": "left_knee", "time": 1, "point": [1, 2]},
                            {"landmark": "left_kneee", "time": 1, "point": [1, 2]}]})"));
        QVERIFY(!third);
        QVERIFY(QString::fromStdString(third.error().message()).contains("repair 2"));
        QVERIFY(QString::fromStdString(third.error().message()).contains("left_kneee"));
        QVERIFY(!readRepairs(file("{}")));
        QVERIFY(!readRepairs(m_folder.filePath("none.json").toStdString()));
        QVERIFY(clipKnowledge("", ""));
        QVERIFY(!clipKnowledge(m_folder.filePath("none.json").toStdString(), ""));
    }
};

QTEST_APPLESS_MAIN(TestHintFiles)
#include "test_hint_files.moc"
