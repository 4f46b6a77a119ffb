#pragma once
#include "base/result.h"
#include "body/track.h"
#include <QObject>
#include <QString>
#include <atomic>
#include <deque>
#include <thread>

namespace jl
{

/// Extracts clips one after the other in the background. Signals come in the interface thread.
class ExtractionQueue : public QObject
{
    Q_OBJECT

public:
    explicit ExtractionQueue(QObject* parent = nullptr);
    ~ExtractionQueue() override;

    void add(qint64 clip, const QString& file);
    /// Takes a waiting clip out, or stops the running one.
    void cancel(qint64 clip);
    bool contains(qint64 clip) const;
    bool idle() const { return m_waiting.empty() && m_running == 0; }

signals:
    void progress(qint64 clip, double share, double secondsLeft);
    void extracted(qint64 clip, const jl::Track& track);
    void failed(qint64 clip, const QString& message);
    void cancelled(qint64 clip);

private:
    struct Job {
        qint64 clip;
        QString file;
    };
    void startNext();
    void finish(qint64 clip, Result<Track> result);

    std::deque<Job> m_waiting;
    qint64 m_running = 0;
    std::thread m_worker;
    std::atomic<bool> m_stop{false};
};

} // namespace jl
