#include "app/jobs/clip_intake.h"
#include "media/decoder.h"
#include <QFileInfo>

namespace jl
{

ClipIntake::ClipIntake(Library& library, ExtractionQueue& queue, QObject* parent)
    : QObject(parent), m_library(library), m_queue(queue)
{
    connect(&queue, &ExtractionQueue::extracted, this, &ClipIntake::keep);
    connect(&queue, &ExtractionQueue::failed, this, [this](qint64 clip, const QString& why) {
        mark(clip, ClipState::Failed, why);
        emit message(why);
    });
    connect(&queue, &ExtractionQueue::cancelled, this, [this](qint64 clip) {
        mark(clip, ClipState::Failed, tr("Stopped. Try again whenever you like."));
    });
}

void ClipIntake::keep(qint64 clip, const Track& track)
{
    const auto saved = m_library.saveTrack(clip, track);
    if (!saved) emit message(QString::fromStdString(saved.error().message()));
    emit changed();
}

void ClipIntake::mark(qint64 clip, ClipState state, const QString& why)
{
    const auto marked = m_library.setClipState(clip, state, why);
    if (!marked) emit message(QString::fromStdString(marked.error().message()));
    emit changed();
}

void ClipIntake::start(qint64 clip)
{
    if (const auto row = m_library.clip(clip)) m_queue.add(clip, row->file);
}

void ClipIntake::addFiles(const QStringList& files)
{
    for (const QString& file : files) {
        const auto info = probe(file.toStdString());
        if (!info) {
            emit message(QString::fromStdString(info.error().message()));
            continue;
        }
        ClipRow about;
        about.title = QFileInfo(file).completeBaseName();
        const auto id = m_library.addClip(file, about);
        if (id)
            start(*id);
        else
            emit message(QString::fromStdString(id.error().message()));
    }
    emit changed();
}

void ClipIntake::resumeWaiting()
{
    for (const ClipRow& clip : m_library.clips())
        if (clip.state == ClipState::Waiting && !m_queue.contains(clip.id)) m_queue.add(clip.id, clip.file);
}

void ClipIntake::extractAgain(qint64 clip)
{
    start(clip);
    mark(clip, ClipState::Waiting);
}

void ClipIntake::remove(qint64 clip)
{
    const auto removed = m_library.removeClip(clip);
    if (!removed) emit message(QString::fromStdString(removed.error().message()));
    emit changed();
}

} // namespace jl
