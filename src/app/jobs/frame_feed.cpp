#include "app/jobs/frame_feed.h"
#include "draw/rgb_image.h"
#include "media/decoder.h"
#include <chrono>
#include <cmath>
#include <filesystem>
#include <memory>
#include <utility>

namespace jl
{
namespace
{

constexpr qint64 kKeptBytes = 64 << 20;         ///< of pictures that were shown lately
constexpr std::chrono::milliseconds kCalm(160); ///< of no wish, after which a draft is made sharp

} // namespace

FrameFeed::FrameFeed(std::function<Source()> makeSource, double framesPerSecond, QObject* parent)
    : QObject(parent), m_framesPerSecond(framesPerSecond > 0 ? framesPerSecond : 30)
{
    m_thread = std::thread([this, make = std::move(makeSource)] { work(make); });
}

FrameFeed::~FrameFeed()
{
    {
        const std::lock_guard lock(m_mutex);
        m_quit = true;
    }
    m_changed.notify_one();
    m_thread.join();
}

void FrameFeed::request(double time)
{
    {
        const std::lock_guard lock(m_mutex);
        m_wanted = time;
    }
    m_changed.notify_one();
}

const FrameFeed::Kept* FrameFeed::cached(long frame)
{
    for (auto it = m_cache.begin(); it != m_cache.end(); ++it) {
        if (it->frame != frame) continue;
        m_cache.splice(m_cache.begin(), m_cache, it);
        return &m_cache.front();
    }
    return nullptr;
}

void FrameFeed::keep(long frame, bool sharp, const QImage& picture)
{
    m_cache.remove_if([frame](const Kept& k) { return k.frame == frame; });
    m_cache.push_front({frame, sharp, picture});
    qint64 bytes = 0;
    for (const Kept& k : m_cache)
        bytes += k.picture.sizeInBytes();
    for (; bytes > kKeptBytes; m_cache.pop_back())
        bytes -= m_cache.back().picture.sizeInBytes();
}

/// A picture that the window had no time for yet gives way to the next, so that none pile up.
void FrameFeed::give(const QImage& picture, double time)
{
    {
        const std::lock_guard lock(m_mutex);
        if (std::exchange(m_given, Given{picture, time})) return;
    }
    const auto take = [this] {
        std::unique_lock lock(m_mutex);
        const Given given = *std::exchange(m_given, std::nullopt);
        lock.unlock();
        emit ready(given.picture, given.time);
    };
    QMetaObject::invokeMethod(this, take, Qt::QueuedConnection);
}

/// Waits for a wish; with something to refine only so long as nobody moves on. None: the calm has come, or
/// the feed ends.
std::optional<double> FrameFeed::nextWish(bool mayRefine)
{
    std::unique_lock lock(m_mutex);
    const auto called = [this] { return m_quit || m_wanted; };
    if (mayRefine)
        m_changed.wait_for(lock, kCalm, called);
    else
        m_changed.wait(lock, called);
    if (m_quit) return {};
    return std::exchange(m_wanted, std::nullopt);
}

void FrameFeed::work(const std::function<Source()>& makeSource)
{
    const Source source = makeSource();
    std::optional<double> draft; ///< the time of what is shown, where it may become sharper
    const auto frameAt = [this](double time) {
        return std::lround(std::floor(time * m_framesPerSecond + 0.01));
    };
    const auto ended = [this] {
        const std::lock_guard lock(m_mutex);
        return m_quit;
    };
    while (!ended()) {
        const auto wish = nextWish(draft.has_value());
        if (!wish) {
            if (!draft || ended()) continue;
            const double time = *std::exchange(draft, std::nullopt);
            const QImage picture = source(time, Quality::Sharp);
            if (picture.isNull()) continue;
            keep(frameAt(time), true, picture);
            give(picture, time);
            continue;
        }
        const Kept* kept = cached(frameAt(*wish));
        if (!kept) {
            const QImage picture = source(*wish, Quality::Draft);
            if (!picture.isNull()) {
                keep(frameAt(*wish), false, picture);
                kept = &m_cache.front();
            }
        }
        give(kept ? kept->picture : QImage(), *wish);
        draft = kept && !kept->sharp ? wish : std::nullopt;
    }
}

namespace
{

/// Pictures of one file.
class VideoReader
{
public:
    explicit VideoReader(Decoder decoder) : m_decoder(std::move(decoder)) {}

    QImage at(double time, int maxHeight)
    {
        const double rate = m_decoder.info().framesPerSecond;
        // The nearest picture: times of a preview are rounded otherwise than the clip's.
        if (!m_decoder.seek(time + 0.49 / (rate > 0 ? rate : 30))) return {};
        const auto frame = m_decoder.next();
        if (!frame || !*frame) return {};
        const Frame& best = **frame;
        const int high = std::min(maxHeight, best.uprightHeight());
        return imageOf(toRgb(best, best.uprightWidth() * high / best.uprightHeight()));
    }

private:
    Decoder m_decoder;
};

} // namespace

FrameFeed::Source videoSource(const std::string& file, int maxHeight, const std::string& preview)
{
    struct State {
        std::optional<VideoReader> clip, preview;
    };
    auto state = std::make_shared<State>();
    if (auto decoder = Decoder::open(file)) state->clip.emplace(std::move(*decoder));
    return [=](double time, FrameFeed::Quality quality) -> QImage {
        std::error_code ignored;
        if (!state->preview && !preview.empty() && std::filesystem::exists(preview, ignored))
            if (auto decoder = Decoder::open(preview)) state->preview.emplace(std::move(*decoder));
        const bool sharp = quality == FrameFeed::Quality::Sharp;
        if (sharp && !state->preview) return {}; // the draft was the clip itself
        if (!sharp && state->preview) return state->preview->at(time, maxHeight);
        return state->clip ? state->clip->at(time, maxHeight) : QImage();
    };
}

} // namespace jl
