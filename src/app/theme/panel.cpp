#include "app/theme/panel.h"
#include <QPainter>

namespace jl
{

QPainterPath drawPanel(QPainter& p, const QRect& rect, const Theme& theme)
{
    p.setRenderHint(QPainter::Antialiasing);
    QPainterPath frame;
    frame.addRoundedRect(QRectF(rect).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    p.fillPath(frame, theme.raised);
    p.setPen(QPen(theme.line, 1));
    p.drawPath(frame);
    return frame;
}

} // namespace jl
