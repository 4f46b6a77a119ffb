#include "media/sound_stream.h"
#include <SoundTouch.h>

namespace jl
{

struct SoundStream::State {
    State(SoundReader opened, double time, double speed)
        : reader(std::move(opened)), begin(time), tempo(speed)
    {
    }

    SoundReader reader;
    soundtouch::SoundTouch stretch; ///< must stay in its place: it points into itself
    double begin, tempo;
    std::size_t given = 0; ///< samples
    bool ended = false;
};

Result<SoundStream> SoundStream::open(const std::string& path, double time, double tempo)
{
    auto reader = SoundReader::open(path, kRate);
    if (!reader) return reader.error();
    const auto sought = reader->seek(time);
    if (!sought) return sought.error();
    auto s = std::make_unique<State>(std::move(*reader), time, tempo);
    s->stretch.setSampleRate(kRate);
    s->stretch.setChannels(1);
    s->stretch.setTempo(tempo);
    return SoundStream(std::move(s));
}

SoundStream::SoundStream(std::unique_ptr<State> state) : m_state(std::move(state)) {}
SoundStream::SoundStream(SoundStream&&) noexcept = default;
SoundStream& SoundStream::operator=(SoundStream&&) noexcept = default;
SoundStream::~SoundStream() = default;

std::vector<float> SoundStream::take(std::size_t count)
{
    State& s = *m_state;
    while (!s.ended && s.stretch.numSamples() < count) {
        const std::vector<float> more = s.reader.next();
        s.ended = more.empty();
        if (s.ended)
            s.stretch.flush();
        else
            s.stretch.putSamples(more.data(), static_cast<unsigned>(more.size()));
    }
    std::vector<float> out(count);
    out.resize(s.stretch.receiveSamples(out.data(), static_cast<unsigned>(count)));
    s.given += out.size();
    return out;
}

double SoundStream::time() const
{
    return m_state->begin + static_cast<double>(m_state->given) / kRate * m_state->tempo;
}

} // namespace jl
