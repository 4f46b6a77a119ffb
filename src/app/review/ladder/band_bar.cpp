#include "app/review/ladder/band_bar.h"
#include <QPainter>
#include <algorithm>

namespace jl
{

void drawBandBar(QPainter& p, const QRectF& area, const BandBar& bar, const Theme& theme)
{
    p.setPen(Qt::NoPen);
    QColor track = theme.line;
    track.setAlpha(120);
    p.setBrush(track);
    p.drawRoundedRect(area, 4, 4);
    if (!bar.band) return;
    const Band& band = *bar.band;
    const double room = std::max(0.6 * (band.high - band.low), 2 * band.halfWidth());
    const double low = std::min(band.low - room, bar.value - 2.5 * bar.u),
                 high = std::max(band.high + room, bar.value + 2.5 * bar.u);
    const auto x = [&](double v) {
        return area.left() + area.width() * std::clamp((v - low) / (high - low), 0.0, 1.0);
    };
    p.setBrush(theme.band);
    p.drawRect(QRectF(x(band.low), area.top(), x(band.high) - x(band.low), area.height()));
    if (bar.reference) {
        const double r = x(*bar.reference);
        p.setBrush(theme.indigo);
        p.drawPolygon(QPolygonF{{r - 4.5, area.top() - 6}, {r + 4.5, area.top() - 6}, {r, area.top()}});
    }
    p.setPen(QPen(theme.ink, 2));
    p.drawLine(QPointF(x(bar.value - 2 * bar.u), area.center().y()),
               QPointF(x(bar.value + 2 * bar.u), area.center().y()));
    p.setPen(Qt::NoPen);
    p.setBrush(theme.raised);
    p.drawEllipse(QPointF(x(bar.value), area.center().y()), 8, 8);
    drawMark(p, {x(bar.value), area.center().y()}, 13, bar.mark, theme);
}

} // namespace jl
