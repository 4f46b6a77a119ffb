#include "draw/rgb_image.h"
#include <cstring>

namespace jl
{

RgbImage rgbOf(const QImage& picture)
{
    const QImage rgb = picture.convertToFormat(QImage::Format_RGB888);
    RgbImage out(rgb.width(), rgb.height());
    for (int y = 0; y < rgb.height(); ++y) // rows of a QImage are padded
        std::memcpy(out.row(y), rgb.constScanLine(y), static_cast<std::size_t>(3) * rgb.width());
    return out;
}

QImage imageOf(const RgbImage& picture)
{
    return QImage(picture.data.data(), picture.width, picture.height, 3 * picture.width,
                  QImage::Format_RGB888)
        .convertToFormat(QImage::Format_RGB32);
}

} // namespace jl
