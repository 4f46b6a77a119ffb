#pragma once
#include "media/decoder.h"

namespace jl
{

/// The frames of a clip as a time moves through it, mostly forwards: no frame is decoded twice, and far jumps
/// and steps back seek.
class FrameWalk
{
public:
    static Result<FrameWalk> open(const std::string& path);

    /// The frame shown at a time (s): the last that begins at or before it; the first or last of the clip
    /// outside of it. Valid until the next call.
    Result<const Frame*> at(double time);

private:
    explicit FrameWalk(Decoder decoder) : m_decoder(std::move(decoder)) {}
    Result<Done> goTo(double time);

    Decoder m_decoder;
    std::optional<Frame> m_shown, m_next; ///< no next: the clip has ended
};

} // namespace jl
