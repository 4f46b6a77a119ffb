#include "media/preview.h"
#include "media/decoder.h"
#include "media/encoder.h"
#include <algorithm>
#include <optional>

namespace jl
{

Result<Done> writePreview(const std::string& clip, const std::string& preview, int maxHeight,
                          const Progress& progress)
{
    auto decoder = Decoder::open(clip);
    if (!decoder) return decoder.error();
    const double duration = std::max(0.1, decoder->info().duration);
    std::optional<Encoder> encoder;
    for (;;) {
        auto frame = decoder->next();
        if (!frame) return frame.error();
        if (!*frame) break;
        const int high = std::min(maxHeight, (*frame)->uprightHeight());
        RgbImage picture = toRgb(**frame, (*frame)->uprightWidth() * high / (*frame)->uprightHeight());
        picture.height &= ~1; // 4:2:0 has pictures of even size; an odd column is passed over by its stride
        picture.data.resize(static_cast<std::size_t>(picture.width) * picture.height * 3);
        if (!encoder) {
            EncoderOptions options;
            options.width = picture.width & ~1;
            options.height = picture.height;
            options.framesPerSecond = decoder->info().framesPerSecond;
            options.speed = "ultrafast";
            options.keyFrameEvery = 6;
            auto made = Encoder::create(preview, options);
            if (!made) return made.error();
            encoder.emplace(std::move(*made));
        }
        const auto added = encoder->add(picture, (*frame)->time);
        if (!added) return added.error();
        if (progress && !progress(std::min(1.0, (*frame)->time / duration)))
            return Error{Error::Kind::Cancelled, "the preview was not finished", clip, ""};
    }
    if (!encoder) return Error{Error::Kind::BadInput, "the clip has no pictures", clip, "Take another clip."};
    return encoder->finish();
}

} // namespace jl
