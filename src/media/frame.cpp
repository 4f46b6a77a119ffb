#include "media/frame.h"
#include "media/ffmpeg_handles.h"
#include <algorithm>
#include <cmath>
#include <cstring>

namespace jl
{
namespace
{

RgbImage turned(const RgbImage& in, int quarterTurns)
{
    if (quarterTurns == 0) return in;
    const bool swap = quarterTurns % 2;
    RgbImage out(swap ? in.height : in.width, swap ? in.width : in.height);
    for (int y = 0; y < out.height; ++y) {
        for (int x = 0; x < out.width; ++x) {
            int sx = 0, sy = 0;
            if (quarterTurns == 1) {
                sx = y;
                sy = in.height - 1 - x;
            } else if (quarterTurns == 2) {
                sx = in.width - 1 - x;
                sy = in.height - 1 - y;
            } else {
                sx = in.width - 1 - y;
                sy = x;
            }
            std::memcpy(out.row(y) + 3 * x, in.row(sy) + 3 * sx, 3);
        }
    }
    return out;
}

} // namespace

RgbImage toRgb(const Frame& frame, int maxWidth)
{
    double scale = 1;
    if (maxWidth > 0 && frame.uprightWidth() > maxWidth)
        scale = static_cast<double>(maxWidth) / frame.uprightWidth();
    RgbImage out(std::max(1, static_cast<int>(std::lround(frame.width * scale))),
                 std::max(1, static_cast<int>(std::lround(frame.height * scale))));
    thread_local ff::Handle<SwsContext> scaler; // frames of one clip are of one size; making it takes a while
    scaler.reset(sws_getCachedContext(scaler.release(), frame.width, frame.height, AV_PIX_FMT_YUV420P,
                                      out.width, out.height, AV_PIX_FMT_RGB24,
                                      scale < 1 ? SWS_AREA : SWS_BILINEAR, nullptr, nullptr, nullptr));
    const int* matrix = sws_getCoefficients(frame.bt709 ? SWS_CS_ITU709 : SWS_CS_ITU601);
    sws_setColorspaceDetails(scaler.get(), matrix, frame.fullRange, matrix, 1, 0, 1 << 16, 1 << 16);
    std::uint8_t* target[1] = {out.data.data()};
    const int stride[1] = {3 * out.width};
    sws_scale(scaler.get(), frame.plane, frame.stride, 0, frame.height, target, stride);
    return turned(out, frame.quarterTurns);
}

} // namespace jl
