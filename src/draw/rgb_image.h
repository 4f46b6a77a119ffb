#pragma once
#include "base/image.h"
#include <QImage>

namespace jl
{

/// A drawn picture as the encoder takes it, and a decoded one as it is drawn: with four bytes a pixel, so that
/// a painter does not convert it at each draw.
RgbImage rgbOf(const QImage& picture);
QImage imageOf(const RgbImage& picture);

} // namespace jl
