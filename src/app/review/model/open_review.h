#pragma once
#include "app/review/model/form_doubt.h"
#include "app/review/model/playhead.h"
#include "app/review/model/review_job.h"
#include "app/shell/context.h"

class QUndoStack;

namespace jl
{

/// The review that is open in the window: which clip, of whom, against what, and what was made of it. Every
/// choice is saved as it is made, and the review is made again. What cannot be read or saved is said by
/// message().
class OpenReview : public QObject
{
    Q_OBJECT

public:
    explicit OpenReview(const Context& context, QObject* parent = nullptr);

    /// Opens the review of a clip whose body was extracted; the work goes on in the background.
    void open(qint64 clip);
    bool isOpen() const { return m_clip.has_value(); }
    const ClipRow& clip() const { return *m_clip; } ///< one must be open
    const std::optional<StudentRow>& student() const { return m_student; }
    const ReviewRow& choices() const { return m_row; }
    QString studentName() const;   ///< the clip's title where nobody is named
    QString referenceName() const; ///< of the built-in performer where no clip is chosen
    std::optional<ClipRow> secondClip() const;
    std::optional<ClipRow> referenceClip() const;

    Playhead& playhead() { return m_playhead; }
    const Playhead& playhead() const { return m_playhead; }
    QUndoStack& undo() { return *m_undo; } ///< of the changes to the clip that is shown

    /// Whether the playhead holds a review of the open clip. While another clip is measured, or where a
    /// review cannot be made, it holds the one before.
    bool isShown() const { return m_clip && m_shownClip == m_clip->id && !m_failed; }

    /// Whether it is another instructor's, in which nothing is decided.
    bool isReadOnly() const { return m_context.readOnly; }

    /// Keeps other choices for the open clip.
    void choose(const ReviewRow& choices);
    void updateStudent(const StudentRow& student);
    /// Makes the review again, with what the library now knows of clip and student.
    void makeAgain();

    /// What the review of the open clip is made from.
    Result<ReviewOrder> order() const;

    /// The shown review as the command line prints it, with the comparison of forms, which may take seconds:
    /// for any thread, as long as the shipped data stays.
    std::function<std::string()> reviewText() const;

signals:
    void chosen(); ///< another clip, or other choices for it
    void making();
    /// A review is about to be shown by the playhead, and is shown.
    void arriving(const jl::MadeReview& review);
    void shown(const jl::MadeReview& review);
    void failed(const QString& why);
    /// The clip may show another form.
    void doubted(const QString& words);
    void message(const QString& text);

private:
    static constexpr const char* kLastForm = "review.form"; ///< setting: the form chosen last
    void make();
    void fail(const QString& why);
    void show(const MadeReview& made);

    Context m_context;
    Playhead m_playhead;
    QUndoStack* m_undo;
    ReviewJob m_job;
    FormDoubt m_formDoubt;
    std::optional<std::string> m_doubt; ///< none: the forms were not compared yet
    std::optional<ClipRow> m_clip;
    std::optional<StudentRow> m_student;
    ReviewRow m_row;
    qint64 m_shownClip = 0;
    bool m_failed = false; ///< the last review could not be made
};

} // namespace jl
