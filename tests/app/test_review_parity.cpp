#include "app/review/model/open_review.h"
#include "base/json_file.h"
#include "exchange/profile_file.h"
#include "exchange/track_file.h"
#include "support/shipped.h"
#include <QApplication>
#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>

using namespace jl;

/// The command line and the window make the same review of the same request.
class TestReviewParity : public QObject
{
    Q_OBJECT

private slots:
    void initTestCase()
    {
        m_library = std::move(*Library::open(m_dir.filePath("library")));
        m_student.name = "Ana Brook";
        m_student.height = 1.72;
        m_student.footLength = 0.26;
        m_student.level = "joining";
        m_student.bodyLimits.kneeFlexion = 95;
        m_student.id = *m_library->addStudent(m_student);
        m_clip = add("past-toe");
        m_other = add("behind");
    }

    void theSameRequestGivesTheSameFile_data()
    {
        QTest::addColumn<bool>("second");
        QTest::addColumn<bool>("reference");
        QTest::addColumn<QString>("school");
        QTest::addColumn<QString>("form");
        QTest::newRow("one view") << false << false << "upright-broad"
                                  << "sparrow-tail";
        QTest::newRow("two views that do not go together") << true << false << "inclined-straight"
                                                           << "sparrow-tail";
        QTest::newRow("a recorded reference") << false << true << "compact"
                                              << "sparrow-tail";
        QTest::newRow("another form") << false << false << "upright-broad"
                                      << "ward-off";
    }
    void theSameRequestGivesTheSameFile()
    {
        QFETCH(bool, second);
        QFETCH(bool, reference);
        QFETCH(QString, school);
        QFETCH(QString, form);
        const QString byWindow = m_dir.filePath("window.json"), byCommand = m_dir.filePath("command.json");
        ReviewRow choices{0, m_clip, {}, form, school};
        choices.yardstick = "both";
        if (second) choices.secondId = m_other;
        if (reference) choices.referenceId = m_other;
        fromWindow(choices, byWindow);
        QStringList arguments{"review",   "--student", track("past-toe"), "--form",  form,
                              "--school", school,      "--level",         "joining", "--by",
                              "both",     "--profile", profile(),         "-o",      byCommand};
        if (second) arguments << "--second" << track("behind");
        if (reference) arguments << "--reference" << track("behind");
        QProcess command;
        command.start(CLI_PROGRAM, arguments);
        QVERIFY(command.waitForFinished(120000));
        QVERIFY2(command.exitCode() == 0, command.readAllStandardError().constData());
        const QByteArray window = read(byWindow);
        QVERIFY(window.size() > 10000);
        QVERIFY2(window == read(byCommand), "the files differ");
    }

private:
    QString track(const char* name) const { return QString(TEST_DATA_DIR) + "/" + name + ".track.json"; }

    qint64 add(const char* name)
    {
        ClipRow row;
        row.title = name;
        row.studentId = m_student.id;
        const qint64 id = *m_library->addClip(QString(TEST_DATA_DIR) + "/" + name + ".mp4", row);
        const auto points = readTrack(track(name).toStdString());
        if (!points || !m_library->saveTrack(id, *points)) qFatal("%s cannot be taken in", name);
        return id;
    }

    QString profile() const
    {
        const QString file = m_dir.filePath("profile.json");
        const nlohmann::json json{{"height", *m_student.height},
                                  {"foot_length", *m_student.footLength},
                                  {"limits", limitsJson(m_student.bodyLimits)}};
        if (!writeText(file.toStdString(), json.dump())) qFatal("no profile");
        return file;
    }

    void fromWindow(const ReviewRow& choices, const QString& file)
    {
        ExtractionQueue queue;
        OpenReview review({*m_library, shipped(), Theme::paper(), queue});
        QSignalSpy shown(&review, &OpenReview::shown), failed(&review, &OpenReview::failed);
        review.open(m_clip);
        QTRY_COMPARE_WITH_TIMEOUT(shown.count(), 1, 60000);
        ReviewRow row = choices;
        row.id = review.choices().id;
        review.choose(row);
        QTRY_COMPARE_WITH_TIMEOUT(shown.count(), 2, 60000);
        QCOMPARE(failed.count(), 0);
        QVERIFY(writeText(file.toStdString(), review.reviewText()()));
        QVERIFY(QFile::exists(file));
    }

    static QByteArray read(const QString& file)
    {
        QFile f(file);
        return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
    }

    QTemporaryDir m_dir;
    std::unique_ptr<Library> m_library;
    StudentRow m_student;
    qint64 m_clip = 0, m_other = 0; ///< the second view, or the reference
};

QTEST_MAIN(TestReviewParity)
#include "test_review_parity.moc"
