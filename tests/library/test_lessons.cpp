#include "library/library.h"
#include "library/schema.h"
#include <QFile>
#include <QSqlQuery>
#include <QTemporaryDir>
#include <QtTest>

using namespace jl;

/// What a library remembers from lesson to lesson.
class TestLessons : public QObject
{
    Q_OBJECT

private slots:
    void init()
    {
        m_dir = std::make_unique<QTemporaryDir>();
        auto library = Library::open(m_dir->filePath("library"));
        QVERIFY(library);
        m_library = std::move(*library);
        m_student = *m_library->addStudent({0, "Ana Brook", 1.7, {}, "forming", ""});
        for (int i = 0; i < 3; ++i) {
            QFile file(m_dir->filePath(QString::number(i) + ".mp4"));
            QVERIFY(file.open(QIODevice::WriteOnly));
            file.write(QByteArray::number(i));
            file.close();
            ClipRow clip;
            clip.studentId = m_student;
            clip.added = QDateTime(m_today.addDays(7 * (i - 3)), QTime(18, 0));
            const qint64 id = *m_library->addClip(file.fileName(), clip);
            m_reviews[i] = *m_library->reviewOf({0, id, {}, "sparrow-tail", "gentle"});
        }
    }

    void lessonsInARowAreRemembered()
    {
        const auto record = [](int shows) {
            ReviewRecord r{"sparrow-tail", "gentle", Side::Right,
                           {"push"},       {},       {{"one-line", Severity::Fault, shows, 3}}};
            r.values.push_back({0, "arrive", "stance.width", "front", 0.05, 0.01, Band{0.1, 0.3, 0}});
            return r;
        };
        QVERIFY(m_library->saveRecord(m_reviews[0].id, record(2)));
        QVERIFY(m_library->saveRecord(m_reviews[1].id, record(1)));
        QVERIFY(m_library->saveRecord(m_reviews[2].id, record(3)));
        QCOMPARE(m_library->earlierRecords(m_reviews[0]).size(), std::size_t(0)); // none before the first
        const auto earlier = m_library->earlierRecords(m_reviews[2]);
        QCOMPARE(earlier.size(), std::size_t(2));
        QCOMPARE(earlier[1].faults.front().shows, 1);
        QCOMPARE(earlier[0].values.front().measure, std::string("stance.width"));
        QCOMPARE(earlier[0].values.front().band->high, 0.3);
        QCOMPARE(m_library->memoryFor(m_reviews[2], m_today).of("one-line").lessons, 2);
        QCOMPARE(m_library->memoryFor(m_reviews[1], m_today).of("one-line").lessons, 1);
    }

    void whatWasSentStaysAsItWas()
    {
        const qint64 review = m_reviews[1].id;
        const QDateTime day(QDate(2026, 3, 14), QTime(9, 30), Qt::UTC);
        QVERIFY(m_library->sentSlips(review).empty());
        QVERIFY(
            m_library->keepSent(review, {day, "pdf", "1. Walk on two rails", QByteArray("\xff\xd8page")}));
        QVERIFY(m_library->keepSent(review, {day.addDays(1), "copy", "1. Stand taller", {}}));
        SlipChoice other;
        other.decision = Decision::SetAside;
        QVERIFY(m_library->choose(review, "one-line", other));
        const auto sent = m_library->sentSlips(review);
        QCOMPARE(sent.size(), std::size_t(2));
        QCOMPARE(sent[0].way, QString("copy")); // the newest first
        QCOMPARE(sent[1].sent, day);
        QCOMPARE(sent[1].words, QString("1. Walk on two rails"));
        QCOMPARE(sent[1].page, QByteArray("\xff\xd8page"));
        QVERIFY(m_library->sentSlips(m_reviews[0].id).empty());
    }

    void ownFindingsAreKept()
    {
        const qint64 review = m_reviews[1].id;
        const OwnFinding breath{3.25, "Wait for the breath", "Let it end first.", "Three rounds.",
                                Measure::TrunkLeanForward};
        QVERIFY(m_library->addOwnFinding(review, breath));
        QVERIFY(m_library->addOwnFinding(review, {5, "Softer eyes", "", "", {}}));
        auto kept = m_library->ownFindings(review);
        QCOMPARE(kept.size(), std::size_t(2));
        QCOMPARE(kept[0].title, breath.title);
        QCOMPARE(kept[0].time, breath.time);
        QCOMPARE(kept[0].measure, breath.measure);
        QVERIFY(!kept[1].measure);
        QVERIFY(m_library->ownFindings(m_reviews[0].id).empty());
        QVERIFY(m_library->removeOwnFinding(review, QString::fromStdString(breath.fault())));
        kept = m_library->ownFindings(review);
        QCOMPARE(kept.size(), std::size_t(1));
        QCOMPARE(kept[0].title, std::string("Softer eyes"));
    }

