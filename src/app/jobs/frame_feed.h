#pragma once
#include <QImage>
#include <QObject>
#include <condition_variable>
#include <functional>
#include <list>
#include <mutex>
#include <optional>
#include <thread>

namespace jl
{

/// Gives the picture at a time from a slow source without holding up the interface: only the newest request
/// counts, and pictures shown lately are kept. A source is made and used in the feed's own thread.
class FrameFeed : public QObject
{
    Q_OBJECT

public:
    /// The picture at a time; a null image where there is none.
    using Source = std::function<QImage(double)>;

    FrameFeed(std::function<Source()> makeSource, double framesPerSecond, QObject* parent = nullptr);
    ~FrameFeed() override;

    void request(double time);

signals:
    void ready(const QImage& picture, double time);

private:
    void work(const std::function<Source()>& makeSource);
    QImage cached(long frame);
    void keep(long frame, const QImage& picture);

    double m_framesPerSecond;
    std::mutex m_mutex;
    std::condition_variable m_changed;
    std::optional<double> m_wanted;
    bool m_quit = false;
    std::list<std::pair<long, QImage>> m_cache; ///< newest first; used in the feed's thread only
    std::thread m_thread;
};

/// Pictures of a video file, at most maxHeight pixels high.
FrameFeed::Source videoSource(const std::string& file, int maxHeight);

} // namespace jl
