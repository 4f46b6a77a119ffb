#include "app/jobs/export_jobs.h"
#include <QFutureWatcher>
#include <QtConcurrentRun>

namespace jl
{

ExportJobs::ExportJobs(QObject* parent) : QObject(parent)
{
    constexpr int atOnce = 2; // an encoder uses all cores by itself
    m_pool.setMaxThreadCount(atOnce);
}

ExportJobs::~ExportJobs()
{
    for (auto& [number, job] : m_jobs)
        *job.stop = true;
    m_pool.waitForDone();
}

int ExportJobs::start(const QString& name, Work work)
{
    const int number = ++m_last;
    const Job& job = m_jobs[number] = Job{name};
    emit started(number, name);
    const auto report = [this, number, stop = job.stop, left = TimeLeft(),
                         percent = std::make_shared<std::atomic<int>>(-1)](double share) {
        const int now = static_cast<int>(100 * share);
        if (percent->exchange(now) != now) // often enough to be seen
            QMetaObject::invokeMethod(
                this,
                [this, number, share, words = QString::fromStdString(left.words(share))] {
                    emit progress(number, share, words);
                },
                Qt::QueuedConnection);
        return !*stop;
    };
    auto* watcher = new QFutureWatcher<Result<Done>>(this);
    connect(watcher, &QFutureWatcher<Result<Done>>::finished, this, [this, watcher, number] {
        watcher->deleteLater();
        end(number, watcher->result());
    });
    watcher->setFuture(
        QtConcurrent::run(&m_pool, [work = std::move(work), report, stop = job.stop, name]() -> Result<Done> {
            if (*stop) return Error{Error::Kind::Cancelled, "it was not begun", name.toStdString(), ""};
            return work(report);
        }));
    return number;
}

void ExportJobs::cancel(int job)
{
    if (const auto found = m_jobs.find(job); found != m_jobs.end()) *found->second.stop = true;
}

void ExportJobs::end(int number, const Result<Done>& result)
{
    const auto job = m_jobs.find(number);
    if (job == m_jobs.end()) return;
    const QString name = job->second.name;
    m_jobs.erase(job);
    if (result)
        emit finished(number, name);
    else if (result.error().kind == Error::Kind::Cancelled)
        emit cancelled(number, name);
    else
        emit failed(number, QString::fromStdString(result.error().message()));
}

} // namespace jl
