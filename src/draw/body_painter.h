#pragma once
#include "app/theme/theme.h"
#include "body/track.h"
#include <QTransform>

class QPainter;

namespace jl
{

/// Draws a body as seen in its picture: a tapered ink figure whose full leg is solid and whose empty leg is
/// an outline. `toScreen` maps picture pixels to the painter's. leadShare is the front leg's share of the
/// weight, 0 to 1.
void drawBody(QPainter& painter, const BodyFrame& body, const QTransform& toScreen, Side lead,
              double leadShare, const Theme& theme);

/// The same body by itself on paper, without a picture beneath: trunk, arms and head in ink wash too.
void drawInkBody(QPainter& painter, const BodyFrame& body, const QTransform& toScreen, Side lead,
                 double leadShare, const Theme& theme);

/// Only a body's outline in one colour, to be laid over another.
void drawOutline(QPainter& painter, const BodyFrame& body, const QTransform& toScreen, const QColor& colour);

} // namespace jl
