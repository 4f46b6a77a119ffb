#include "draw/track_film.h"
#include "draw/body_painter.h"
#include "draw/rgb_image.h"
#include "media/encoder.h"
#include "media/preview.h"
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace jl
{

Result<Done> writeTrackFilm(const Track& track, const Theme& theme, const std::string& file,
                            const Progress& progress)
{
    if (track.frames.empty() || track.width < 2 || track.height < 2)
        return Error{Error::Kind::NothingFound, "there is no body to draw", file, "Take another track."};
    const double scale = std::min(1.0, static_cast<double>(kPreviewHeight) / track.height);
    const auto even = [scale](int pixels) {
        return std::max(2, static_cast<int>(std::lround(scale * pixels)) & ~1);
    };
    EncoderOptions options = kQuicklySought;
    options.width = even(track.width);
    options.height = even(track.height);
    options.framesPerSecond = std::max(1.0, track.framesPerSecond);
    auto encoder = Encoder::create(file, options);
    if (!encoder) return encoder.error();
    QImage picture(options.width, options.height, QImage::Format_RGB32);
    for (const BodyFrame& frame : track.frames) {
        picture.fill(theme.raised);
        if (frame.seen) {
            QPainter painter(&picture);
            painter.setRenderHint(QPainter::Antialiasing);
            constexpr double bothLegs = 0.5;
            drawInkBody(painter, frame, QTransform::fromScale(scale, scale), Side::Right, bothLegs, theme);
        }
        const auto added = encoder->add(rgbOf(picture), frame.time);
        if (!added) return added.error();
        const double share = frame.time / std::max(1e-3, track.duration());
        if (progress && !progress(share))
            return Error{Error::Kind::Cancelled, "the film was not finished", file, ""};
    }
    return encoder->finish();
}

} // namespace jl
