#include "base/day.h"
#include "base/json_file.h"
#include "bundle/review_bundle.h"
#include "exchange/review_file.h"
#include "exchange/track_file.h"
#include "support/clips.h"
#include "support/shipped.h"
#include <QDir>
#include <QTemporaryDir>
#include <QtTest>
#include <zip.h>

using namespace jl;

namespace
{

/// One entry of a zip that a stranger makes.
struct Entry {
    std::string name, text;
    zip_uint32_t unixMode = 0100644;
};

void makeZip(const std::string& file, const std::vector<Entry>& entries)
{
    zip_t* zip = zip_open(file.c_str(), ZIP_CREATE | ZIP_TRUNCATE, nullptr);
    for (const Entry& e : entries) {
        zip_source_t* source = zip_source_buffer(zip, e.text.data(), e.text.size(), 0);
        const zip_int64_t i = zip_file_add(zip, e.name.c_str(), source, ZIP_FL_ENC_UTF_8);
        if (i < 0) qFatal("%s", zip_strerror(zip));
        zip_file_set_external_attributes(zip, static_cast<zip_uint64_t>(i), 0, ZIP_OPSYS_UNIX,
                                         e.unixMode << 16);
    }
    if (zip_close(zip) != 0) qFatal("%s", zip_strerror(zip));
}

/// Replaces bytes of a file, all places of one length.
void patch(const std::string& file, const QByteArray& from, const QByteArray& to)
{
    QFile f(QString::fromStdString(file));
    if (!f.open(QIODevice::ReadWrite)) qFatal("%s", file.c_str());
    QByteArray bytes = f.readAll();
    bytes.replace(from, to);
    f.seek(0);
    f.write(bytes);
    f.resize(bytes.size());
}

std::string messageOf(const std::string& file)
{
    const auto checked = checkBundle(file);
    return checked ? std::string() : checked.error().message();
}

} // namespace

/// Bundles out and in, and what is refused of strangers' files.
class TestBundle : public QObject
{
    Q_OBJECT

private slots:
    void initTestCase()
    {
        const Performance p = perform("teacher", 41, Side::Right, {{"knee-past-toe", 0.08, ""}});
        ReviewRequest& r = m_bundle.request;
        // As a file has it: what was extracted is kept in the file's precision.
        r.student.track = *trackFromJson(trackToJson(exactTrack(p, from(90))), "track");
        r.student.profile = {p.body().height, 0.26};
        r.student.limits.kicks = false;
        r.student.source = "monday.mp4";
        r.second.emplace();
        r.second->track = *trackFromJson(trackToJson(exactTrack(p, from(0))), "track");
        r.level = "refining";
        r.side = Side::Right;
        r.own = {{3.5, "Wait for the breath", "Breathe first", "", Measure::TrunkLeanForward}};
        r.memory.faults["knee-past-toe"] = {2, false, true};
        r.memory.filed[{"trunk-lean", "knee-past-toe"}] = 3;
        r.memory.hung["trunk-lean"] = "knee-past-toe";
        auto first = makeReview(shipped(), r);
        QVERIFY2(first, first ? "" : first.error().message().c_str());
        r.earlier.push_back(recordOf(first->review));
        m_bundle.review = reviewOf(r);
        m_bundle.studentName = "Ana Brøok 明";
        m_bundle.title = "Monday, side";
        m_bundle.made = *dayFrom("2026-03-14");
        m_bundle.choices = {{"knee-past-toe", "accepted", "", "Let the knee follow the toes."},
                            {"stance-short", "parked", "", "", dayFrom("2026-03-28")}};
    }

    void outAndInGivesTheSameReview()
    {
        const std::string file = path("whole.zip");
        QVERIFY(writeBundle(m_bundle, file));
        const auto zip = ZipReader::open(file);
        QVERIFY(zip);
        const auto back = readBundle(*zip);
        QVERIFY2(back, back ? "" : back.error().message().c_str());
        QCOMPARE(back->review, m_bundle.review);
        QCOMPARE(reviewOf(back->request), m_bundle.review); // and it is made again from what lies in it
        QCOMPARE(back->studentName, m_bundle.studentName);
        QCOMPARE(back->title, m_bundle.title);
        QCOMPARE(back->made, m_bundle.made);
        QCOMPARE(back->choices.size(), std::size_t(2));
        QVERIFY(back->choices[1].due == m_bundle.choices[1].due && !back->choices[0].due);
        QCOMPARE(back->choices[0].cue, m_bundle.choices[0].cue);
        QVERIFY(back->request.student.limits == m_bundle.request.student.limits);
        QCOMPARE(historyJson(back->request), historyJson(m_bundle.request));
        QVERIFY(back->videos.empty());
        const auto lines = checkBundle(file);
        QVERIFY(lines && lines->size() == 5);
    }

