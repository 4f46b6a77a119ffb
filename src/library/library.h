#pragma once
#include "base/result.h"
#include "body/track.h"
#include "camera/clip_knowledge.h"
#include "review/review_record.h"
#include <QDateTime>
#include <QSqlDatabase>
#include <QString>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

namespace jl
{

struct StudentRow {
    qint64 id = 0;
    QString name;
    std::optional<double> height, footLength; ///< m
    QString level;                            ///< level id
    QString limits;                           ///< free words
    StudentLimits bodyLimits = {};            ///< what caps the judgement
    QString unreadLimits = {}; ///< why the kept limits cannot be read; the student must not be judged then
};

/// Where a clip stands on its way into the library.
enum class ClipState { Waiting, Ready, Failed };

struct ClipRow {
    qint64 id = 0;
    QString title;
    QString file;                          ///< absolute path in the library's media folder
    std::optional<qint64> studentId;       ///< none: not said yet, or a reference
    bool reference = false;                ///< a performance that others are compared with
    std::optional<double> performerHeight; ///< m, of a reference's performer
    ClipState state = ClipState::Waiting;
    QString message; ///< why it failed
    QDateTime added; ///< when it is brought in, if not said
};

/// What the instructor did with a proposed correction.
enum class Decision { Proposed, Accepted, Parked, SetAside };

/// The same with what belongs to it.
struct SlipChoice {
    Decision decision = Decision::Proposed;
    QString reason; ///< why it was set aside: variant, limit or wrong
    QString cue;    ///< the instructor's own words; empty: as proposed
    QDate due;      ///< when a parked one returns

    bool operator==(const SlipChoice&) const = default;
};

/// A slip as it was sent: the record of what the student got.
struct SentSlip {
    QDateTime sent;
    QString way;     ///< what it was saved or handed on as: pdf, html, txt, or copy
    QString words;   ///< the slip as plain text
    QByteArray page; ///< the page as it looked, a JPEG
};

struct ReviewRow {
    qint64 id = 0;
    qint64 clipId = 0;
    std::optional<qint64> referenceId; ///< none: the built-in performer
    QString form, school;
    QString yardstick = "reference"; ///< what it is judged by, see Yardstick
    std::optional<qint64> secondId =
        {}; ///< another clip of the same performance or of another, from another side
};

/// The instructor's library: a folder with library.sqlite, media/ (clips by their content) and cache/
/// (rebuildable). Every change is written as it is made, in a transaction. Used from one thread.
class Library
{
public:
    /// Opens a library, or makes one in an empty or new folder. Refuses a damaged database and one written by
    /// a newer program, and says so; keeps the last five daily copies in backups/.
    static Result<std::unique_ptr<Library>> open(const QString& folder);
    ~Library();
    Library(const Library&) = delete;
    Library& operator=(const Library&) = delete;

    QString folder() const { return m_folder; }

    /// Who hears of what cannot be read, where the reading itself can only come back empty, and of choices
    /// that cannot be kept. What went wrong before is reported at once.
    void setReporter(std::function<void(const Error&)> reporter);

    /// Makes several changes or none: when `work` fails, what it changed and the media it copied are taken
    /// back. May be nested.
    Result<Done> inOneStep(const std::function<Result<Done>()>& work);

    std::vector<StudentRow> students() const;
    std::optional<StudentRow> student(qint64 id) const;
    Result<Done> updateStudent(const StudentRow& student);
    Result<qint64> addStudent(const StudentRow& student);

    std::vector<ClipRow> clips() const;
    std::optional<ClipRow> clip(qint64 id) const;
    /// Copies the file into media/ under a name made of its content; the same content is kept once.
    Result<qint64> addClip(const QString& file, const ClipRow& about);
    Result<Done> setClipState(qint64 clip, ClipState state, const QString& message = {});
    Result<Done> setClipStudent(qint64 clip, qint64 student);
    Result<Done> removeClip(qint64 clip);
    /// Where a small copy of a clip may be kept, in cache/; it goes with the clip's media.
    QString previewOf(const ClipRow& clip) const;

    /// The extracted track, kept apart from everything made by hand.
    Result<Done> saveTrack(qint64 clip, const Track& track);
    Result<Track> track(qint64 clip) const;
    /// The same as it is kept, for unpackTrack() in another thread.
    Result<std::string> packedTrack(qint64 clip) const;

    /// What the instructor knows of a clip: points put in place by hand, lengths on the floor.
    Result<ClipKnowledge> knowledge(qint64 clip) const;
    Result<Done> setKnowledge(qint64 clip, const ClipKnowledge& known);

    /// The review of a clip; made with these choices when there is none yet.
    Result<ReviewRow> reviewOf(const ReviewRow& choices);
    Result<Done> updateReview(const ReviewRow& review);
    SlipChoice choice(qint64 review, const QString& fault) const;
    Result<Done> choose(qint64 review, const QString& fault, const SlipChoice& choice);
    /// The faults of a slip as the instructor ordered them; empty: as the program proposes.
    QStringList slipOrder(qint64 review) const;
    Result<Done> setSlipOrder(qint64 review, const QStringList& faults);

    /// The instructor files a fault under a cause in a review; under an empty one it is a root. None takes
    /// the choice back.
    Result<Done> fileUnder(qint64 review, const QString& fault, const std::optional<QString>& cause);

    std::optional<QString> filedUnder(qint64 review, const QString& fault) const;

    /// The slips of a review that were sent, the newest first. They never change.
    std::vector<SentSlip> sentSlips(qint64 review) const;
    Result<Done> keepSent(qint64 review, const SentSlip& slip);

    /// What a review that came from another instructor brought of its earlier lessons, as its bundle has it;
    /// empty for one's own.
    std::string brought(qint64 review) const;
    Result<Done> setBrought(qint64 review, const std::string& history);

    /// What the instructor saw herself in a review, in the order in which she wrote it down.
    std::vector<OwnFinding> ownFindings(qint64 review) const;
    Result<Done> addOwnFinding(qint64 review, const OwnFinding& finding);
    /// Removes those that count as this fault.
    Result<Done> removeOwnFinding(qint64 review, const QString& fault);

    /// Keeps what a review found.
    Result<Done> saveRecord(qint64 review, const ReviewRecord& record);
    /// Those of the student's clips of earlier days of the same form, the oldest first: two views of one day
    /// are one lesson.
    std::vector<ReviewRecord> earlierRecords(const ReviewRow& review) const;

    /// What earlier lessons say when a review is made on a day: lessons in a row, what is parked or due,
    /// causes as filed in this review and over all.
    TeachingMemory memoryFor(const ReviewRow& review, const QDate& today) const;

    /// Small remembered choices, such as the place that was open.
    QString setting(const QString& key) const;
    void setSetting(const QString& key, const QString& value);

private:
    Library(QString folder, QString connection);
    Result<Done> run(const QString& sql, const QVariantList& values) const;
    /// The answer to a query; one that fails is reported and has no rows.
    QSqlQuery ask(const QString& sql, const QVariantList& values) const;
    void report(const Error& error) const;

    std::function<void(const Error&)> m_reporter;
    mutable std::vector<Error> m_unreported; ///< while nobody listens
    QString m_folder;
    QString m_connection;
    QSqlDatabase m_database;
    int m_steps = 0;      ///< how deep inOneStep() is nested
    QStringList m_copied; ///< media copied in the outermost of them
};

} // namespace jl