    void twoClipsOfADayAreOneLesson()
    {
        const ReviewRecord found{"sparrow-tail", "gentle", Side::Right,
                                 {"push"},       {},       {{"one-line", Severity::Fault, 1, 1}}};
        QVERIFY(m_library->saveRecord(m_reviews[2].id, found));
        QVERIFY(
            m_library->choose(m_reviews[2].id, "one-line", {Decision::Parked, "", "", m_today.addDays(5)}));
        QFile file(m_dir->filePath("other-view.mp4"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("other view");
        file.close();
        ClipRow clip;
        clip.studentId = m_student;
        clip.added = m_library->clip(m_reviews[2].clipId)->added.addSecs(600);
        const ReviewRow review = *m_library->reviewOf(
            {0, *m_library->addClip(file.fileName(), clip), {}, "sparrow-tail", "gentle"});
        QVERIFY(m_library->earlierRecords(review).empty());
        QCOMPARE(m_library->memoryFor(review, m_today).of("one-line").lessons, 0);
        QVERIFY(!m_library->memoryFor(review, m_today).of("one-line").parked);
    }

    void parkedOnesReturnWhenDue()
    {
        QVERIFY(
            m_library->choose(m_reviews[0].id, "one-line", {Decision::Parked, "", "", m_today.addDays(5)}));
        const FaultMemory now = m_library->memoryFor(m_reviews[1], m_today).of("one-line");
        QVERIFY(now.parked && !now.returned);
        const FaultMemory later = m_library->memoryFor(m_reviews[1], m_today.addDays(5)).of("one-line");
        QVERIFY(!later.parked && later.returned);
        QVERIFY(!m_library->memoryFor(m_reviews[0], m_today).of("one-line").parked); // not in its own review
    }

    void causesAreFiledAndLearnt()
    {
        QVERIFY(m_library->fileUnder(m_reviews[0].id, "lean-forward", QString("one-line")));
        QVERIFY(m_library->fileUnder(m_reviews[1].id, "lean-forward", QString("one-line")));
        QVERIFY(
            m_library->fileUnder(m_reviews[1].id, "lean-forward", QString(""))); // a later choice replaces
        QCOMPARE(m_library->filedUnder(m_reviews[1].id, "lean-forward"), std::optional(QString("")));
        const TeachingMemory memory = m_library->memoryFor(m_reviews[0], m_today);
        QCOMPARE(memory.hung.at("lean-forward"), std::string("one-line"));
        QCOMPARE(memory.filed.at({"lean-forward", "one-line"}), 1);
        QCOMPARE(memory.filed.at({"lean-forward", ""}), 1);
        QVERIFY(m_library->memoryFor(m_reviews[2], m_today).hung.empty());
        QVERIFY(m_library->fileUnder(m_reviews[0].id, "lean-forward", {}));
        QVERIFY(!m_library->filedUnder(m_reviews[0].id, "lean-forward"));
    }

    void whatWasMendedIsKeptApart()
    {
        const auto clips = m_library->clips();
        QCOMPARE(clips.size(), std::size_t(3));
        ClipKnowledge known;
        known.repairs = {{Landmark::RightToe, 2.5, {100, 200}}};
        QVERIFY(m_library->setKnowledge(clips.front().id, known));
        const auto back = m_library->knowledge(clips.front().id);
        QVERIFY(back);
        QCOMPARE(back->repairs.size(), std::size_t(1));
        QCOMPARE(back->repairs[0].landmark, Landmark::RightToe);
        QVERIFY(m_library->knowledge(clips.back().id + 100)->empty());
        QVERIFY(m_library->setKnowledge(clips.front().id, {}));
        QVERIFY(m_library->knowledge(clips.front().id)->empty());
    }

    void theOrderOfASlipIsKept()
    {
        QVERIFY(m_library->slipOrder(m_reviews[0].id).isEmpty());
        QVERIFY(m_library->setSlipOrder(m_reviews[0].id, {"one-line", "gaze-down"}));
        QCOMPARE(m_library->slipOrder(m_reviews[0].id), (QStringList{"one-line", "gaze-down"}));
        QVERIFY(m_library->slipOrder(m_reviews[1].id).isEmpty());
        QVERIFY(m_library->setSlipOrder(m_reviews[0].id, {}));
        QVERIFY(m_library->slipOrder(m_reviews[0].id).isEmpty());
    }

    void limitsAreKept()
    {
        StudentRow ana = *m_library->student(m_student);
        ana.bodyLimits.kneeFlexion = 55;
        ana.bodyLimits.jumps = false;
        QVERIFY(m_library->updateStudent(ana));
        QVERIFY(m_library->student(m_student)->bodyLimits == ana.bodyLimits);
    }

    void aLibraryOfTheFirstVersionIsCarriedOver()
    {
        const QString folder = m_dir->filePath("old");
        QVERIFY(QDir().mkpath(folder));
        {
            QSqlDatabase db = QSqlDatabase::addDatabase("QSQLITE", "old");
            db.setDatabaseName(folder + "/library.sqlite");
            QVERIFY(db.open());
            QSqlQuery q(db);
            for (const QString& statement : schemaSteps().front())
                QVERIFY(q.exec(statement));
            q.exec("INSERT INTO student (name, level) VALUES ('Old Friend', 'forming')");
            q.exec("INSERT INTO clip (title, media, student, added) VALUES ('t', 'm.mp4', 1, '2026-01-01')");
            q.exec("INSERT INTO review (clip, form, school, made) VALUES (1, 'sparrow-tail', 'gentle', "
                   "'2026-01-01')");
            q.exec("INSERT INTO decision VALUES (1, 'one-line', 1, '2026-01-01')");
            q.exec("PRAGMA user_version = 1");
            db.close();
        }
        QSqlDatabase::removeDatabase("old");
        const auto library = Library::open(folder);
        QVERIFY2(library, library ? "" : library.error().message().c_str());
        QCOMPARE((*library)->students().front().name, "Old Friend");
        QVERIFY((*library)->students().front().bodyLimits.none());
        QCOMPARE((*library)->choice(1, "one-line").decision, Decision::Accepted);
        QVERIFY((*library)->earlierRecords({1, 1, {}, "sparrow-tail", "gentle"}).empty());
    }

private:
    const QDate m_today{2026, 3, 1};
    std::unique_ptr<QTemporaryDir> m_dir;
    std::unique_ptr<Library> m_library;
    qint64 m_student = 0;
    ReviewRow m_reviews[3];
};

QTEST_GUILESS_MAIN(TestLessons)
#include "test_lessons.moc"
