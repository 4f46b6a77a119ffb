#include "media/decoder.h"
#include "base/angles.h"
#include "media/input_file.h"
#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <deque>

namespace jl
{
namespace
{

Error broken(const std::string& path, const std::string& what, const std::string& remedy)
{
    return {Error::Kind::BadInput, what, path, remedy};
}

using ff::kAskForCopy;

constexpr double kReadOn =
    2; ///< s; further on a file without an index is opened at a position rather than read through

int quarterTurnsOf(const AVStream& stream)
{
    const auto* matrix = reinterpret_cast<const std::int32_t*>(
        av_stream_get_side_data(&stream, AV_PKT_DATA_DISPLAYMATRIX, nullptr));
    if (!matrix) return 0;
    const double counterClockwise = av_display_rotation_get(matrix);
    if (std::isnan(counterClockwise)) return 0;
    const int turns = static_cast<int>(std::lround(-counterClockwise / 90.0));
    return ((turns % 4) + 4) % 4;
}

std::optional<double> fieldOfViewIn(const AVDictionary* tags)
{
    constexpr double width = 36, shortest = 8, longest = 200; // mm
    const AVDictionaryEntry* tag = nullptr;
    while ((tag = av_dict_get(tags, "", tag, AV_DICT_IGNORE_SUFFIX))) {
        std::string key = tag->key;
        std::transform(key.begin(), key.end(), key.begin(), [](unsigned char c) { return std::tolower(c); });
        if (key.find("focal") == std::string::npos || key.find("35mm") == std::string::npos) continue;
        const double focal = std::strtod(tag->value, nullptr);
        if (focal >= shortest && focal <= longest) return 2 * std::atan(0.5 * width / focal) * kDegPerRad;
    }
    return {};
}

std::string seconds(double t)
{
    char text[32];
    std::snprintf(text, sizeof text, "%.1f s", t);
    return text;
}

} // namespace

struct Decoder::State {
    ClipInfo info;
    ff::Handle<AVFormatContext> format;
    ff::Handle<AVCodecContext> codec;
    ff::Handle<AVPacket> packet;
    ff::Handle<SwsContext> scaler; ///< only for pictures that are not 8 bit 4:2:0
    int stream = -1;
    double timeBase = 0;
    double firstTime = 0;
    bool draining = false;
    double lastTime = -1;
    double lastDuration =
        0; ///< of the picture read last; 0 where pictures come in another order than packets
    std::deque<Frame> ahead;  ///< read while opening or seeking, given out first
    double wantedFrom = -1e9; ///< while seeking: pictures before it that no other needs are left out

