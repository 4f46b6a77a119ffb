#include "media/repeat.h"
#include "media/input_file.h"

namespace jl
{

Result<Done> repeatClip(const std::string& clip, int times, const std::string& file)
{
    const Error unwritable{Error::Kind::BadInput, "the video cannot be written", file,
                           "Check that you may write there and that the disk has room."};
    AVFormatContext* raw = nullptr;
    avformat_alloc_output_context2(&raw, nullptr, "mp4", file.c_str());
    if (!raw) return unwritable;
    const std::unique_ptr<AVFormatContext, void (*)(AVFormatContext*)> out(raw, avformat_free_context);
    const ff::Handle<AVPacket> packet(av_packet_alloc());
    AVStream* into = nullptr;
    std::int64_t begin = 0, end = 0; // of this time and of what was written, in ticks of the file
    for (int i = 0; i < times; ++i) {
        auto in = ff::openInput(clip);
        if (!in) return in.error();
        const int pictures = av_find_best_stream(in->get(), AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
        if (pictures < 0)
            return Error{Error::Kind::BadInput, "the file holds no pictures that can be read", clip,
                         ff::kAskForCopy};
        const AVStream& from = *(*in)->streams[pictures];
        if (!into) {
            into = avformat_new_stream(raw, nullptr);
            avcodec_parameters_copy(into->codecpar, from.codecpar);
            into->time_base = from.time_base;
            into->avg_frame_rate = from.avg_frame_rate;
            if (avio_open(&raw->pb, file.c_str(), AVIO_FLAG_WRITE) < 0 ||
                avformat_write_header(raw, nullptr) < 0)
                return unwritable;
        }
        begin = end;
        while (av_read_frame(in->get(), packet.get()) >= 0) {
            if (packet->stream_index == pictures) {
                av_packet_rescale_ts(packet.get(), from.time_base, into->time_base);
                packet->pts += begin;
                packet->dts += begin;
                packet->stream_index = into->index;
                packet->pos = -1;
                const std::int64_t one = av_rescale_q(1, av_inv_q(from.avg_frame_rate), into->time_base);
                end = std::max(end, packet->pts + one);
                if (av_interleaved_write_frame(raw, packet.get()) < 0) return unwritable;
            }
            av_packet_unref(packet.get());
        }
    }
    if (!into || av_write_trailer(raw) < 0 || avio_closep(&raw->pb) < 0) return unwritable;
    return Done{};
}

} // namespace jl
