#include "media/encoder.h"
#include "media/ffmpeg_handles.h"
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <filesystem>

namespace jl
{
namespace
{

constexpr int kTicksPerSecond = 90000;

struct FreeOutput {
    void operator()(AVFormatContext* p) const
    {
        if (p->pb) avio_closep(&p->pb);
        avformat_free_context(p);
    }
};

} // namespace

struct Encoder::State {
    std::string path;
    std::string partial;
    EncoderOptions options;
    std::unique_ptr<AVFormatContext, FreeOutput> format;
    ff::Handle<AVCodecContext> codec;
    ff::Handle<SwsContext> scaler;      ///< from RGB
    ff::Handle<SwsContext> frameScaler; ///< from stored pictures
    ff::Handle<AVFrame> picture;
    ff::Handle<AVPacket> packet;
    AVStream* stream = nullptr;
    ff::Handle<AVCodecContext> soundCodec; ///< none in a silent clip
    AVStream* soundStream = nullptr;
    std::vector<float> unsent; ///< sound that does not fill a block of the codec yet
    std::int64_t sent = 0;     ///< samples

    Error failure(const std::string& what) const
    {
        return {Error::Kind::BadInput, what, path,
                "Check that the folder exists, that you may write there and that the disk has room."};
    }
    /// Writes what a codec has ready.
    Result<Done> drain(AVCodecContext* from, AVStream* into)
    {
        while (avcodec_receive_packet(from, packet.get()) == 0) {
            av_packet_rescale_ts(packet.get(), from->time_base, into->time_base);
            packet->stream_index = into->index;
            if (av_interleaved_write_frame(format.get(), packet.get()) < 0)
                return failure("the video cannot be written");
        }
        return Done{};
    }
    /// Codes what lies in `picture`.
    Result<Done> send(double time);
    Result<Done> openSound();
    Result<Done> sendSound(std::span<const float> block);
    ~State()
    {
        format.reset();
        std::error_code ignored;
        if (!partial.empty()) std::filesystem::remove(partial, ignored);
    }
};

Result<Done> Encoder::State::send(double time)
{
    picture->pts = std::llround(time * kTicksPerSecond);
    picture->pkt_duration = std::llround(kTicksPerSecond / options.framesPerSecond);
    if (avcodec_send_frame(codec.get(), picture.get()) < 0) return failure("a picture cannot be coded");
    return drain(codec.get(), stream);
}

Result<Done> Encoder::State::openSound()
{
    const AVCodec* encoder = avcodec_find_encoder(AV_CODEC_ID_AAC);
    if (!encoder) return failure("this FFmpeg cannot write AAC sound");
    soundCodec.reset(avcodec_alloc_context3(encoder));
    AVCodecContext& c = *soundCodec;
    c.sample_fmt = AV_SAMPLE_FMT_FLTP;
    c.sample_rate = options.soundRate;
    c.ch_layout = AV_CHANNEL_LAYOUT_MONO;
    c.bit_rate = 64000;
    c.time_base = {1, options.soundRate};
    if (format->oformat->flags & AVFMT_GLOBALHEADER) c.flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
    if (avcodec_open2(&c, encoder, nullptr) < 0) return failure("sound of this rate cannot be written");
    soundStream = avformat_new_stream(format.get(), nullptr);
    soundStream->time_base = c.time_base;
    avcodec_parameters_from_context(soundStream->codecpar, &c);
    return Done{};
}

Result<Done> Encoder::State::sendSound(std::span<const float> block)
{
    const ff::Handle<AVFrame> frame(av_frame_alloc());
    frame->format = soundCodec->sample_fmt;
    frame->ch_layout = soundCodec->ch_layout;
    frame->sample_rate = soundCodec->sample_rate;
    frame->nb_samples = static_cast<int>(block.size());
    frame->pts = sent;
    av_frame_get_buffer(frame.get(), 0);
    std::copy(block.begin(), block.end(), reinterpret_cast<float*>(frame->data[0]));
    sent += std::ssize(block);
    if (avcodec_send_frame(soundCodec.get(), frame.get()) < 0) return failure("the sound cannot be coded");
    return drain(soundCodec.get(), soundStream);
}

Result<Encoder> Encoder::create(const std::string& path, const EncoderOptions& options)
{
    av_log_set_level(AV_LOG_QUIET);
    auto s = std::make_unique<State>();
    s->path = path;
    s->options = options;
    s->partial = path + ".part";
    AVFormatContext* raw = nullptr;
    avformat_alloc_output_context2(&raw, nullptr, "mp4", s->partial.c_str());
    s->format.reset(raw);
    const AVCodec* encoder = avcodec_find_encoder_by_name("libx264");
    if (!raw || !encoder) return s->failure("this FFmpeg cannot write H.264 video");
    s->codec.reset(avcodec_alloc_context3(encoder));
    AVCodecContext& c = *s->codec;
    c.width = options.width;
    c.height = options.height;
    c.pix_fmt = AV_PIX_FMT_YUV420P;
    c.time_base = {1, kTicksPerSecond};
    c.framerate = av_d2q(options.framesPerSecond, 100000);
    c.gop_size = options.keyFrameEvery;
    c.colorspace = AVCOL_SPC_BT709;
    c.color_range = AVCOL_RANGE_MPEG;
    c.color_primaries = AVCOL_PRI_BT709;
    c.color_trc = AVCOL_TRC_BT709;
    c.thread_count = 2;
    if (raw->oformat->flags & AVFMT_GLOBALHEADER) c.flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
    char quality[16];
    std::snprintf(quality, sizeof quality, "%.1f", options.quality);
    av_opt_set(c.priv_data, "crf", quality, 0);
    av_opt_set(c.priv_data, "preset", options.speed.c_str(), 0);
    if (avcodec_open2(&c, encoder, nullptr) < 0)
        return Error{Error::Kind::WrongUse, "a video of this size cannot be made", path,
                     "Use an even width and height of at least 64."};

    s->stream = avformat_new_stream(raw, nullptr);
    s->stream->time_base = c.time_base;
    s->stream->avg_frame_rate = c.framerate;
    avcodec_parameters_from_context(s->stream->codecpar, &c);
    if (options.quarterTurns != 0) {
        auto* matrix = reinterpret_cast<std::int32_t*>(
            av_stream_new_side_data(s->stream, AV_PKT_DATA_DISPLAYMATRIX, 9 * sizeof(std::int32_t)));
        if (matrix) av_display_rotation_set(matrix, 90.0 * options.quarterTurns);
    }
    if (options.soundRate > 0) {
        const auto opened = s->openSound();
        if (!opened) return opened.error();
    }
    AVDictionary* flags = nullptr;
    av_dict_set(&flags, "movflags", "+faststart", 0);
    if (options.focalLength > 0) {
        av_dict_set(&raw->metadata, "camera.focal_length.35mm_equivalent",
                    std::to_string(options.focalLength).c_str(), 0);
        av_dict_set(&flags, "movflags", "+faststart+use_metadata_tags", 0);
    }
    int code = avio_open(&raw->pb, s->partial.c_str(), AVIO_FLAG_WRITE);
    if (code >= 0) code = avformat_write_header(raw, &flags);
    av_dict_free(&flags);
    if (code < 0) return s->failure("the video cannot be written (" + ff::reason(code) + ")");

    s->packet.reset(av_packet_alloc());
    s->picture.reset(av_frame_alloc());
    s->picture->format = AV_PIX_FMT_YUV420P;
    s->picture->width = options.width;
    s->picture->height = options.height;
    av_frame_get_buffer(s->picture.get(), 0);
    s->scaler.reset(sws_getContext(options.width, options.height, AV_PIX_FMT_RGB24, options.width,
                                   options.height, AV_PIX_FMT_YUV420P, SWS_BILINEAR, nullptr, nullptr,
                                   nullptr));
    const int* matrix = sws_getCoefficients(SWS_CS_ITU709);
    sws_setColorspaceDetails(s->scaler.get(), matrix, 1, matrix, 0, 0, 1 << 16, 1 << 16);
    return Encoder(std::move(s));
}

Encoder::Encoder(std::unique_ptr<State> state) : m_state(std::move(state)) {}
Encoder::Encoder(Encoder&&) noexcept = default;
Encoder& Encoder::operator=(Encoder&&) noexcept = default;
Encoder::~Encoder() = default;

Result<Done> Encoder::add(const RgbImage& picture, double time)
{
    State& s = *m_state;
    av_frame_make_writable(s.picture.get());
    const std::uint8_t* source[1] = {picture.data.data()};
    const int stride[1] = {3 * picture.width};
    sws_scale(s.scaler.get(), source, stride, 0, picture.height, s.picture->data, s.picture->linesize);
    return s.send(time);
}

Result<Done> Encoder::add(const Frame& picture, double time)
{
    State& s = *m_state;
    av_frame_make_writable(s.picture.get());
    s.frameScaler.reset(sws_getCachedContext(s.frameScaler.release(), picture.width, picture.height,
                                             AV_PIX_FMT_YUV420P, s.options.width, s.options.height,
                                             AV_PIX_FMT_YUV420P, SWS_AREA, nullptr, nullptr, nullptr));
    const int* from = sws_getCoefficients(picture.bt709 ? SWS_CS_ITU709 : SWS_CS_ITU601);
    const int* to = sws_getCoefficients(SWS_CS_ITU709);
    sws_setColorspaceDetails(s.frameScaler.get(), from, picture.fullRange, to, 0, 0, 1 << 16, 1 << 16);
    sws_scale(s.frameScaler.get(), picture.plane, picture.stride, 0, picture.height, s.picture->data,
              s.picture->linesize);
    return s.send(time);
}

Result<Done> Encoder::addSound(std::span<const float> samples)
{
    State& s = *m_state;
    if (!s.soundCodec) return s.failure("this clip was begun without sound");
    s.unsent.insert(s.unsent.end(), samples.begin(), samples.end());
    const auto block = static_cast<std::size_t>(s.soundCodec->frame_size);
    std::size_t at = 0;
    for (; at + block <= s.unsent.size(); at += block) {
        const auto sent = s.sendSound(std::span(s.unsent).subspan(at, block));
        if (!sent) return sent.error();
    }
    s.unsent.erase(s.unsent.begin(), s.unsent.begin() + static_cast<std::ptrdiff_t>(at));
    return Done{};
}

Result<Done> Encoder::finish()
{
    State& s = *m_state;
    avcodec_send_frame(s.codec.get(), nullptr);
    auto drained = s.drain(s.codec.get(), s.stream);
    if (!drained) return drained.error();
    if (s.soundCodec) {
        if (!s.unsent.empty()) drained = s.sendSound(s.unsent);
        if (!drained) return drained.error();
        avcodec_send_frame(s.soundCodec.get(), nullptr);
        drained = s.drain(s.soundCodec.get(), s.soundStream);
        if (!drained) return drained.error();
    }
    int code = av_write_trailer(s.format.get());
    if (code >= 0) code = avio_closep(&s.format->pb);
    if (code < 0) return s.failure("the video cannot be written to its end");
    std::error_code moved;
    std::filesystem::rename(s.partial, s.path, moved);
    if (moved) return s.failure("the finished video cannot be put in its place");
    s.partial.clear();
    return Done{};
}

} // namespace jl
