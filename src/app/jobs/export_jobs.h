#pragma once
#include "base/progress.h"
#include "base/result.h"
#include "base/time_left.h"
#include <QObject>
#include <QString>
#include <QThreadPool>
#include <atomic>
#include <map>
#include <memory>

namespace jl
{

/// Files that are being written in the background, several at once. Signals come in the interface thread.
class ExportJobs : public QObject
{
    Q_OBJECT

public:
    /// Writes a file, reports its progress and stops with Error::Kind::Cancelled where that says so.
    using Work = std::function<Result<Done>(const Progress&)>;

    explicit ExportJobs(QObject* parent = nullptr);
    ~ExportJobs() override; ///< cancels what is running and waits for it

    /// Starts writing; `name` says what is written, such as the path of the file. The job's number.
    int start(const QString& name, Work work);
    void cancel(int job);
    bool idle() const { return m_jobs.empty(); }

signals:
    void started(int job, const QString& name);
    /// `left` is as people say it; empty while nothing can be said.
    void progress(int job, double share, const QString& left);
    void finished(int job, const QString& name);
    void failed(int job, const QString& why);
    void cancelled(int job, const QString& name);

private:
    struct Job {
        QString name;
        std::shared_ptr<std::atomic<bool>> stop = std::make_shared<std::atomic<bool>>(false);
    };
    void end(int job, const Result<Done>& result);

    std::map<int, Job> m_jobs;
    int m_last = 0;
    QThreadPool m_pool;
};

} // namespace jl
