#include "draw/body_shot.h"
#include "draw/body_painter.h"
#include "draw/floor_fan.h"
#include <QPainter>

namespace jl
{
namespace
{

/// A body of a clip at a time; unseen where the clip shows none.
BodyShot shotOf(const ClipReading& clip, Seconds time)
{
    BodyShot shot;
    if (clip.track.frames.empty()) return shot;
    const BodyFrame& steady = clip.track.frames[clip.track.nearest(time)];
    if (!steady.seen) return shot;
    shot.body = asFilmed(steady);
    const MomentPrior prior = clip.priorAt(time);
    shot.construction.fan =
        floorFan(clip.measurer->place(steady, prior), clip.camera.camera, steady.cameraShift, prior.heading);
    return shot;
}

void take(BodyShot& shot, const ShotSubject& subject, const QColor& colour)
{
    shot.isAboutMeasure = subject.measure.has_value();
    if (subject.measure) shot.construction.measure = *subject.measure;
    shot.construction.lead = subject.lead;
    shot.construction.colour = colour;
}

} // namespace

BodyShot studentShot(const ReviewScene& scene, Seconds time, const ShotSubject& subject, const Theme& theme)
{
    BodyShot shot = shotOf(scene.student, time);
    take(shot, subject, theme.lantern);
    shot.leadShare = scene.leadShareAt(time);
    return shot;
}

BodyShot referenceShot(const ReviewScene& scene, Seconds time, const ShotSubject& subject, const Theme& theme)
{
    BodyShot shot = scene.reference ? shotOf(*scene.reference, time)
                                    : referenceOverStudent(scene, scene.studentTimeAt(time));
    take(shot, subject, theme.pine);
    shot.leadShare = scene.referenceLeadShareAt(time);
    return shot;
}

BodyShot referenceOverStudent(const ReviewScene& scene, Seconds studentTime)
{
    BodyShot shot;
    const ClipReading& clip = scene.student;
    if (clip.track.frames.empty()) return shot;
    const BodyPoints body = scene.referenceOverAt(studentTime);
    const Eigen::Vector2d shift = clip.track.frames[clip.track.nearest(studentTime)].cameraShift;
    shot.body.seen = true;
    for (std::size_t k = 0; k < kLandmarkCount; ++k) {
        shot.body.point[k] = clip.camera.camera.project(body[k]) + shift;
        shot.body.visibility[k] = 1;
    }
    shot.construction.fan = floorFan(body, clip.camera.camera, shift, clip.priorAt(studentTime).heading);
    return shot;
}

QRectF boxAround(const BodyFrame& body)
{
    constexpr double room = 0.13; // share of the body's height, on each side
    QRectF box(body.at(Landmark::Nose).x(), body.at(Landmark::Nose).y(), 0, 0);
    for (const Eigen::Vector2d& p : body.point)
        box = box.united(QRectF(p.x(), p.y(), 1e-3, 1e-3));
    const double side = room * box.height();
    return box.adjusted(-side, -1.6 * side, side, side);
}

QRectF inShape(const QRectF& box, double widthOverHeight)
{
    const double height = std::max(box.height(), box.width() / widthOverHeight);
    const double width = height * widthOverHeight;
    return {box.center().x() - width / 2, box.center().y() - height / 2, width, height};
}

void drawPictureUnder(QPainter& painter, const QImage& picture, const QTransform& toScreen, int trackWidth)
{
    const double bodyPixel = static_cast<double>(trackWidth) / picture.width();
    QTransform pictureToScreen = toScreen;
    pictureToScreen.scale(bodyPixel, bodyPixel);
    const QRectF wanted = pictureToScreen.inverted().mapRect(QRectF(painter.viewport()));
    const QRectF inside = wanted.intersected(QRectF(picture.rect()));
    painter.drawImage(pictureToScreen.mapRect(inside), picture, inside);
}

QTransform cropTo(const QRectF& crop, const QSizeF& size)
{
    QTransform toScreen;
    toScreen.scale(size.width() / crop.width(), size.height() / crop.height());
    toScreen.translate(-crop.x(), -crop.y());
    return toScreen;
}

QImage shotPicture(const BodyShot& shot, const QImage& seenIn, int trackWidth, const QSize& size,
                   const Theme& theme)
{
    const QRectF crop = inShape(boxAround(shot.body), static_cast<double>(size.width()) / size.height());
    const QTransform toScreen = cropTo(crop, size);
    QImage out(size, QImage::Format_RGB32);
    out.fill(theme.raised);
    QPainter painter(&out);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    if (!seenIn.isNull()) drawPictureUnder(painter, seenIn, toScreen, trackWidth);
    drawShot(painter, shot, toScreen, seenIn.isNull(), theme);
    return out;
}

void drawShot(QPainter& painter, const BodyShot& shot, const QTransform& toScreen, bool onPaper,
              const Theme& theme)
{
    if (!shot.body.seen) return;
    if (onPaper) drawInkBody(painter, shot.body, toScreen, shot.construction.lead, shot.leadShare, theme);
    if (shot.isAboutMeasure) drawConstruction(painter, shot.body, toScreen, shot.construction, theme);
}

} // namespace jl
