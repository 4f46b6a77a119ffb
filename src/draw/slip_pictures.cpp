#include "draw/slip_pictures.h"
#include "draw/body_shot.h"
#include "draw/rgb_image.h"
#include "media/decoder.h"

namespace jl
{
namespace
{

Result<QImage> stillOf(const std::string& file, Seconds time)
{
    constexpr int sharpEnough = 1920; // pixels across: a crop of a body is rarely wider than a third of it
    const auto still = stillAt(file, time, sharpEnough);
    if (!still) return still.error();
    return imageOf(*still);
}

/// The picture of a shot; null where it shows nobody.
Result<QImage> pictureOf(const BodyShot& shot, const std::string& file, Seconds time, int trackWidth,
                         const Theme& theme)
{
    if (!shot.body.seen) return QImage();
    const QSize size(kSlipPictureWidth, kSlipPictureHeight);
    if (file.empty()) return shotPicture(shot, {}, trackWidth, size, theme);
    const auto still = stillOf(file, time);
    if (!still) return still.error();
    return shotPicture(shot, *still, trackWidth, size, theme);
}

Result<SlipPictures> pairOf(const ReviewScene& scene, const SlipItem& item, const PictureFiles& files,
                            const Theme& theme)
{
    const ShotSubject subject{item.measure, item.lead};
    auto student = pictureOf(studentShot(scene, item.time, subject, theme), files.student, item.time,
                             scene.student.track.width, theme);
    if (!student) return student.error();
    const Seconds there = scene.referenceTimeAt(item.time);
    auto reference = pictureOf(
        referenceShot(scene, there, subject, theme), scene.reference ? files.reference : std::string(), there,
        scene.reference ? scene.reference->track.width : scene.student.track.width, theme);
    if (!reference) return reference.error();
    return SlipPictures{std::move(*student), std::move(*reference)};
}

} // namespace

Result<std::vector<SlipPictures>> slipPictures(const ReviewScene& scene, const Slip& slip,
                                               const PictureFiles& files, const Theme& theme)
{
    std::vector<SlipPictures> pictures;
    for (const SlipItem& item : slip.items) {
        auto pair = pairOf(scene, item, files, theme);
        if (!pair) return pair.error();
        pictures.push_back(std::move(*pair));
    }
    return pictures;
}

} // namespace jl
