#include "app/jobs/frame_feed.h"
#include "media/decoder.h"
#include <cmath>
#include <memory>

namespace jl
{
namespace
{

constexpr std::size_t kKept = 90;

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

QImage FrameFeed::cached(long frame)
{
    for (auto it = m_cache.begin(); it != m_cache.end(); ++it) {
        if (it->first != frame) continue;
        m_cache.splice(m_cache.begin(), m_cache, it);
        return it->second;
    }
    return {};
}

void FrameFeed::keep(long frame, const QImage& picture)
{
    m_cache.emplace_front(frame, picture);
    if (m_cache.size() > kKept) m_cache.pop_back();
}

void FrameFeed::work(const std::function<Source()>& makeSource)
{
    const Source source = makeSource();
    for (;;) {
        double time = 0;
        {
            std::unique_lock lock(m_mutex);
            m_changed.wait(lock, [this] { return m_quit || m_wanted; });
            if (m_quit) return;
            time = *m_wanted;
            m_wanted.reset();
        }
        const long frame = std::lround(std::floor(time * m_framesPerSecond + 0.01));
        QImage picture = cached(frame);
        if (picture.isNull()) {
            picture = source(time);
            if (!picture.isNull()) keep(frame, picture);
        }
        QMetaObject::invokeMethod(
            this, [this, picture, time] { emit ready(picture, time); }, Qt::QueuedConnection);
    }
}

FrameFeed::Source videoSource(const std::string& file, int maxHeight)
{
    struct State {
        std::optional<Decoder> decoder;
        double shown = -10; ///< time of the frame read last
    };
    auto state = std::make_shared<State>();
    if (auto decoder = Decoder::open(file)) state->decoder.emplace(std::move(*decoder));
    return [state, maxHeight](double time) -> QImage {
        if (!state->decoder) return {};
        const ClipInfo& info = state->decoder->info();
        const double step = info.framesPerSecond > 0 ? 1 / info.framesPerSecond : 1 / 30.0;
        // A little ahead is read on; anything else is sought.
        if (time < state->shown || time > state->shown + 12 * step) {
            if (!state->decoder->seek(time)) return {};
        }
        std::optional<Frame> best;
        for (;;) {
            auto frame = state->decoder->next();
            if (!frame || !*frame) break;
            state->shown = (*frame)->time;
            best = std::move(**frame);
            if (best->time + 0.5 * step > time) break;
        }
        if (!best) return {};
        const int maxWidth =
            best->uprightWidth() * std::min(maxHeight, best->uprightHeight()) / best->uprightHeight();
        const RgbImage rgb = toRgb(*best, maxWidth);
        return QImage(rgb.data.data(), rgb.width, rgb.height, 3 * rgb.width, QImage::Format_RGB888).copy();
    };
}

} // namespace jl
