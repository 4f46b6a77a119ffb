#include "library/library.h"
#include "exchange/profile_file.h"
#include "exchange/review_file.h"
#include "exchange/track_pack.h"
#include "library/schema.h"
#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSqlError>
#include <QSqlQuery>
#include <QUuid>
#include <QVariant>
#include <nlohmann/json.hpp>

namespace jl
{
namespace
{

Error failure(const QString& what, const QString& where, const QString& remedy)
{
    return {Error::Kind::BadInput, what.toStdString(), where.toStdString(), remedy.toStdString()};
}

QVariant orNull(const std::optional<double>& value)
{
    return value ? QVariant(*value) : QVariant();
}

QVariant orNull(const std::optional<qint64>& value)
{
    return value ? QVariant(*value) : QVariant();
}

std::optional<double> numberOrNone(const QVariant& v)
{
    return v.isNull() ? std::nullopt : std::optional(v.toDouble());
}

std::optional<qint64> idOrNone(const QVariant& v)
{
    return v.isNull() ? std::nullopt : std::optional(v.toLongLong());
}

/// A null string would break the columns that must not be empty.
QString orEmpty(const QString& text)
{
    return text.isNull() ? QString("") : text;
}

QString now()
{
    return QDateTime::currentDateTimeUtc().toString(Qt::ISODate);
}

const char* const kDiskRemedy = "Check that the disk has room and that you may write in the folder.";
constexpr int kBackups = 5;

/// One copy a day, the oldest ones removed.
Result<Done> backUp(QSqlDatabase& database, const QString& folder)
{
    QDir backups(folder + "/backups");
    const QString today = "library-" + QDate::currentDate().toString(Qt::ISODate) + ".sqlite";
    if (backups.exists(today)) return Done{};
    QSqlQuery copy(database);
    if (!QDir().mkpath(backups.path()) ||
        !copy.exec("VACUUM INTO '" + backups.filePath(today).replace("'", "''") + "'"))
        return failure("today's copy of the library cannot be made: " + copy.lastError().text(),
                       backups.path(), kDiskRemedy);
    const QStringList all = backups.entryList({"library-*.sqlite"}, QDir::Files, QDir::Name);
    for (int i = 0; i + kBackups < all.size(); ++i)
        backups.remove(all[i]); // one copy too many does no harm
    return Done{};
}

Result<Done> migrate(QSqlDatabase& database, const QString& file)
{
    QSqlQuery query(database);
    if (!query.exec("PRAGMA user_version") || !query.next())
        return failure("the library's version cannot be read: " + query.lastError().text(), file,
                       kDiskRemedy);
    const auto version = static_cast<std::size_t>(query.value(0).toInt());
    query.finish();
    const auto& steps = schemaSteps();
    if (version > steps.size())
        return failure("this library was written by a newer Jolly Lantern", file,
                       "Update the program, or open another library.");
    for (std::size_t step = version; step < steps.size(); ++step) {
        QStringList statements = steps[step];
        statements << "PRAGMA user_version = " + QString::number(step + 1);
        bool done = database.transaction();
        for (const QString& statement : statements)
            done = done && query.exec(statement);
        if (done && database.commit()) continue;
        const QString why = query.lastError().text() + database.lastError().text();
        database.rollback();
        return failure("the library cannot be set up: " + why, file, kDiskRemedy);
    }
    return Done{};
}

ClipRow clipFrom(const QSqlQuery& q, const QString& folder)
{
    ClipRow c;
    c.id = q.value(0).toLongLong();
    c.title = q.value(1).toString();
    c.file = folder + "/media/" + q.value(2).toString();
    c.studentId = idOrNone(q.value(3));
    c.reference = q.value(4).toBool();
    c.performerHeight = numberOrNone(q.value(5));
    c.state = static_cast<ClipState>(q.value(6).toInt());
    c.message = q.value(7).toString();
    c.added = QDateTime::fromString(q.value(8).toString(), Qt::ISODate);
    return c;
}
const char* const kClipColumns =
    "SELECT id, title, media, student, reference, performer_height, state, message, added FROM clip ";

StudentRow studentFrom(const QSqlQuery& q)
{
    StudentRow row{q.value(0).toLongLong(),  q.value(1).toString(), numberOrNone(q.value(2)),
                   numberOrNone(q.value(3)), q.value(4).toString(), q.value(5).toString()};
    const auto json = nlohmann::json::parse(q.value(6).toString().toStdString(), nullptr, false);
    const auto limits = limitsFromJson(json, row.name.toStdString());
    if (limits)
        row.bodyLimits = *limits;
    else
        row.unreadLimits = QString::fromStdString(limits.error().message());
    return row;
}
const char* const kStudentColumns =
    "SELECT id, name, height, foot_length, level, limits, body_limits FROM student ";

QString textOf(const StudentLimits& limits)
{
    return QString::fromStdString(limitsJson(limits).dump());
}

/// Opens the database of a connection, checks it and brings it up to date.
Result<Done> prepare(const QString& connection, const QString& file)
{
    QSqlDatabase database = QSqlDatabase::addDatabase("QSQLITE", connection);
    database.setDatabaseName(file);
    if (!database.open())
        return failure("the library cannot be opened: " + database.lastError().text(), file, kDiskRemedy);
    QSqlQuery query(database);
    const bool sound = query.exec("PRAGMA quick_check") && query.next() && query.value(0).toString() == "ok";
    query.finish();
    if (!sound)
        return failure("the library's file is damaged", file,
                       "Put the newest copy from its backups folder in its place.");
    for (const char* pragma :
         {"PRAGMA journal_mode = WAL", "PRAGMA foreign_keys = ON", "PRAGMA synchronous = NORMAL"})
        if (!query.exec(pragma))
            return failure("the library cannot be set up: " + query.lastError().text(), file, kDiskRemedy);
    query.finish();
    return migrate(database, file);
}

} // namespace

Library::Library(QString folder, QString connection)
    : m_folder(std::move(folder)), m_connection(std::move(connection))
{
    m_database = QSqlDatabase::database(m_connection);
}

Library::~Library()
{
    m_database.close();
    m_database = QSqlDatabase();
    QSqlDatabase::removeDatabase(m_connection);
}

Result<std::unique_ptr<Library>> Library::open(const QString& folder)
{
    const QString file = folder + "/library.sqlite";
    if (!QDir().mkpath(folder + "/media") || !QDir().mkpath(folder + "/cache"))
        return failure("the library's folder cannot be made", folder, kDiskRemedy);
    const QString connection = QUuid::createUuid().toString();
    auto prepared = prepare(connection, file);
    if (!prepared) {
        QSqlDatabase::removeDatabase(connection);
        return prepared.error();
    }
    auto library = std::unique_ptr<Library>(new Library(folder, connection));
    const auto copied = backUp(library->m_database, folder);
    if (!copied) library->report(copied.error());
    return library;
}

void Library::setReporter(std::function<void(const Error&)> reporter)
{
    m_reporter = std::move(reporter);
    for (const Error& error : std::exchange(m_unreported, {}))
        report(error);
}

void Library::report(const Error& error) const
{
    if (m_reporter)
        m_reporter(error);
    else
        m_unreported.push_back(error);
}

QSqlQuery Library::ask(const QString& sql, const QVariantList& values) const
{
    QSqlQuery q(m_database);
    q.prepare(sql);
    for (const QVariant& v : values)
        q.addBindValue(v);
    if (!q.exec())
        report(failure("the library cannot be read: " + q.lastError().text(), m_folder + "/library.sqlite",
                       "Start the program again; if that does not help, put the newest copy from the backups "
                       "folder in its place."));
    return q;
}

Result<Done> Library::run(const QString& sql, const QVariantList& values) const
{
    QSqlQuery query(m_database);
    query.prepare(sql);
    for (const QVariant& v : values)
        query.addBindValue(v);
    if (!query.exec())
        return failure("the change cannot be saved: " + query.lastError().text(),
                       m_folder + "/library.sqlite", kDiskRemedy);
    return Done{};
}

Result<Done> Library::inOneStep(const std::function<Result<Done>()>& work)
{
    auto done = run("SAVEPOINT step", {});
    if (!done) return done;
    ++m_steps;
    done = work();
    if (done) done = run("RELEASE step", {});
    const bool outermost = --m_steps == 0;
    if (!done) {
        // The first error is the one to report: where taking back fails too, SQLite does it at the next
        // start.
        (void)run("ROLLBACK TO step", {});
        (void)run("RELEASE step", {});
        for (const QString& file : outermost ? m_copied : QStringList{})
            QFile::remove(file);
    }
    if (outermost) m_copied.clear();
    return done;
}

std::vector<StudentRow> Library::students() const
{
    std::vector<StudentRow> rows;
    QSqlQuery q = ask(QString(kStudentColumns) + "ORDER BY name", {});
    while (q.next())
        rows.push_back(studentFrom(q));
    return rows;
}

std::optional<StudentRow> Library::student(qint64 id) const
{
    QSqlQuery q = ask(QString(kStudentColumns) + "WHERE id = ?", {id});
    return q.next() ? std::optional(studentFrom(q)) : std::nullopt;
}

Result<qint64> Library::addStudent(const StudentRow& s)
{
    QSqlQuery q(m_database);
    q.prepare("INSERT INTO student (name, height, foot_length, level, limits, body_limits) VALUES (?, ?, ?, "
              "?, ?, ?)");
    for (const QVariant& v : QVariantList{s.name, orNull(s.height), orNull(s.footLength), orEmpty(s.level),
                                          orEmpty(s.limits), textOf(s.bodyLimits)})
        q.addBindValue(v);
    if (!q.exec())
        return failure("the student cannot be saved: " + q.lastError().text(), m_folder, kDiskRemedy);
    return q.lastInsertId().toLongLong();
}

Result<Done> Library::updateStudent(const StudentRow& s)
{
    return run("UPDATE student SET name = ?, height = ?, foot_length = ?, level = ?, limits = ?, body_limits "
               "= ? WHERE id = ?",
               {s.name, orNull(s.height), orNull(s.footLength), orEmpty(s.level), orEmpty(s.limits),
                textOf(s.bodyLimits), s.id});
}

std::vector<ClipRow> Library::clips() const
{
    std::vector<ClipRow> rows;
    QSqlQuery q = ask(QString(kClipColumns) + "ORDER BY id", {});
    while (q.next())
        rows.push_back(clipFrom(q, m_folder));
    return rows;
}

std::optional<ClipRow> Library::clip(qint64 id) const
{
    QSqlQuery q = ask(QString(kClipColumns) + "WHERE id = ?", {id});
    return q.next() ? std::optional(clipFrom(q, m_folder)) : std::nullopt;
}

Result<qint64> Library::addClip(const QString& file, const ClipRow& about)
{
    QFile source(file);
    if (!source.open(QIODevice::ReadOnly))
        return failure("the clip cannot be read", file, "Check the name and that you may read it.");
    QCryptographicHash hash(QCryptographicHash::Sha256);
    hash.addData(&source);
    source.close();
    const QString media =
        QString::fromLatin1(hash.result().toHex().left(32)) + "." + QFileInfo(file).suffix().toLower();
    const QString target = m_folder + "/media/" + media;
    if (!QFile::exists(target)) {
        const QString part = target + ".part";
        QFile::remove(part);
        if (!QFile::copy(file, part) || !QFile::rename(part, target)) {
            QFile::remove(part);
            return failure("the clip cannot be copied into the library", target, kDiskRemedy);
        }
        if (m_steps > 0) m_copied << target;
    }
    QSqlQuery q(m_database);
    q.prepare("INSERT INTO clip (title, media, student, reference, performer_height, added) VALUES (?, ?, ?, "
              "?, ?, ?)");
    for (const QVariant& v : QVariantList{orEmpty(about.title), media, orNull(about.studentId),
                                          about.reference, orNull(about.performerHeight),
                                          about.added.isValid() ? about.added.toString(Qt::ISODate) : now()})
        q.addBindValue(v);
    if (!q.exec()) return failure("the clip cannot be saved: " + q.lastError().text(), m_folder, kDiskRemedy);
    return q.lastInsertId().toLongLong();
}

Result<Done> Library::setClipState(qint64 clip, ClipState state, const QString& message)
{
    return run("UPDATE clip SET state = ?, message = ? WHERE id = ?",
               {static_cast<int>(state), orEmpty(message), clip});
}

Result<Done> Library::setClipStudent(qint64 clip, qint64 student)
{
    return run("UPDATE clip SET student = ? WHERE id = ?", {student, clip});
}

Result<Done> Library::removeClip(qint64 id)
{
    const auto row = clip(id);
    if (!row) return Done{};
    auto removed = run("DELETE FROM clip WHERE id = ?", {id});
    if (!removed) return removed;
    // The same content may serve another clip.
    for (const ClipRow& c : clips())
        if (c.file == row->file) return Done{};
    for (const QString& file : {row->file, previewOf(*row)})
        if (QFile::exists(file) && !QFile::remove(file))
            return failure("the clip is out of the library, but its file cannot be removed", file,
                           "Remove it yourself.");
    return Done{};
}

QString Library::previewOf(const ClipRow& clip) const
{
    return m_folder + "/cache/preview-" + QFileInfo(clip.file).completeBaseName() + ".mp4";
}

Result<Done> Library::saveTrack(qint64 clip, const Track& track)
{
    const QByteArray data = QByteArray::fromStdString(packTrack(track));
    return inOneStep([&] {
        auto saved = run("INSERT OR REPLACE INTO track (clip, model, made, data) VALUES (?, ?, ?, ?)",
                         {clip, QString::fromStdString(track.model), now(), data});
        return saved ? setClipState(clip, ClipState::Ready) : saved;
    });
}

Result<Track> Library::track(qint64 clip) const
{
    const auto packed = packedTrack(clip);
    return packed ? unpackTrack(*packed, m_folder.toStdString()) : packed.error();
}

Result<std::string> Library::packedTrack(qint64 clip) const
{
    QSqlQuery q = ask("SELECT data FROM track WHERE clip = ?", {clip});
    if (!q.next())
        return failure("the body was not extracted from this clip yet", m_folder,
                       "Wait for the extraction to finish.");
    const QByteArray data = q.value(0).toByteArray();
    return (data.startsWith("JLT") ? data : qUncompress(data)).toStdString(); // earlier versions compressed
}

Result<ReviewRow> Library::reviewOf(const ReviewRow& choices)
{
    QSqlQuery q =
        ask("SELECT id, clip, reference, form, school, yardstick, second FROM review WHERE clip = ?",
            {choices.clipId});
    if (q.next())
        return ReviewRow{q.value(0).toLongLong(), q.value(1).toLongLong(), idOrNone(q.value(2)),
                         q.value(3).toString(),   q.value(4).toString(),   q.value(5).toString(),
                         idOrNone(q.value(6))};
    q.prepare("INSERT INTO review (clip, reference, form, school, made) VALUES (?, ?, ?, ?, ?)");
    for (const QVariant& v :
         QVariantList{choices.clipId, orNull(choices.referenceId), choices.form, choices.school, now()})
        q.addBindValue(v);
    if (!q.exec())
        return failure("the review cannot be saved: " + q.lastError().text(), m_folder, kDiskRemedy);
    ReviewRow row = choices;
    row.id = q.lastInsertId().toLongLong();
    return row;
}

Result<Done> Library::updateReview(const ReviewRow& r)
{
    return run(
        "UPDATE review SET reference = ?, form = ?, school = ?, yardstick = ?, second = ? WHERE id = ?",
        {orNull(r.referenceId), r.form, r.school, r.yardstick, orNull(r.secondId), r.id});
}

QString Library::setting(const QString& key) const
{
    QSqlQuery q = ask("SELECT value FROM setting WHERE key = ?", {key});
    return q.next() ? q.value(0).toString() : QString();
}

void Library::setSetting(const QString& key, const QString& value)
{
    const auto kept = run("INSERT OR REPLACE INTO setting (key, value) VALUES (?, ?)", {key, value});
    if (!kept) report(kept.error());
}

} // namespace jl
