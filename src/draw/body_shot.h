#pragma once
#include "draw/construction_painter.h"
#include "pipeline/review_scene.h"
#include <QImage>

namespace jl
{

/// One body of a review in one picture, with what is drawn on it.
struct BodyShot {
    BodyFrame body; ///< pixels of the picture as filmed; unseen where nobody is
    Construction construction;
    bool isAboutMeasure = false; ///< otherwise no construction is drawn
    double leadShare = 0.5;      ///< weight on the front leg, 0 to 1
};

/// What a picture of a review is about; without a measure no construction is drawn.
struct ShotSubject {
    std::optional<Measure> measure;
    Side lead = Side::Right;
};

/// The student at a time of its clip, s.
BodyShot studentShot(const ReviewScene& scene, Seconds time, const ShotSubject& subject, const Theme& theme);

/// The reference at its own time, s; the built-in performer in the student's size and place, as the student's
/// camera would see it.
BodyShot referenceShot(const ReviewScene& scene, Seconds time, const ShotSubject& subject,
                       const Theme& theme);

/// The reference in the student's size and place at a time of the student, as the student's camera sees it.
BodyShot referenceOverStudent(const ReviewScene& scene, Seconds studentTime);

/// A body's box with room on all sides, pixels of its picture. The crown is higher than any point.
QRectF boxAround(const BodyFrame& body);

/// The box widened or heightened to a shape, width over height.
QRectF inShape(const QRectF& box, double widthOverHeight);

/// Draws the picture that a body was seen in, of any resolution, where `toScreen` has its pixels;
/// `trackWidth` is the picture's width in the body's pixels.
void drawPictureUnder(QPainter& painter, const QImage& picture, const QTransform& toScreen, int trackWidth);

/// From the pixels of a crop to those of a picture of this size.
QTransform cropTo(const QRectF& crop, const QSizeF& size);

/// The body of a shot, cropped to it, in a picture of a size: with the picture that it was seen in, or, where
/// that is null, on paper.
QImage shotPicture(const BodyShot& shot, const QImage& seenIn, int trackWidth, const QSize& size,
                   const Theme& theme);

/// Draws a body's construction, and the body in ink where there is no picture beneath.
void drawShot(QPainter& painter, const BodyShot& shot, const QTransform& toScreen, bool onPaper,
              const Theme& theme);

} // namespace jl
