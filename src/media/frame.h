#pragma once
#include "base/image.h"
#include <cstdint>
#include <memory>

namespace jl
{

/// One decoded picture as it lies in the file: planar YUV 4:2:0, 8 bit. The picture is meant to be seen after
/// `quarterTurns` clockwise turns of 90 degrees; everything outside this room speaks of that upright picture.
struct Frame {
    double time = 0; ///< presentation time from the start of the clip, s
    int width = 0;   ///< as stored
    int height = 0;
    int quarterTurns = 0;
    bool fullRange = false; ///< 0-255 instead of 16-235
    bool bt709 = true;      ///< colour matrix, otherwise BT.601
    const std::uint8_t* plane[3] = {};
    int stride[3] = {};
    std::shared_ptr<const void> owner; ///< keeps the planes alive

    int uprightWidth() const { return quarterTurns % 2 ? height : width; }
    int uprightHeight() const { return quarterTurns % 2 ? width : height; }
};

/// The upright picture in RGB. With a maxWidth it is scaled down to at most that width.
RgbImage toRgb(const Frame& frame, int maxWidth = 0);

} // namespace jl
