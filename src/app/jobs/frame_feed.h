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
/// counts, and pictures shown lately are kept. What is looked at for longer comes again, sharp. A source is
/// made and used in the feed's own thread.
class FrameFeed : public QObject
{
    Q_OBJECT

public:
    /// Quickly, or as good as can be.
    enum class Quality { Draft, Sharp };

    /// The picture at a time; a null image where there is none, or where nothing sharper than the draft is to
    /// be had.
    using Source = std::function<QImage(double, Quality)>;

    FrameFeed(std::function<Source()> makeSource, double framesPerSecond, QObject* parent = nullptr);
    ~FrameFeed() override;

    void request(double time);

signals:
    void ready(const QImage& picture, double time);

private:
    void work(const std::function<Source()>& makeSource);
    struct Kept {
        long frame;
        bool sharp;
        QImage picture;
    };
    const Kept* cached(long frame);
    void keep(long frame, bool sharp, const QImage& picture);
    void give(const QImage& picture, double time);
    std::optional<double> nextWish(bool mayRefine);

    double m_framesPerSecond;
    std::mutex m_mutex;
    std::condition_variable m_changed;
    std::optional<double> m_wanted;
    struct Given {
        QImage picture;
        double time;
    };
    std::optional<Given> m_given; ///< on its way to the window
    bool m_quit = false;
    std::list<Kept> m_cache; ///< newest first; used in the feed's thread only
    std::thread m_thread;
};

/// Pictures of a video file, at most maxHeight pixels high. Drafts come from the preview as soon as it is
/// there.
FrameFeed::Source videoSource(const std::string& file, int maxHeight, const std::string& preview = {});

} // namespace jl
