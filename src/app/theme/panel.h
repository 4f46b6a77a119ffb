#pragma once
#include "app/theme/theme.h"
#include <QPainterPath>

class QPainter;
class QRect;

namespace jl
{

/// Draws the raised sheet with round corners on which a view draws, and gives its outline to clip to.
QPainterPath drawPanel(QPainter& painter, const QRect& rect, const Theme& theme);

} // namespace jl
