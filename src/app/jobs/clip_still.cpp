#include "app/jobs/clip_still.h"
#include "draw/rgb_image.h"
#include "media/decoder.h"
#include <QtConcurrentRun>

namespace jl
{

QFuture<QImage> clipStill(const QString& file, int width)
{
    return QtConcurrent::run([path = file.toStdString(), width] {
        constexpr double place = 0.4; // of the clip: the opening stance looks the same in all
        const auto info = probe(path);
        const auto still = stillAt(path, info ? place * info->duration : 0, width);
        if (!still) return QImage();
        return imageOf(*still);
    });
}

} // namespace jl
