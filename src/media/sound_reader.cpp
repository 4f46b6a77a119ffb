#include "media/sound_reader.h"
#include "media/input_file.h"
#include <algorithm>
#include <cmath>
#include <optional>

namespace jl
{

struct SoundReader::State {
    ff::Handle<AVFormatContext> format;
    ff::Handle<AVCodecContext> codec;
    ff::Handle<SwrContext> resampler;
    ff::Handle<AVPacket> packet;
    ff::Handle<AVFrame> frame;
    int stream = -1;
    int rate = 0;
    double timeBase = 0;
    double firstTime = 0;   ///< of the pictures, by the file's clock, s
    double wantedFrom = 0;  ///< s, samples before it are left out
    std::int64_t given = 0; ///< samples since wantedFrom
    bool draining = false;

    bool decodeNext();
    std::vector<float> resampled();
    std::vector<float> inPlace(std::vector<float> samples, std::optional<double> time);
};

/// Decodes into `frame`; false at the end. Damaged packets are skipped.
bool SoundReader::State::decodeNext()
{
    for (;;) {
        const int got = avcodec_receive_frame(codec.get(), frame.get());
        if (got == 0) return true;
        if (got == AVERROR_EOF || draining) return false;
        for (bool fed = false; !fed && !draining;) {
            if (av_read_frame(format.get(), packet.get()) < 0) {
                draining = true;
                avcodec_send_packet(codec.get(), nullptr);
            } else {
                if (packet->stream_index == stream) {
                    avcodec_send_packet(codec.get(), packet.get());
                    fed = true;
                }
                av_packet_unref(packet.get());
            }
        }
    }
}

std::vector<float> SoundReader::State::resampled()
{
    std::vector<float> samples(
        static_cast<std::size_t>(std::max(0, swr_get_out_samples(resampler.get(), frame->nb_samples))));
    auto* out = reinterpret_cast<std::uint8_t*>(samples.data());
    const int count = swr_convert(resampler.get(), &out, static_cast<int>(samples.size()),
                                  const_cast<const std::uint8_t**>(frame->extended_data), frame->nb_samples);
    samples.resize(static_cast<std::size_t>(std::max(0, count)));
    return samples;
}

/// The samples as they follow on what was given: shortened or led by silence so that they lie at their time.
std::vector<float> SoundReader::State::inPlace(std::vector<float> samples, std::optional<double> time)
{
    constexpr double kHole = 0.02; ///< s; less is the rounding of the file's clock
    if (time) {
        const double due = wantedFrom + static_cast<double>(given) / rate, late = *time - due;
        const auto count = std::lround(std::abs(late) * rate);
        if (late > kHole || (late > 0 && given == 0))
            samples.insert(samples.begin(), static_cast<std::size_t>(count), 0.0F);
        else if (late < -kHole || (late < 0 && given == 0))
            samples.erase(samples.begin(),
                          samples.begin() + std::min<std::ptrdiff_t>(count, std::ssize(samples)));
    }
    given += std::ssize(samples);
    return samples;
}

Result<SoundReader> SoundReader::open(const std::string& path, int rate)
{
    auto s = std::make_unique<State>();
    auto format = ff::openInput(path);
    if (!format) return format.error();
    s->format = std::move(*format);
    AVFormatContext* raw = s->format.get();
    const AVCodec* decoder = nullptr;
    s->stream = av_find_best_stream(raw, AVMEDIA_TYPE_AUDIO, -1, -1, &decoder, 0);
    if (s->stream < 0 || !decoder)
        return Error{Error::Kind::NothingFound, "this clip has no sound", path, ""};
    const int pictures = av_find_best_stream(raw, AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
    if (pictures >= 0 && raw->streams[pictures]->start_time != AV_NOPTS_VALUE)
        s->firstTime = static_cast<double>(raw->streams[pictures]->start_time) *
                       av_q2d(raw->streams[pictures]->time_base);
    for (unsigned i = 0; i < raw->nb_streams; ++i)
        if (static_cast<int>(i) != s->stream) raw->streams[i]->discard = AVDISCARD_ALL;

    const AVStream& stream = *raw->streams[s->stream];
    s->codec.reset(avcodec_alloc_context3(decoder));
    avcodec_parameters_to_context(s->codec.get(), stream.codecpar);
    s->codec->pkt_timebase = stream.time_base;
    AVChannelLayout one = AV_CHANNEL_LAYOUT_MONO;
    SwrContext* resampler = nullptr;
    if (avcodec_open2(s->codec.get(), decoder, nullptr) < 0 ||
        swr_alloc_set_opts2(&resampler, &one, AV_SAMPLE_FMT_FLT, rate, &s->codec->ch_layout,
                            s->codec->sample_fmt, s->codec->sample_rate, 0, nullptr) < 0)
        return Error{Error::Kind::BadInput, "the clip's sound is damaged", path, ff::kAskForCopy};
    s->resampler.reset(resampler);
    if (swr_init(resampler) < 0)
        return Error{Error::Kind::BadInput, "the clip's sound is damaged", path, ff::kAskForCopy};
    s->packet.reset(av_packet_alloc());
    s->frame.reset(av_frame_alloc());
    s->timeBase = av_q2d(stream.time_base);
    s->rate = rate;
    return SoundReader(std::move(s));
}

SoundReader::SoundReader(std::unique_ptr<State> state) : m_state(std::move(state)) {}
SoundReader::SoundReader(SoundReader&&) noexcept = default;
SoundReader& SoundReader::operator=(SoundReader&&) noexcept = default;
SoundReader::~SoundReader() = default;

int SoundReader::rate() const
{
    return m_state->rate;
}

Result<Done> SoundReader::seek(double time)
{
    State& s = *m_state;
    // Coded sound needs a little of what came before to be decoded well.
    const double from = std::max(0.0, time - 0.1) + s.firstTime;
    if (av_seek_frame(s.format.get(), s.stream, static_cast<std::int64_t>(from / s.timeBase),
                      AVSEEK_FLAG_BACKWARD) < 0 &&
        av_seek_frame(s.format.get(), s.stream, 0, AVSEEK_FLAG_BACKWARD | AVSEEK_FLAG_ANY) < 0)
        return Error{Error::Kind::BadInput, "the clip's sound cannot be wound", s.format->url, ""};
    avcodec_flush_buffers(s.codec.get());
    swr_close(s.resampler.get());
    swr_init(s.resampler.get());
    s.draining = false;
    s.wantedFrom = time;
    s.given = 0;
    return Done{};
}

std::vector<float> SoundReader::next()
{
    State& s = *m_state;
    for (;;) {
        if (!s.decodeNext()) return {};
        // What the resampler still holds of the frame before comes first.
        const double held = static_cast<double>(swr_get_delay(s.resampler.get(), 1000000)) / 1e6;
        std::optional<double> time;
        if (s.frame->pts != AV_NOPTS_VALUE)
            time = static_cast<double>(s.frame->pts) * s.timeBase - s.firstTime - held;
        auto samples = s.inPlace(s.resampled(), time);
        if (!samples.empty()) return samples;
    }
}

bool hasSound(const std::string& path)
{
    const auto format = ff::openInput(path);
    return format && av_find_best_stream(format->get(), AVMEDIA_TYPE_AUDIO, -1, -1, nullptr, 0) >= 0;
}

} // namespace jl
