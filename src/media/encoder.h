#pragma once
#include "base/image.h"
#include "base/result.h"
#include "media/frame.h"
#include <memory>
#include <span>
#include <string>

namespace jl
{

struct EncoderOptions {
    int width = 1280; ///< even numbers
    int height = 720;
    double framesPerSecond = 30;
    double quality = 23;            ///< constant rate factor of H.264: lower is better and larger
    std::string speed = "veryfast"; ///< x264 preset
    int quarterTurns = 0;   ///< written as rotation metadata: clockwise turns that make the picture upright
    int keyFrameEvery = 12; ///< frames; short enough for quick scrubbing
    double focalLength = 0; ///< mm, as of a picture 36 mm wide, written as phones do; 0: unknown
    int soundRate = 0;      ///< samples a second of its one channel of sound; 0: a silent clip
};

/// Where every moment is to be found at once: a picture takes more bytes, but few pictures before it are
/// needed.
inline const EncoderOptions kQuicklySought{.speed = "ultrafast", .keyFrameEvery = 3};

/// Writes an MP4 file with H.264 pictures and, if wished, AAC sound. Frames carry their own times, so the
/// rate may vary. The file appears under its name only when finish() succeeded.
class Encoder
{
public:
    static Result<Encoder> create(const std::string& path, const EncoderOptions& options);
    Encoder(Encoder&&) noexcept;
    Encoder& operator=(Encoder&&) noexcept;
    ~Encoder();

    /// Adds a picture of the size given at creation; times rise strictly.
    Result<Done> add(const RgbImage& picture, double time);
    /// Adds a decoded picture as it is stored, in the size given at creation: scaled without a way through
    /// RGB. Its turns are not carried out: options.quarterTurns says them.
    Result<Done> add(const Frame& picture, double time);
    /// Adds sound that follows on what was added before; the first sample belongs to time 0.
    Result<Done> addSound(std::span<const float> samples);
    Result<Done> finish();

private:
    struct State;
    explicit Encoder(std::unique_ptr<State> state);
    std::unique_ptr<State> m_state;
};

} // namespace jl
