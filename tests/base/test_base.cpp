#include "base/angles.h"
#include "base/json_file.h"
#include "base/parallel.h"
#include "base/time_left.h"
#include <QTemporaryDir>
#include <QtTest>
#include <stdexcept>

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

    void waitsAreSaidInWords()
    {
        const std::pair<double, const char*> waits[]{
            {0, "a few seconds"},        {9, "a few seconds"},       {30, "about half a minute"},
            {59, "about a minute"},      {85, "about a minute"},     {110, "about two minutes"},
            {304, "about five minutes"}, {1500, "about 25 minutes"}, {3600, "about an hour"},
            {9000, "about three hours"}};
        for (const auto& [seconds, words] : waits)
            QCOMPARE(QString::fromStdString(waitWords(seconds)), QString(words));
        QCOMPARE(TimeLeft::words(0.25, 30), std::string("about two minutes left"));
        QCOMPARE(TimeLeft::words(0.01, 30), std::string()); // too early to say
        QCOMPARE(TimeLeft::words(0.5, 0.2), std::string());
        QCOMPARE(TimeLeft::words(1, 30), std::string());
    }

    void sharedWorkIsAllDone()
    {
        for (std::size_t n : {0u, 1u, 7u, 1000u}) {
            std::vector<std::size_t> done(n, 0);
            inParallel(n, [&](std::size_t i) { done[i] = i * i + 1; });
            for (std::size_t i = 0; i < n; ++i)
                QCOMPARE(done[i], i * i + 1);
        }
    }

    void whatSharedWorkThrowsComesOut()
    {
        const auto failing = [](std::size_t i) {
            if (i == 3) throw std::runtime_error("three");
        };
        QVERIFY_THROWS_EXCEPTION(std::runtime_error, inParallel(8, failing));
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

    void devicesAreWrittenToNotReplaced()
    {
        const auto full = writeText("/dev/full", "text");
        QVERIFY(!full);
        QVERIFY(full.error().message().find("disk has room") != std::string::npos);
        QVERIFY(writeText("/dev/null", "text"));
        for (const char* device : {"/dev/full", "/dev/null"})
            QVERIFY(std::filesystem::is_character_file(device));
    }
};

QTEST_APPLESS_MAIN(TestBase)
#include "test_base.moc"
