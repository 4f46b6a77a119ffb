#include "media/preview.h"
#include "media/decoder.h"
#include "media/encoder.h"
#include <algorithm>
#include <cmath>
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
        if (!encoder) {
            const double scale = std::min(1.0, static_cast<double>(maxHeight) / (*frame)->uprightHeight());
            const auto even = [scale](int pixels) { // 4:2:0 has pictures of even size
                return std::max(2, static_cast<int>(std::lround(scale * pixels)) & ~1);
            };
            EncoderOptions options = kQuicklySought;
            options.width = even((*frame)->width);
            options.height = even((*frame)->height);
            options.quarterTurns = (*frame)->quarterTurns;
            options.framesPerSecond = decoder->info().framesPerSecond;
            auto made = Encoder::create(preview, options);
            if (!made) return made.error();
            encoder.emplace(std::move(*made));
        }
        const auto added = encoder->add(**frame, (*frame)->time);
        if (!added) return added.error();
        if (progress && !progress(std::min(1.0, (*frame)->time / duration)))
            return Error{Error::Kind::Cancelled, "the preview was not finished", clip, ""};
    }
    if (!encoder) return Error{Error::Kind::BadInput, "the clip has no pictures", clip, "Take another clip."};
    return encoder->finish();
}

} // namespace jl