    void videosTravelAsTheyAre()
    {
        ReviewBundle bundle = m_bundle;
        const std::string video = path("monday.mp4"), file = path("video.zip");
        QByteArray bytes(300000, 'x');
        for (int i = 0; i < bytes.size(); ++i)
            bytes[i] = static_cast<char>(i * 7919 >> 3);
        QVERIFY(writeText(video, bytes.toStdString()));
        bundle.videos[BundleRole::Student] = video;
        QVERIFY(writeBundle(bundle, file));
        const auto zip = ZipReader::open(file);
        const auto back = readBundle(*zip);
        QVERIFY(back);
        QVERIFY(zip->unpack(back->videos.at(BundleRole::Student), path("out.mp4")));
        QCOMPARE(*readText(path("out.mp4")), bytes.toStdString());
        const auto stopped = zip->unpack(back->videos.at(BundleRole::Student), path("stopped.mp4"),
                                         [](double) { return false; });
        QCOMPARE(stopped.error().kind, Error::Kind::Cancelled);
        QVERIFY(!QFile::exists(m_dir.filePath("stopped.mp4")));
        bundle.videos[BundleRole::Student] = path("notes.txt");
        QCOMPARE(writeBundle(bundle, file).error().kind, Error::Kind::WrongUse);
    }

    void nothingHalfStaysBehind()
    {
        const QTemporaryDir empty;
        const std::string file = empty.filePath("a.zip").toStdString();
        const auto stopped = writeBundle(m_bundle, file, [](double) { return false; });
        QCOMPARE(stopped.error().kind, Error::Kind::Cancelled);
        QVERIFY(QDir(empty.path()).isEmpty());
        const auto nowhere = writeBundle(m_bundle, empty.filePath("none/a.zip").toStdString());
        QVERIFY(nowhere.error().message().find("none/a.zip") != std::string::npos);
        ReviewBundle missing = m_bundle;
        missing.videos[BundleRole::Student] = empty.filePath("gone.mp4").toStdString();
        QVERIFY(!writeBundle(missing, file));
        QVERIFY(QDir(empty.path()).isEmpty());
        if (QFile::exists("/dev/full")) {
            const auto full = writeBundle(m_bundle, "/dev/full");
            QVERIFY(!full);
        }
    }

    void strangersFilesAreRefused_data()
    {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QString>("words");
        QTest::newRow("out of the folder") << "../../evil.json"
                                           << "leads out of the bundle";
        QTest::newRow("within and out") << "tracks/../../evil.json"
                                        << "leads out of the bundle";
        QTest::newRow("absolute") << "/etc/passwd"
                                  << "leads out of the bundle";
        QTest::newRow("backslash") << "..\\evil.json"
                                   << "leads out of the bundle";
        QTest::newRow("drive") << "C:evil.json"
                               << "leads out of the bundle";
        QTest::newRow("unknown") << "run.sh"
                                 << "nothing that a bundle has";
    }

    void strangersFilesAreRefused()
    {
        QFETCH(QString, name);
        QFETCH(QString, words);
        const std::string file = path("strange.zip");
        makeZip(file, {{"bundle.json", "{}"}, {name.toStdString(), "{}"}});
        const std::string message = messageOf(file);
        QVERIFY2(QString::fromStdString(message).contains(words), message.c_str());
        QVERIFY(message.find("strange.zip") != std::string::npos);
    }

    void linksAreRefused()
    {
        const std::string file = path("link.zip");
        makeZip(file, {{"bundle.json", "{}"}, {"review.json", "/etc/passwd", 0120777}});
        QVERIFY(messageOf(file).find("is a link") != std::string::npos);
    }

    void hugeFilesAreRefused()
    {
        // Central directories that promise four gigabytes of zeros each.
        const std::string file = path("huge.zip");
        const std::string zeros(40000, '\0');
        makeZip(file, {{"bundle.json", zeros}, {"review.json", zeros}, {"tracks/student.json", zeros}});
        patch(file, QByteArray("\x40\x9c\x00\x00", 4), QByteArray("\xfe\xff\xff\xff", 4));
        QVERIFY2(messageOf(file).find("larger than 8 GB") != std::string::npos, messageOf(file).c_str());
        // Zeros that are really there.
        makeZip(file, {{"bundle.json", std::string(std::size_t(4) << 20, '\0')}});
        const auto strict = ZipReader::open(file, {.textBytes = std::uint64_t(1) << 20});
        QVERIFY(strict);
        QVERIFY(strict->text("bundle.json").error().message().find("too large") != std::string::npos);
        QVERIFY(!ZipReader::open(file, {.allBytes = std::uint64_t(1) << 20}));
        // A file that is larger than it says.
        makeZip(file, {{"bundle.json", zeros}});
        patch(file, QByteArray("\x40\x9c\x00\x00", 4), QByteArray("\x10\x00\x00\x00", 4));
        QVERIFY(!messageOf(file).empty());
        std::vector<Entry> many;
        for (int i = 0; i < 40; ++i)
            many.push_back({"file" + std::to_string(i), ""});
        makeZip(file, many);
        QVERIFY(messageOf(file).find("more than 32 files") != std::string::npos);
    }

