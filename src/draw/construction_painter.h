#pragma once
#include "app/theme/theme.h"
#include "body/track.h"
#include "measure/measure_id.h"
#include <QLineF>
#include <QTransform>
#include <vector>

class QPainter;

namespace jl
{

/// What a measure is about, drawn on a body in its picture: the knee's plumb and the toe's gate, foot boxes,
/// trunk shaft and vertical, height scales, level lines, bends. Horizontal and vertical are the picture's.
struct Construction {
    Measure measure = Measure::KneeLeadPastToe;
    Side lead = Side::Right;
    QColor colour; ///< by the status of the value
    /// Eighths of a turn on the floor in the clip's pixels, the posture's direction first; empty where the
    /// camera is not known. Drawn for what is measured against that direction.
    std::vector<QLineF> fan;
};

/// `toScreen` maps picture pixels to the painter's.
void drawConstruction(QPainter& painter, const BodyFrame& body, const QTransform& toScreen,
                      const Construction& construction, const Theme& theme);

/// Where a posture's force goes, in the painter's pixels: a broad arrow from the middle of the body.
void drawForce(QPainter& painter, const QLineF& force, const Theme& theme);

} // namespace jl
