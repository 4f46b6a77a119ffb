#pragma once
#include "base/progress.h"
#include "base/result.h"
#include <QString>
#include <atomic>
#include <condition_variable>
#include <functional>
#include <list>
#include <mutex>
#include <thread>

namespace jl
{

/// Small films in the library's cache in which every moment is found quickly: previews of large clips, and
/// the built-in performer's films. They are made one after the other by a thread that stands back behind
/// everything else, and may be thrown away at any time.
class PictureCache
{
public:
    /// Writes the film to a path; stops when its progress returns false.
    using Make = std::function<Result<Done>(const std::string& path, const Progress& progress)>;

    /// Removes the films that were not used for longest until the rest fits.
    explicit PictureCache(const QString& folder);
    ~PictureCache();
    PictureCache(const PictureCache&) = delete;
    PictureCache& operator=(const PictureCache&) = delete;

    /// A film that is not there is made, the newest wish first. Gives the path back.
    std::string want(const QString& path, Make make);

    /// Whether anything is still being made.
    bool busy();

private:
    struct Wish {
        std::string path;
        Make make;
    };
    void prune() const;
    void work();

    QString m_folder;
    std::mutex m_mutex;
    std::condition_variable m_changed;
    std::list<Wish> m_wishes;
    bool m_making = false;
    std::atomic<bool> m_quit = false;
    std::thread m_thread;
};

/// Lets the calling thread, and those that it starts, stand back behind the others.
void standBack();

} // namespace jl
