#pragma once
#include "media/clip_info.h"
#include "media/frame.h"
#include <memory>
#include <optional>

namespace jl
{

/// Reads the frames of one clip in the order of their exact presentation times. Times start at 0 with the
/// first frame. A decoder is used by one thread at a time and decodes in that thread; several may read one
/// file.
class Decoder
{
public:
    static Result<Decoder> open(const std::string& path);
    Decoder(Decoder&&) noexcept;
    Decoder& operator=(Decoder&&) noexcept;
    ~Decoder();

    const ClipInfo& info() const;

    /// Moves to the frame shown at the time: the next frame read is the last one that begins at or before it.
    Result<Done> seek(double time);

    /// The next frame, or nothing at the end of the clip. A file that breaks off long before its stated end
    /// gives an error that says where.
    Result<std::optional<Frame>> next();

private:
    struct State;
    explicit Decoder(std::unique_ptr<State> state);
    std::unique_ptr<State> m_state;
};

/// The picture shown at a time, scaled to at most maxWidth.
Result<RgbImage> stillAt(const std::string& path, double time, int maxWidth);

} // namespace jl
