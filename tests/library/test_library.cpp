#include "library/library.h"
#include "support/near.h"
#include "support/shipped.h"
#include <QDir>
#include <QSqlQuery>
#include <QTemporaryDir>

using namespace jl;

namespace
{

QString someFile(const QTemporaryDir& dir, const char* name, const QByteArray& content)
{
    QFile f(dir.filePath(name));
    f.open(QIODevice::WriteOnly);
    f.write(content);
    return f.fileName();
}

/// Changes a library's file as nobody should.
void inFile(const QTemporaryDir& dir, const QString& statement)
{
    {
        QSqlDatabase db = QSqlDatabase::addDatabase("QSQLITE", "damage");
        db.setDatabaseName(dir.filePath("library.sqlite"));
        QVERIFY(db.open());
        QVERIFY(QSqlQuery(db).exec(statement));
    }
    QSqlDatabase::removeDatabase("damage");
}

} // namespace

class TestLibrary : public QObject
{
    Q_OBJECT

private slots:
    void everythingIsThereNextTime()
    {
        const QTemporaryDir dir;
        const QString folder = dir.filePath("library");
        ClipRequest request;
        request.framesPerSecond = 5;
        const Track track = exactTrack(perform(), request);
        qint64 clip = 0, review = 0;
        {
            const auto library = Library::open(folder);
            QVERIFY(library);
            const auto student = (*library)->addStudent({0, "Ana Brook", 1.7, {}, "forming", ""});
            QVERIFY(student);
            ClipRow row;
            row.title = "Monday";
            row.studentId = *student;
            clip = *(*library)->addClip(someFile(dir, "a.mp4", "not really a film"), row);
            QVERIFY((*library)->saveTrack(clip, track));
            review = (*library)->reviewOf({0, clip, {}, "sparrow-tail", "gentle"})->id;
            QVERIFY((*library)->choose(review, "one-line", {Decision::Parked, "", "", QDate(2026, 3, 1)}));
            QVERIFY((*library)->choose(review, "one-line", {Decision::Accepted, "", "Own words", {}}));
            (*library)->setSetting("place", "2");
        }
        const auto library = Library::open(folder);
        QVERIFY(library);
        QCOMPARE((*library)->students().size(), std::size_t(1));
        const auto row = (*library)->clip(clip);
        QVERIFY(row && row->state == ClipState::Ready && QFile::exists(row->file));
        QCOMPARE((*library)->track(clip)->frames.size(), track.frames.size());
        QCOMPARE((*library)->reviewOf({0, clip, {}, "other", "other"})->school,
                 "gentle"); // the one that was made
        QCOMPARE((*library)->choice(review, "one-line").decision, Decision::Accepted);
        QCOMPARE((*library)->choice(review, "one-line").cue, QString("Own words"));
        QCOMPARE((*library)->choice(review, "lean-back").decision, Decision::Proposed);
        QCOMPARE((*library)->setting("place"), "2");
    }

    void theSameContentIsKeptOnceAndGoesWithItsLastClip()
    {
        const QTemporaryDir dir;
        const auto library = Library::open(dir.filePath("library"));
        QVERIFY(library);
        const QString a = someFile(dir, "a.mp4", "same"), b = someFile(dir, "b.mp4", "same");
        const qint64 first = *(*library)->addClip(a, {}), second = *(*library)->addClip(b, {});
        QCOMPARE((*library)->clip(first)->file, (*library)->clip(second)->file);
        const QString media = (*library)->clip(first)->file;
        QFile preview((*library)->previewOf(*(*library)->clip(first)));
        QVERIFY(QDir().mkpath(QFileInfo(preview).path()) && preview.open(QIODevice::WriteOnly));
        preview.close();
        QVERIFY((*library)->removeClip(first));
        QVERIFY(QFile::exists(media) && preview.exists());
        QVERIFY((*library)->removeClip(second));
        QVERIFY(!QFile::exists(media) && !preview.exists());
    }

