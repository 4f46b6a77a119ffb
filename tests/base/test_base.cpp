#include "base/angles.h"
#include "base/json_file.h"
#include <QTemporaryDir>
#include <QtTest>

using namespace jl;

class TestBase : public QObject
{
    Q_OBJECT

private slots:
    void errorsSayWhatWhereAndWhatToDo()
    {
        const Error e{Error::Kind::BadInput, "the file is empty", "/clips/a.mp4", "Copy it again."};
        QCOMPARE(QString::fromStdString(e.message()), "/clips/a.mp4: the file is empty. Copy it again.");
        QCOMPARE(e.exitCode(), 3);
        QCOMPARE((Error{Error::Kind::WrongUse, "", "", ""}).exitCode(), 2);
        QCOMPARE((Error{Error::Kind::NothingFound, "", "", ""}).exitCode(), 4);
    }

    void anglesWrap()
    {
        QCOMPARE(wrapDeg(190.0), -170.0);
        QCOMPARE(wrapDeg(-180.0), 180.0);
        QCOMPARE(wrapDeg(720.0), 0.0);
    }

    void truncatedJsonNamesFileAndLine()
    {
        const QTemporaryDir dir;
        const auto file = std::filesystem::path(dir.filePath("t.json").toStdString());
        QVERIFY(writeText(file, "{\n \"a\": [1, 2,\n"));
        const auto json = readJson(file);
        QVERIFY(!json);
        QVERIFY(QString::fromStdString(json.error().message()).contains("t.json"));
        QVERIFY(QString::fromStdString(json.error().message()).contains("line 3"));
    }

    void failedWriteLeavesTheOldFile()
    {
        const QTemporaryDir dir;
        const auto file = std::filesystem::path(dir.filePath("kept.txt").toStdString());
        QVERIFY(writeText(file, "old"));
        std::filesystem::create_directory(file.string() + ".part"); // the side file cannot be opened now
        const auto failed = writeText(file, "new");
        QVERIFY(!failed);
        QFile kept(QString::fromStdString(file.string()));
        QVERIFY(kept.open(QIODevice::ReadOnly));
        QCOMPARE(kept.readAll(), QByteArray("old"));
    }
};

QTEST_APPLESS_MAIN(TestBase)
#include "test_base.moc"
