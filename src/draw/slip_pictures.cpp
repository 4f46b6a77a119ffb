#include "draw/slip_pictures.h"
#include "draw/body_painter.h"
#include "draw/construction_painter.h"
#include "draw/floor_fan.h"
#include "media/decoder.h"
#include <QPainter>

namespace jl
{
namespace
{

/// One body in one picture.
struct Shot {
    BodyFrame body; ///< pixels of the picture as filmed
    Construction construction;
    bool isAboutMeasure = false; ///< otherwise no construction is drawn
    double leadShare = 0.5;
    QImage picture;   ///< null: the body is drawn on paper
    double scale = 1; ///< of the picture's pixels against the body's
};

/// What is cut out around a body: its box with room on all sides, in the shape of a slip's picture.
QRectF cropAround(const BodyFrame& body)
{
    constexpr double room = 0.13; // share of the body's height, on each side
    QRectF box(body.at(Landmark::Nose).x(), body.at(Landmark::Nose).y(), 0, 0);
    for (const Eigen::Vector2d& p : body.point)
        box = box.united(QRectF(p.x(), p.y(), 1e-3, 1e-3));
    const double above = 0.5 * room * box.height(); // the crown is higher than any point
    box.adjust(0, -above, 0, 0);
    const double height = std::max(box.height() * (1 + 2 * room), (box.width() + 2 * room * box.height()) *
                                                                      kSlipPictureHeight / kSlipPictureWidth);
    const double width = height * kSlipPictureWidth / kSlipPictureHeight;
    return {box.center().x() - width / 2, box.center().y() - height / 2, width, height};
}

QImage drawn(const Shot& shot, const Theme& theme)
{
    const QRectF crop = cropAround(shot.body);
    QImage out(kSlipPictureWidth, kSlipPictureHeight, QImage::Format_RGB32);
    out.fill(theme.raised);
    QPainter painter(&out);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    QTransform toScreen;
    toScreen.scale(out.width() / crop.width(), out.height() / crop.height());
    toScreen.translate(-crop.x(), -crop.y());
    if (shot.picture.isNull()) {
        drawInkBody(painter, shot.body, toScreen, shot.construction.lead, shot.leadShare, theme);
    } else {
        const QRectF from(crop.x() * shot.scale, crop.y() * shot.scale, crop.width() * shot.scale,
                          crop.height() * shot.scale);
        const QRectF whole(shot.picture.rect()), inside = from.intersected(whole);
        QTransform pictureToScreen = toScreen;
        pictureToScreen.scale(1 / shot.scale, 1 / shot.scale);
        painter.drawImage(pictureToScreen.mapRect(inside), shot.picture, inside);
    }
    if (shot.isAboutMeasure) drawConstruction(painter, shot.body, toScreen, shot.construction, theme);
    return out;
}

Result<QImage> stillOf(const std::string& file, Seconds time)
{
    constexpr int sharpEnough = 1920; // pixels across: a crop of a body is rarely wider than a third of it
    const auto still = stillAt(file, time, sharpEnough);
    if (!still) return still.error();
    return QImage(still->data.data(), still->width, still->height, 3 * still->width, QImage::Format_RGB888)
        .copy();
}

/// A body of a clip at a time; unseen where the clip shows none.
Shot shotOf(const ClipReading& clip, Seconds time)
{
    Shot shot;
    if (clip.track.frames.empty()) return shot;
    const BodyFrame& steady = clip.track.frames[clip.track.nearest(time)];
    if (!steady.seen) return shot;
    shot.body = asFilmed(steady);
    const MomentPrior prior = clip.priorAt(time);
    shot.construction.fan =
        floorFan(clip.measurer->place(steady, prior), clip.camera.camera, steady.cameraShift, prior.heading);
    return shot;
}

/// The built-in performer in the student's size and place, as the student's camera would see it.
Shot performerShot(const ReviewScene& scene, Seconds time)
{
    Shot shot;
    const ClipReading& clip = scene.student;
    const BodyPoints body = scene.referenceOverAt(time);
    shot.body.seen = true;
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        shot.body.point[k] = clip.camera.camera.project(body[k]);
        shot.body.visibility[k] = 1;
    }
    shot.construction.fan =
        floorFan(body, clip.camera.camera, Eigen::Vector2d::Zero(), clip.priorAt(time).heading);
    return shot;
}

/// Finishes a shot: construction, weight, picture.
Result<QImage> finished(Shot shot, const SlipItem& item, const std::string& file, Seconds time,
                        int trackWidth, const Theme& theme)
{
    if (!shot.body.seen) return QImage();
    shot.isAboutMeasure = item.measure.has_value();
    if (item.measure) shot.construction.measure = *item.measure;
    shot.construction.lead = item.lead;
    if (!file.empty()) {
        auto still = stillOf(file, time);
        if (!still) return still.error();
        shot.picture = std::move(*still);
        shot.scale = static_cast<double>(shot.picture.width()) / trackWidth;
    }
    return drawn(shot, theme);
}

Result<SlipPictures> pairOf(const ReviewScene& scene, const SlipItem& item, const PictureFiles& files,
                            const Theme& theme)
{
    Shot student = shotOf(scene.student, item.time);
    student.construction.colour = theme.lantern;
    student.leadShare = scene.leadShareAt(item.time);
    auto first =
        finished(std::move(student), item, files.student, item.time, scene.student.track.width, theme);
    if (!first) return first.error();

    const Seconds there = scene.referenceTimeAt(item.time);
    Shot reference = scene.reference ? shotOf(*scene.reference, there) : performerShot(scene, item.time);
    reference.construction.colour = theme.pine;
    reference.leadShare = scene.referenceLeadShareAt(there);
    auto second = finished(std::move(reference), item, scene.reference ? files.reference : std::string(),
                           there, scene.reference ? scene.reference->track.width : 1, theme);
    if (!second) return second.error();
    return SlipPictures{std::move(*first), std::move(*second)};
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
