#include "exchange/hint_files.h"
#include "exchange/review_file.h"
#include "library/library.h"
#include <QSqlQuery>
#include <QVariant>

// What a library remembers of lessons: choices on slips, causes as the instructor sees them, what reviews
// found.

namespace jl
{
namespace
{

QString textOf(const QDate& day)
{
    return day.isValid() ? day.toString(Qt::ISODate) : QString("");
}

QString orEmpty(const QString& text)
{
    return text.isNull() ? QString("") : text;
}

QString now()
{
    return QDateTime::currentDateTimeUtc().toString(Qt::ISODate);
}

} // namespace

Result<ClipKnowledge> Library::knowledge(qint64 clip) const
{
    QSqlQuery q = ask("SELECT known FROM clip WHERE id = ?", {clip});
    if (!q.next()) return ClipKnowledge{};
    return knowledgeFrom(q.value(0).toString().toStdString(), m_folder.toStdString());
}

Result<Done> Library::setKnowledge(qint64 clip, const ClipKnowledge& known)
{
    return run("UPDATE clip SET known = ? WHERE id = ?",
               {QString::fromStdString(knowledgeJson(known)), clip});
}

SlipChoice Library::choice(qint64 review, const QString& fault) const
{
    QSqlQuery q = ask("SELECT decision, reason, cue, due FROM decision WHERE review = ? AND fault = ?",
                      {review, fault});
    if (!q.next()) return {};
    return {static_cast<Decision>(q.value(0).toInt()), q.value(1).toString(), q.value(2).toString(),
            QDate::fromString(q.value(3).toString(), Qt::ISODate)};
}

Result<Done> Library::choose(qint64 review, const QString& fault, const SlipChoice& c)
{
    return run("INSERT OR REPLACE INTO decision (review, fault, decision, reason, cue, due, made) VALUES (?, "
               "?, ?, ?, ?, ?, ?)",
               {review, fault, static_cast<int>(c.decision), orEmpty(c.reason), orEmpty(c.cue), textOf(c.due),
                now()});
}

QStringList Library::slipOrder(qint64 review) const
{
    QSqlQuery q = ask("SELECT slip_order FROM review WHERE id = ?", {review});
    return q.next() ? q.value(0).toString().split(' ', Qt::SkipEmptyParts) : QStringList();
}

Result<Done> Library::setSlipOrder(qint64 review, const QStringList& faults)
{
    return run("UPDATE review SET slip_order = ? WHERE id = ?", {orEmpty(faults.join(' ')), review});
}

Result<Done> Library::fileUnder(qint64 review, const QString& fault, const std::optional<QString>& cause)
{
    if (!cause) return run("DELETE FROM filing WHERE review = ? AND fault = ?", {review, fault});
    return run("INSERT OR REPLACE INTO filing (review, fault, cause, made) VALUES (?, ?, ?, ?)",
               {review, fault, orEmpty(*cause), now()});
}

std::optional<QString> Library::filedUnder(qint64 review, const QString& fault) const
{
    QSqlQuery q = ask("SELECT cause FROM filing WHERE review = ? AND fault = ?", {review, fault});
    return q.next() ? std::optional(q.value(0).toString()) : std::nullopt;
}

std::string Library::brought(qint64 review) const
{
    QSqlQuery q = ask("SELECT brought FROM review WHERE id = ?", {review});
    return q.next() ? q.value(0).toString().toStdString() : std::string();
}

Result<Done> Library::setBrought(qint64 review, const std::string& history)
{
    return run("UPDATE review SET brought = ? WHERE id = ?", {QString::fromStdString(history), review});
}

std::vector<OwnFinding> Library::ownFindings(qint64 review) const
{
    std::vector<OwnFinding> all;
    QSqlQuery q = ask("SELECT time, title, cue, drill, measure FROM own_finding WHERE review = ? ORDER BY id",
                      {review});
    while (q.next())
        all.push_back({q.value(0).toDouble(), q.value(1).toString().toStdString(),
                       q.value(2).toString().toStdString(), q.value(3).toString().toStdString(),
                       measureFromKey(q.value(4).toString().toStdString())});
    return all;
}

Result<Done> Library::addOwnFinding(qint64 review, const OwnFinding& f)
{
    const QString measure =
        f.measure ? QString::fromStdString(std::string(measureInfo(*f.measure).key)) : QString("");
    return run("INSERT INTO own_finding (review, time, title, cue, drill, measure, made) VALUES (?, ?, ?, ?, "
               "?, ?, ?)",
               {review, f.time, QString::fromStdString(f.title), QString::fromStdString(f.cue),
                QString::fromStdString(f.drill), measure, now()});
}

Result<Done> Library::removeOwnFinding(qint64 review, const QString& fault)
{
    for (const OwnFinding& f : ownFindings(review))
        if (f.fault() == fault.toStdString())
            if (auto done = run("DELETE FROM own_finding WHERE review = ? AND title = ?",
                                {review, QString::fromStdString(f.title)});
                !done)
                return done;
    return Done{};
}

std::vector<SentSlip> Library::sentSlips(qint64 review) const
{
    std::vector<SentSlip> all;
    QSqlQuery q =
        ask("SELECT sent, way, words, page FROM sent_slip WHERE review = ? ORDER BY id DESC", {review});
    while (q.next())
        all.push_back({QDateTime::fromString(q.value(0).toString(), Qt::ISODate), q.value(1).toString(),
                       q.value(2).toString(), q.value(3).toByteArray()});
    return all;
}

Result<Done> Library::keepSent(qint64 review, const SentSlip& slip)
{
    return run("INSERT INTO sent_slip (review, sent, way, words, page) VALUES (?, ?, ?, ?, ?)",
               {review, slip.sent.toString(Qt::ISODate), slip.way, slip.words,
                slip.page.isNull() ? QByteArray("") : slip.page}); // a null one would be NULL
}

Result<Done> Library::saveRecord(qint64 review, const ReviewRecord& record)
{
    return run("UPDATE review SET record = ? WHERE id = ?",
               {qCompress(QByteArray::fromStdString(recordJson(record))), review});
}

std::vector<ReviewRecord> Library::earlierRecords(const ReviewRow& review) const
{
    std::vector<ReviewRecord> records;
    QSqlQuery q = ask(
        "SELECT r.record FROM review r JOIN clip c ON c.id = r.clip JOIN clip this ON this.id = ? WHERE "
        "c.student = this.student AND date(c.added) < date(this.added) AND r.form = ? AND r.record IS NOT "
        "NULL ORDER BY c.added, c.id",
        {review.clipId, review.form});
    while (q.next()) {
        const auto record =
            recordFromJson(qUncompress(q.value(0).toByteArray()).toStdString(), m_folder.toStdString());
        if (record)
            records.push_back(*record);
        else
            report(record.error());
    }
    return records;
}

TeachingMemory Library::memoryFor(const ReviewRow& review, const QDate& today) const
{
    TeachingMemory memory;
    memory.faults = lessonsOf(earlierRecords(review));
    QSqlQuery parked =
        ask("SELECT d.fault, d.due FROM decision d JOIN review r ON r.id = d.review JOIN clip c ON c.id = "
            "r.clip JOIN clip this ON this.id = ? WHERE c.student = this.student AND date(c.added) < "
            "date(this.added) AND "
            "d.decision = ? AND r.form = ? ORDER BY c.id",
            {review.clipId, static_cast<int>(Decision::Parked), review.form});
    while (parked.next()) {
        FaultMemory& fault = memory.faults[parked.value(0).toString().toStdString()];
        const QDate due = QDate::fromString(parked.value(1).toString(), Qt::ISODate);
        fault.parked = due.isValid() && due > today;
        fault.returned = !fault.parked;
    }
    QSqlQuery filed = ask("SELECT review, fault, cause FROM filing", {});
    while (filed.next()) {
        const std::string fault = filed.value(1).toString().toStdString(),
                          cause = filed.value(2).toString().toStdString();
        ++memory.filed[{fault, cause}];
        if (filed.value(0).toLongLong() == review.id) memory.hung[fault] = cause;
    }
    return memory;
}

} // namespace jl
