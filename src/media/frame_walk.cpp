#include "media/frame_walk.h"

namespace jl
{

Result<FrameWalk> FrameWalk::open(const std::string& path)
{
    auto decoder = Decoder::open(path);
    if (!decoder) return decoder.error();
    return FrameWalk(std::move(*decoder));
}

Result<Done> FrameWalk::goTo(double time)
{
    const auto sought = m_decoder.seek(time);
    if (!sought) return sought.error();
    auto first = m_decoder.next();
    if (!first) return first.error();
    if (!*first)
        return Error{Error::Kind::BadInput, "the clip shows nothing at this time", m_decoder.info().path,
                     "Take another clip."};
    m_shown = std::move(*first);
    auto second = m_decoder.next();
    if (!second) return second.error();
    m_next = std::move(*second);
    return Done{};
}

Result<const Frame*> FrameWalk::at(double time)
{
    constexpr double far = 1.5;       // s: a seek is quicker than decoding what lies between
    constexpr double rounding = 1e-4; // s: times of key moments are times of frames
    time = std::max(0.0, time);
    if (!m_shown || time < m_shown->time - rounding || time > m_shown->time + far) {
        const auto gone = goTo(time);
        if (!gone) return gone.error();
    }
    while (m_next && m_next->time <= time + rounding) {
        m_shown = std::move(m_next);
        auto next = m_decoder.next();
        if (!next) return next.error();
        m_next = std::move(*next);
    }
    return &*m_shown;
}

} // namespace jl
