#pragma once
#include "app/jobs/extraction_queue.h"
#include "library/library.h"

namespace jl
{

/// Brings clips into the library and sees to their extraction: saves what was extracted, marks what failed
/// or was stopped, and goes on after a restart. What goes wrong is said by message().
class ClipIntake : public QObject
{
    Q_OBJECT

public:
    ClipIntake(Library& library, ExtractionQueue& queue, QObject* parent = nullptr);

    /// Takes files in and starts their extraction; what is no video is refused.
    void addFiles(const QStringList& files);
    /// Goes on with every clip whose extraction has not finished.
    void resumeWaiting();
    void extractAgain(qint64 clip);
    void remove(qint64 clip);

signals:
    void changed(); ///< clips or their states
    void message(const QString& text);

private:
    void keep(qint64 clip, const Track& track);
    void mark(qint64 clip, ClipState state, const QString& why = {});
    void start(qint64 clip);

    Library& m_library;
    ExtractionQueue& m_queue;
};

} // namespace jl
