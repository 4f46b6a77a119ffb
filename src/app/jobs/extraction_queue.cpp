#include "app/jobs/extraction_queue.h"
#include "vision/extraction.h"
#include <QElapsedTimer>
#include <algorithm>
#include <memory>

namespace jl
{

ExtractionQueue::ExtractionQueue(QObject* parent) : QObject(parent) {}

ExtractionQueue::~ExtractionQueue()
{
    m_stop = true;
    if (m_worker.joinable()) m_worker.join();
}

void ExtractionQueue::add(qint64 clip, const QString& file)
{
    m_waiting.push_back({clip, file});
    startNext();
}

bool ExtractionQueue::contains(qint64 clip) const
{
    return m_running == clip ||
           std::any_of(m_waiting.begin(), m_waiting.end(), [clip](const Job& j) { return j.clip == clip; });
}

void ExtractionQueue::cancel(qint64 clip)
{
    if (m_running == clip) {
        m_stop = true;
        return;
    }
    const auto waiting =
        std::find_if(m_waiting.begin(), m_waiting.end(), [clip](const Job& j) { return j.clip == clip; });
    if (waiting == m_waiting.end()) return;
    m_waiting.erase(waiting);
    emit cancelled(clip);
}

void ExtractionQueue::startNext()
{
    if (m_running != 0 || m_waiting.empty()) return;
    const Job job = m_waiting.front();
    m_waiting.pop_front();
    m_running = job.clip;
    m_stop = false;
    if (m_worker.joinable()) m_worker.join();
    m_worker = std::thread([this, job] {
        QElapsedTimer clock;
        clock.start();
        ExtractionOptions options;
        options.progress = [&](double share) {
            const double spent = static_cast<double>(clock.elapsed()) / 1000;
            const double left = share > 0.02 ? spent / share - spent : 0;
            QMetaObject::invokeMethod(
                this, [this, clip = job.clip, share, left] { emit progress(clip, share, left); },
                Qt::QueuedConnection);
            return !m_stop;
        };
        const auto networks = networksFromName("auto");
        auto result = std::make_shared<Result<Track>>(Error{});
        if (networks) {
            options.networks = *networks;
            *result = extractTrack(job.file.toStdString(), options);
        } else {
            *result = networks.error();
        }
        QMetaObject::invokeMethod(
            this, [this, clip = job.clip, result] { finish(clip, std::move(*result)); },
            Qt::QueuedConnection);
    });
}

void ExtractionQueue::finish(qint64 clip, Result<Track> result)
{
    m_running = 0;
    if (result)
        emit extracted(clip, *result);
    else if (result.error().kind == Error::Kind::Cancelled)
        emit cancelled(clip);
    else
        emit failed(clip, QString::fromStdString(result.error().message()));
    startNext();
}

} // namespace jl