    void damagedBundlesAreRefused()
    {
        const std::string file = path("damaged.zip");
        QVERIFY(writeBundle(m_bundle, file));
        const std::string whole = *readText(file);
        for (const double share : {0.0, 0.02, 0.3, 0.7, 0.98, 0.9999}) {
            QVERIFY(writeText(file, whole.substr(0, static_cast<std::size_t>(share * double(whole.size())))));
            QVERIFY(!messageOf(file).empty());
        }
        std::string flipped = whole;
        for (std::size_t i = 400; i < 440; ++i)
            flipped[i] = static_cast<char>(flipped[i] ^ 0x55);
        QVERIFY(writeText(file, flipped));
        QVERIFY(!messageOf(file).empty());
        QVERIFY(!messageOf(path("none.zip")).empty());
    }

    void theDayOfAParkedCorrectionMayBeMissing()
    {
        const std::string file = path("without-due.zip");
        makeZip(file, entriesWith("\"due\"", "\"other\""));
        const auto zip = ZipReader::open(file);
        const auto back = readBundle(*zip);
        QVERIFY2(back, back ? "" : back.error().message().c_str());
        QCOMPARE(back->choices.size(), m_bundle.choices.size());
        QVERIFY(!back->choices[1].due);
    }

    void headsThatMakeNoSenseAreRefused_data()
    {
        QTest::addColumn<QString>("from");
        QTest::addColumn<QString>("to");
        QTest::addColumn<QString>("words");
        QTest::newRow("version") << "\"version\": 1"
                                 << "\"version\": 7"
                                 << "version 7";
        QTest::newRow("kind") << "jolly-lantern-bundle"
                              << "something-else"
                              << "another kind of zip";
        QTest::newRow("day") << "2026-03-14"
                             << "2026-13-14"
                             << "no day";
        QTest::newRow("day of return") << "\"due\": \"2026"
                                       << "\"due\": \"next"
                                       << "due is no day";
        QTest::newRow("yardstick") << "\"by\": \"reference\""
                                   << "\"by\": \"guesswork\""
                                   << "yardstick";
        QTest::newRow("height") << "\"height\": 1."
                                << "\"height\": 71."
                                << "height";
        QTest::newRow("syntax") << "\"choices\""
                                << "choices"
                                << "";
        QTest::newRow("video that is not there") << "\"videos\": {}"
                                                 << "\"videos\": {\"student\": \"video/student.mp4\"}"
                                                 << "lacks";
    }

    void headsThatMakeNoSenseAreRefused()
    {
        QFETCH(QString, from);
        QFETCH(QString, to);
        QFETCH(QString, words);
        const std::string file = path("head.zip");
        const std::vector<Entry> entries = entriesWith(from, to);
        makeZip(file, entries);
        const QString message = QString::fromStdString(messageOf(file));
        QVERIFY2(!message.isEmpty() && message.contains(words), qPrintable(message));
        // Without one of its files it is not whole.
        for (std::size_t i = 0; i < entries.size(); ++i) {
            std::vector<Entry> fewer = entries;
            fewer.erase(fewer.begin() + static_cast<std::ptrdiff_t>(i));
            makeZip(file, fewer);
            QVERIFY(!messageOf(file).empty());
        }
    }

private:
    /// What a whole bundle holds, with a text of its head replaced.
    std::vector<Entry> entriesWith(const QString& from, const QString& to) const
    {
        const std::string whole = path("whole.zip");
        if (!writeBundle(m_bundle, whole)) qFatal("the bundle cannot be written");
        const auto zip = ZipReader::open(whole);
        std::vector<Entry> entries;
        for (const ZipReader::Entry& e : zip->entries()) {
            QString text = QString::fromStdString(*zip->text(e.name));
            if (e.name == "bundle.json") {
                if (!text.contains(from)) qFatal("%s", qPrintable(text));
                text.replace(from, to);
            }
            entries.push_back({e.name, text.toStdString()});
        }
        return entries;
    }

    std::string path(const char* name) const { return m_dir.filePath(name).toStdString(); }
    static std::string reviewOf(const ReviewRequest& request)
    {
        const auto finished = makeReview(shipped(), request);
        if (!finished) qFatal("%s", finished.error().message().c_str());
        return reviewJson(finished->review, finished->progress ? &*finished->progress : nullptr);
    }

    QTemporaryDir m_dir;
    ReviewBundle m_bundle;
};

QTEST_GUILESS_MAIN(TestBundle)
#include "test_bundle.moc"
