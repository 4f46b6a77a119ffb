#include "app/jobs/picture_cache.h"
#include <QDir>
#include <QFileInfo>
#include <sys/resource.h>
#include <unistd.h>

namespace jl
{
namespace
{

constexpr qint64 kMostBytes = qint64(2) << 30;

} // namespace

void standBack()
{
    // On Linux the value is a thread's own. Where it is not allowed, work is only less polite.
    static_cast<void>(setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), 15));
}

PictureCache::PictureCache(const QString& folder) : m_folder(folder)
{
    QDir().mkpath(folder);
    prune();
    m_thread = std::thread([this] { work(); });
}

PictureCache::~PictureCache()
{
    {
        const std::lock_guard lock(m_mutex); // or the thread may miss it just before it waits
        m_quit = true;
    }
    m_changed.notify_one();
    m_thread.join();
}

void PictureCache::prune() const
{
    qint64 sum = 0;
    for (const QFileInfo& film : QDir(m_folder).entryInfoList({"*.mp4"}, QDir::Files, QDir::Time)) {
        sum += film.size();
        if (sum > kMostBytes) QFile::remove(film.filePath());
    }
}

std::string PictureCache::want(const QString& path, Make make)
{
    QFile film(path);
    if (film.exists()) {
        if (film.open(QIODevice::ReadWrite)) // used now
            film.setFileTime(QDateTime::currentDateTime(), QFileDevice::FileModificationTime);
        return path.toStdString();
    }
    const std::lock_guard lock(m_mutex);
    m_wishes.remove_if([&](const Wish& w) { return w.path == path.toStdString(); });
    m_wishes.push_front({path.toStdString(), std::move(make)});
    m_changed.notify_one();
    return path.toStdString();
}

bool PictureCache::busy()
{
    const std::lock_guard lock(m_mutex);
    return m_making || !m_wishes.empty();
}

void PictureCache::work()
{
    standBack();
    for (;;) {
        Wish wish;
        {
            std::unique_lock lock(m_mutex);
            m_making = false;
            m_changed.wait(lock, [this] { return m_quit || !m_wishes.empty(); });
            m_making = true;
            if (m_quit) return;
            wish = std::move(m_wishes.front());
            m_wishes.pop_front();
        }
        if (QFile::exists(QString::fromStdString(wish.path))) continue; // wished for while it was made
        // Without the film everything works, only slower; a full disk is reported where something must be
        // kept.
        static_cast<void>(wish.make(wish.path, [this](double) { return !m_quit; }));
    }
}

} // namespace jl