    double timeOf(const AVFrame& f) const
    {
        const auto ticks = f.best_effort_timestamp != AV_NOPTS_VALUE ? f.best_effort_timestamp : f.pts;
        return static_cast<double>(ticks) * timeBase - firstTime;
    }
    std::int64_t ticksOf(double time) const
    {
        return static_cast<std::int64_t>((time + firstTime) / timeBase);
    }
    double keyTimeBefore(double time) const;
    void jump(double time);
    Result<Done> readTo(double target);
    Result<std::optional<Frame>> read();
    Frame wrap(ff::Handle<AVFrame> picture);
};

Frame Decoder::State::wrap(ff::Handle<AVFrame> picture)
{
    const auto pixels = static_cast<AVPixelFormat>(picture->format);
    const double time = timeOf(*picture);
    if (pixels != AV_PIX_FMT_YUV420P && pixels != AV_PIX_FMT_YUVJ420P) {
        ff::Handle<AVFrame> converted(av_frame_alloc());
        converted->format = AV_PIX_FMT_YUV420P;
        converted->width = picture->width;
        converted->height = picture->height;
        av_frame_get_buffer(converted.get(), 0);
        scaler.reset(sws_getCachedContext(scaler.release(), picture->width, picture->height, pixels,
                                          picture->width, picture->height, AV_PIX_FMT_YUV420P, SWS_BILINEAR,
                                          nullptr, nullptr, nullptr));
        sws_scale(scaler.get(), picture->data, picture->linesize, 0, picture->height, converted->data,
                  converted->linesize);
        converted->colorspace = picture->colorspace;
        converted->color_range = AVCOL_RANGE_MPEG;
        picture = std::move(converted);
    }
    Frame f;
    f.time = time;
    f.width = picture->width;
    f.height = picture->height;
    f.quarterTurns = info.quarterTurns;
    f.fullRange = pixels == AV_PIX_FMT_YUVJ420P || picture->color_range == AVCOL_RANGE_JPEG;
    const auto space = picture->colorspace;
    f.bt709 = space == AVCOL_SPC_BT709 || (space == AVCOL_SPC_UNSPECIFIED && picture->height >= 720) ||
              space == AVCOL_SPC_BT2020_NCL;
    for (int i = 0; i < 3; ++i) {
        f.plane[i] = picture->data[i];
        f.stride[i] = picture->linesize[i];
    }
    f.owner = std::shared_ptr<AVFrame>(picture.release(), ff::Free{});
    return f;
}

Result<std::optional<Frame>> Decoder::State::read()
{
    for (;;) {
        ff::Handle<AVFrame> picture(av_frame_alloc());
        const int got = avcodec_receive_frame(codec.get(), picture.get());
        if (got == 0) {
            Frame f = wrap(std::move(picture));
            if (f.time <= lastTime) continue; // a repeated or disordered time stamp
            lastTime = f.time;
            if (codec->has_b_frames > 0) lastDuration = 0;
            return std::optional<Frame>(std::move(f));
        }
        if (got == AVERROR_EOF) {
            if (info.duration > 0 && info.duration - lastTime > std::max(1.0, 0.05 * info.duration)) {
                return broken(info.path,
                              "the video breaks off at " + seconds(std::max(lastTime, 0.0)) + " of " +
                                  seconds(info.duration),
                              std::string(kAskForCopy) +
                                  " The part before can be used with a time range that ends there.");
            }
            return std::optional<Frame>();
        }
        // The codec wants more: feed it the next packet of our stream. Damaged packets are skipped; what
        // cannot be shown is noticed by the end check above.
        for (bool fed = false; !fed && !draining;) {
            const int readCode = av_read_frame(format.get(), packet.get());
            if (readCode < 0) {
                draining = true;
                avcodec_send_packet(codec.get(), nullptr);
            } else {
                if (packet->stream_index == stream) {
                    const bool early = packet->pts != AV_NOPTS_VALUE &&
                                       static_cast<double>(packet->pts) * timeBase - firstTime < wantedFrom;
                    codec->skip_frame = early ? AVDISCARD_NONREF : AVDISCARD_DEFAULT;
                    avcodec_send_packet(codec.get(), packet.get());
                    lastDuration = static_cast<double>(packet->duration) * timeBase;
                    fed = true;
                }
                av_packet_unref(packet.get());
            }
        }
    }
}

Result<Decoder> Decoder::open(const std::string& path)
{
    auto format = ff::openInput(path);
    if (!format) return format.error();
    auto s = std::make_unique<State>();
    s->format = std::move(*format);
    AVFormatContext* raw = s->format.get();
    const AVCodec* decoder = nullptr;
    s->stream = av_find_best_stream(raw, AVMEDIA_TYPE_VIDEO, -1, -1, &decoder, 0);
    if (s->stream < 0 || !decoder)
        return broken(path, "the file holds no pictures that can be read", kAskForCopy);

    AVStream& stream = *raw->streams[s->stream];
    s->codec.reset(avcodec_alloc_context3(decoder));
    avcodec_parameters_to_context(s->codec.get(), stream.codecpar);
    s->codec->thread_count = 1; // clips are split over the cores instead
    if (stream.codecpar->width <= 0 || avcodec_open2(s->codec.get(), decoder, nullptr) < 0)
        return broken(path, "the video's format is damaged", kAskForCopy);
    s->packet.reset(av_packet_alloc());
    s->timeBase = av_q2d(stream.time_base);

    ClipInfo& info = s->info;
    info.path = path;
    info.codec = decoder->name;
    info.quarterTurns = quarterTurnsOf(stream);
    info.width = info.quarterTurns % 2 ? stream.codecpar->height : stream.codecpar->width;
    info.height = info.quarterTurns % 2 ? stream.codecpar->width : stream.codecpar->height;
    info.fieldOfView = fieldOfViewIn(raw->metadata);
    if (!info.fieldOfView) info.fieldOfView = fieldOfViewIn(stream.metadata);
    info.framesPerSecond = av_q2d(stream.avg_frame_rate.num ? stream.avg_frame_rate : stream.r_frame_rate);
    info.variableFrameRate =
        std::abs(av_q2d(stream.r_frame_rate) - info.framesPerSecond) > 0.02 * info.framesPerSecond;
    info.duration = stream.duration != AV_NOPTS_VALUE ? static_cast<double>(stream.duration) * s->timeBase
                    : raw->duration != AV_NOPTS_VALUE ? static_cast<double>(raw->duration) / AV_TIME_BASE
                                                      : 0;

    auto first = s->read();
    if (!first) return first.error();
    if (!*first) return broken(path, "the file holds no picture", kAskForCopy);
    s->firstTime = (*first)->time;
    (*first)->time = 0;
    s->lastTime = 0;
    s->ahead.push_back(std::move(**first));
    return Decoder(std::move(s));
}

Decoder::Decoder(std::unique_ptr<State> state) : m_state(std::move(state)) {}
Decoder::Decoder(Decoder&&) noexcept = default;
Decoder& Decoder::operator=(Decoder&&) noexcept = default;
Decoder::~Decoder() = default;

const ClipInfo& Decoder::info() const
{
    return m_state->info;
}

/// The time of the last picture at or before a time that needs no other; before everything where the file
/// does not give one.
double Decoder::State::keyTimeBefore(double time) const
{
    const AVIndexEntry* entry =
        avformat_index_get_entry_from_timestamp(format->streams[stream], ticksOf(time), AVSEEK_FLAG_BACKWARD);
    return entry ? static_cast<double>(entry->timestamp) * timeBase - firstTime : -1e9;
}

void Decoder::State::jump(double time)
{
    if (av_seek_frame(format.get(), stream, ticksOf(time), AVSEEK_FLAG_BACKWARD) < 0)
        av_seek_frame(format.get(), stream, 0, AVSEEK_FLAG_BACKWARD | AVSEEK_FLAG_ANY);
    avcodec_flush_buffers(codec.get());
    draining = false;
    lastTime = -1e9;
    ahead.clear();
}

/// Reads up to the picture that covers a time and keeps it ahead, unless it was given out already.
Result<Done> Decoder::State::readTo(double target)
{
    wantedFrom = target - 0.5; // wide enough for the rarest frame rate
    while (ahead.empty() || lastTime + lastDuration <= target) {
        auto frame = read();
        if (!frame) return frame.error();
        if (!*frame) break;
        if ((*frame)->time <= target) ahead.clear();
        ahead.push_back(std::move(**frame));
        if (lastTime > target) break;
    }
    while (ahead.size() > 1 && ahead[1].time <= target)
        ahead.pop_front();
    return Done{};
}

Result<Done> Decoder::seek(double time)
{
    State& s = *m_state;
    const double target = std::max(0.0, time) + 1e-6;
    // Reading on is the shorter way unless a picture that needs no other lies further along it.
    const double near = s.lastTime + 1.5 / std::max(1.0, s.info.framesPerSecond);
    if (s.lastTime <= target && target < s.lastTime + kReadOn && s.keyTimeBefore(target) <= near) {
        auto there = s.readTo(target);
        if (!there) return there;
        if (!s.ahead.empty() && s.ahead.front().time <= target) return Done{};
    }
    s.jump(target);
    return s.readTo(target);
}

Result<std::optional<Frame>> Decoder::next()
{
    State& s = *m_state;
    if (s.ahead.empty()) return s.read();
    std::optional<Frame> out = std::move(s.ahead.front());
    s.ahead.pop_front();
    return out;
}

Result<RgbImage> stillAt(const std::string& path, double time, int maxWidth)
{
    auto decoder = Decoder::open(path);
    if (!decoder) return decoder.error();
    auto sought = decoder->seek(time);
    if (!sought) return sought.error();
    auto frame = decoder->next();
    if (!frame) return frame.error();
    if (!*frame) return broken(path, "there is no picture at " + seconds(time), "Choose an earlier moment.");
    return toRgb(**frame, maxWidth);
}

} // namespace jl