    void aStepThatFailsLeavesNothing()
    {
        const QTemporaryDir dir;
        auto library = Library::open(dir.path());
        const QString old = someFile(dir, "old.mp4", "there before"), fresh = someFile(dir, "new.mp4", "new");
        QVERIFY((*library)->addClip(old, {}));
        const auto failed = (*library)->inOneStep([&]() -> Result<Done> {
            StudentRow ana;
            ana.name = "Ana Brook";
            const auto student = (*library)->addStudent(ana);
            const auto again = (*library)->addClip(old, {});
            const auto clip = (*library)->addClip(fresh, {});
            const Error none{Error::Kind::BadInput, "no further", "", ""};
            return !student ? student.error() : !again ? again.error() : !clip ? clip.error() : none;
        });
        QCOMPARE(QString::fromStdString(failed.error().what), "no further");
        QVERIFY((*library)->students().empty());
        QCOMPARE((*library)->clips().size(), std::size_t(1));
        QCOMPARE(QDir(dir.filePath("media")).entryList(QDir::Files).size(), 1);
        // And it goes on working, one step in another too.
        QVERIFY((*library)->inOneStep([&] {
            return (*library)->inOneStep([&]() -> Result<Done> {
                const auto clip = (*library)->addClip(fresh, {});
                return clip ? Result<Done>(Done{}) : Result<Done>(clip.error());
            });
        }));
        QCOMPARE((*library)->clips().size(), std::size_t(2));
        QCOMPARE(QDir(dir.filePath("media")).entryList(QDir::Files).size(), 2);
    }

    void aNewerLibraryIsRefusedPolitely()
    {
        const QTemporaryDir dir;
        QVERIFY(Library::open(dir.path()));
        {
            QSqlDatabase db = QSqlDatabase::addDatabase("QSQLITE", "newer");
            db.setDatabaseName(dir.filePath("library.sqlite"));
            QVERIFY(db.open());
            QSqlQuery(db).exec("PRAGMA user_version = 99");
            db.close();
        }
        QSqlDatabase::removeDatabase("newer");
        const auto library = Library::open(dir.path());
        QVERIFY(!library);
        QVERIFY(library.error().message().find("newer") != std::string::npos);
    }

    void aDamagedLibraryIsRefusedAndLeftAlone()
    {
        const QTemporaryDir dir;
        const QByteArray junk("this was a database once, before the cat walked over the keys ", 62);
        someFile(dir, "library.sqlite", junk.repeated(40));
        const auto library = Library::open(dir.path());
        QVERIFY(!library);
        QVERIFY(library.error().message().find("library.sqlite") != std::string::npos);
        QFile f(dir.filePath("library.sqlite"));
        f.open(QIODevice::ReadOnly);
        QCOMPARE(f.readAll(), junk.repeated(40));
    }

    void backupsAreKeptFromEarlierDays()
    {
        const QTemporaryDir dir;
        QVERIFY(QDir(dir.path()).mkpath("backups"));
        for (int day = 10; day < 18; ++day)
            someFile(dir, qPrintable(QString("backups/library-2020-01-%1.sqlite").arg(day)), "x");
        QVERIFY(Library::open(dir.path()));
        const auto kept = QDir(dir.filePath("backups")).entryList(QDir::Files, QDir::Name);
        QCOMPARE(kept.size(), 5);
        QVERIFY(kept.last() > "library-2021");
    }

    /// What caps a student must never be lost in silence.
    void limitsThatCannotBeReadAreNotTakenForNone()
    {
        const QTemporaryDir dir;
        const auto library = Library::open(dir.path());
        StudentRow row{0, "Ana Brook", 1.7, {}, "forming", ""};
        row.bodyLimits.kicks = false;
        const qint64 id = *(*library)->addStudent(row);
        QVERIFY((*library)->student(id)->unreadLimits.isEmpty());
        inFile(dir, "UPDATE student SET body_limits = '{\"kicks\": fal'");
        QVERIFY((*library)->student(id)->unreadLimits.contains("Ana Brook"));
    }

    void whatCannotBeReadIsReported()
    {
        const QTemporaryDir dir;
        const auto library = Library::open(dir.path());
        inFile(dir, "DROP TABLE setting");
        QCOMPARE((*library)->setting("place"), QString()); // nobody listens yet
        std::vector<Error> heard;
        (*library)->setReporter([&](const Error& e) { heard.push_back(e); });
        QCOMPARE(heard.size(), std::size_t(1));
        QVERIFY(heard[0].message().find("library.sqlite") != std::string::npos);
        (*library)->setSetting("place", "2");
        QCOMPARE(heard.size(), std::size_t(2));
    }

    void missingFilesAreNamed()
    {
        const QTemporaryDir dir;
        const auto library = Library::open(dir.path());
        const auto added = (*library)->addClip("/nowhere/film.mp4", {});
        QVERIFY(!added);
        QVERIFY(added.error().message().find("/nowhere/film.mp4") != std::string::npos);
        QVERIFY(!(*library)->track(77));
    }
};

QTEST_GUILESS_MAIN(TestLibrary)
#include "test_library.moc"
