#pragma once
#include "media/sound_reader.h"

namespace jl
{

/// The sound of a clip from some moment on, slower or faster but at its own pitch (time-stretched by
/// overlapped pieces). For playing: small pieces are made as they are asked for.
class SoundStream
{
public:
    static constexpr int kRate = 44100; ///< samples a second

    /// Fails as SoundReader::open() does. Tempo: 0.125 to 2, 1 as recorded.
    static Result<SoundStream> open(const std::string& path, double time, double tempo);
    SoundStream(SoundStream&&) noexcept;
    SoundStream& operator=(SoundStream&&) noexcept;
    ~SoundStream();

    /// The next `count` samples; fewer only at the end of the clip's sound.
    std::vector<float> take(std::size_t count);

    /// The clip's time of the sample that is taken next, s.
    double time() const;

private:
    struct State;
    explicit SoundStream(std::unique_ptr<State> state);
    std::unique_ptr<State> m_state;
};

} // namespace jl
