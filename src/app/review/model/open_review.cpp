#include "app/review/model/open_review.h"
#include "base/day.h"
#include "bundle/review_bundle.h"
#include "exchange/review_file.h"
#include <QUndoStack>

namespace jl
{
namespace
{

QString words(const Error& error)
{
    return QString::fromStdString(error.message());
}

} // namespace

OpenReview::OpenReview(const Context& context, QObject* parent)
    : QObject(parent), m_context(context), m_undo(new QUndoStack(this)), m_job(context.data),
      m_formDoubt(context.data)
{
    connect(&m_job, &ReviewJob::made, this, &OpenReview::show);
    connect(&m_job, &ReviewJob::failed, this, &OpenReview::fail);
    connect(&m_formDoubt, &FormDoubt::answered, this, [this](const QString& doubt) {
        m_doubt = doubt.toStdString();
        if (!doubt.isEmpty()) emit doubted(doubt);
    });
}

QString OpenReview::studentName() const
{
    return m_student ? m_student->name : m_clip ? m_clip->title : QString();
}

QString OpenReview::referenceName() const
{
    const auto clip = referenceClip();
    return clip ? clip->title : tr("built-in performer");
}

std::optional<ClipRow> OpenReview::secondClip() const
{
    return m_row.secondId ? m_context.library.clip(*m_row.secondId) : std::nullopt;
}

std::optional<ClipRow> OpenReview::referenceClip() const
{
    return m_row.referenceId ? m_context.library.clip(*m_row.referenceId) : std::nullopt;
}

void OpenReview::open(qint64 id)
{
    const auto clip = m_context.library.clip(id);
    if (!clip || clip->state != ClipState::Ready) return;
    const QString last = m_context.library.setting(kLastForm);
    const auto row =
        m_context.library.reviewOf({0, id, {}, last.isEmpty() ? "sparrow-tail" : last, "upright-broad"});
    if (!row) return emit message(words(row.error()));
    m_clip = clip;
    m_student = clip->studentId ? m_context.library.student(*clip->studentId) : std::nullopt;
    m_row = *row;
    emit chosen();
    make();
}

void OpenReview::choose(const ReviewRow& choices)
{
    if (!m_clip) return;
    if (m_context.readOnly) {
        emit chosen(); // shows again what holds
        return emit message(readOnlyWords());
    }
    m_row = choices;
    m_context.library.setSetting(kLastForm, m_row.form); // the class goes on with it
    const auto saved = m_context.library.updateReview(m_row);
    if (!saved) emit message(words(saved.error()));
    emit chosen();
    make();
}

void OpenReview::updateStudent(const StudentRow& student)
{
    if (m_context.readOnly) return emit message(readOnlyWords());
    const auto saved = m_context.library.updateStudent(student);
    if (!saved) return emit message(words(saved.error()));
    makeAgain();
}

void OpenReview::makeAgain()
{
    if (!m_clip) return;
    if (m_clip->studentId) m_student = m_context.library.student(*m_clip->studentId);
    emit chosen();
    make();
}

void OpenReview::make()
{
    m_formDoubt.drop();
    m_doubt.reset();
    m_playhead.setPlaying(false);
    auto wanted = order();
    if (!wanted) return fail(words(wanted.error()));
    emit making();
    m_job.start(std::move(*wanted));
}

void OpenReview::fail(const QString& why)
{
    m_failed = true;
    emit failed(why);
    emit message(why);
}

Result<ReviewOrder> OpenReview::order() const
{
    const Library& library = m_context.library;
    ReviewOrder order;
    order.file = m_clip->file.toStdString();
    ReviewRequest& request = order.request;
    auto student = library.packedTrack(m_clip->id);
    if (!student) return student.error();
    order.student = std::move(*student);
    auto known = library.knowledge(m_clip->id);
    if (!known) return known.error();
    request.student.known = std::move(*known);
    if (m_clip->studentId && !m_student)
        return Error{Error::Kind::BadInput, "the student of this clip cannot be read", order.file,
                     "Start the program again."};
    if (m_student && !m_student->unreadLimits.isEmpty())
        return Error{Error::Kind::BadInput,
                     "this student's limits cannot be read, so that nothing can be asked safely: " +
                         m_student->unreadLimits.toStdString(),
                     m_student->name.toStdString(), "Set them again with the button beside the name."};
    if (m_student) {
        request.student.profile = {m_student->height, m_student->footLength};
        request.student.limits = m_student->bodyLimits.inForceOn(today());
        request.level = m_student->level.toStdString();
        request.memory = library.memoryFor(m_row, QDate::currentDate());
        request.earlier = library.earlierRecords(m_row);
    }
    if (const std::string history = library.brought(m_row.id); !history.empty()) {
        const auto filed = std::move(request.memory.hung); // what was filed here since
        const auto taken = takeHistory(request, history, order.file);
        if (!taken) return taken.error();
        if (m_student) request.memory.hung = filed;
    }
    request.own = library.ownFindings(m_row.id);
    request.form = m_row.form.toStdString();
    request.school = m_row.school.toStdString();
    request.yardstick = yardstickFromName(m_row.yardstick.toStdString()).value_or(Yardstick::Reference);
    if (m_row.secondId) {
        auto second = library.packedTrack(*m_row.secondId);
        if (second) {
            order.second = std::move(*second);
            request.second.emplace();
        } else {
            request.leftOut.push_back("The second view was left out: " + second.error().what + ".");
        }
    }
    if (m_row.referenceId) {
        const auto reference = referenceClip();
        auto points = library.packedTrack(*m_row.referenceId);
        if (!points) return points.error();
        order.reference = std::move(*points);
        request.reference.emplace();
        if (reference) request.reference->profile.height = reference->performerHeight;
    }
    return order;
}

void OpenReview::show(const MadeReview& made)
{
    emit arriving(made);
    const auto kept = m_context.library.saveRecord(m_row.id, recordOf(made.scene->review));
    if (!kept) emit message(words(kept.error()));
    const bool another = m_shownClip != m_clip->id;
    if (another) m_undo->clear();
    m_shownClip = m_clip->id;
    m_failed = false;
    m_playhead.setScene(made.scene, another ? Playhead::Place::First : Playhead::Place::Kept);
    m_formDoubt.ask(made.scene);
    emit shown(made);
}

std::function<std::string()> OpenReview::reviewText() const
{
    return [&data = m_context.data, scene = m_playhead.sharedScene(), doubt = m_doubt] {
        Review review = scene->review;
        review.doubt = doubt ? *doubt : formDoubt(data, scene->student, review.school, review.form);
        return reviewJson(review, scene->progress ? &*scene->progress : nullptr);
    };
}

} // namespace jl
