#include "draw/ink_shape.h"
#include <QImage>
#include <QPaintDevice>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace jl
{

void InkShape::addLimb(const QPointF& a, const QPointF& b, double ra, double rb)
{
    m_limbs.push_back({a, b, ra, rb});
}

void InkShape::addRound(const QPointF& centre, double rx, double ry)
{
    m_rounds.push_back({centre, rx, ry});
}

void InkShape::addFlat(const QPolygonF& polygon)
{
    m_flats.push_back(polygon);
}

void InkShape::add(const InkShape& other)
{
    m_limbs.insert(m_limbs.end(), other.m_limbs.begin(), other.m_limbs.end());
    m_rounds.insert(m_rounds.end(), other.m_rounds.begin(), other.m_rounds.end());
    m_flats.insert(m_flats.end(), other.m_flats.begin(), other.m_flats.end());
}

QPolygonF InkShape::outline(const Limb& limb)
{
    const auto& [a, b, ra, rb] = limb;
    const double along = std::atan2(b.y() - a.y(), b.x() - a.x());
    QPolygonF polygon;
    const auto halfRound = [&polygon](const QPointF& centre, double r, double from) {
        const int steps = std::clamp(static_cast<int>(2 * std::sqrt(r)), 6, 24); // within a third of a pixel
        for (int i = 0; i <= steps; ++i) {
            const double turn = from + M_PI * i / steps;
            polygon << centre + r * QPointF(std::cos(turn), std::sin(turn));
        }
    };
    halfRound(a, ra, along + M_PI / 2);
    halfRound(b, rb, along - M_PI / 2);
    return polygon;
}

QRectF InkShape::box() const
{
    QRectF box;
    const auto around = [&box](const QPointF& p, double rx, double ry) {
        box |= QRectF(p.x() - rx, p.y() - ry, 2 * rx, 2 * ry);
    };
    for (const Limb& l : m_limbs) {
        around(l.a, l.ra, l.ra);
        around(l.b, l.rb, l.rb);
    }
    for (const Round& r : m_rounds)
        around(r.centre, r.rx, r.ry);
    for (const QPolygonF& f : m_flats)
        box |= f.boundingRect();
    return box;
}

void InkShape::drawParts(QPainter& p, double wider) const
{
    for (const QPolygonF& f : m_flats)
        p.drawPolygon(f);
    for (const Limb& l : m_limbs)
        p.drawPolygon(outline({l.a, l.b, l.ra + wider, l.rb + wider}));
    for (const Round& r : m_rounds)
        p.drawEllipse(r.centre, r.rx + wider, r.ry + wider);
}

void InkShape::draw(QPainter& painter, const QPen& rim, const QColor& fill) const
{
    const double margin = rim.widthF() + 1;
    const QRectF seen = painter.transform().inverted().mapRect(QRectF(painter.viewport()));
    const QRect place = (box().adjusted(-margin, -margin, margin, margin) & seen).toAlignedRect();
    if (place.isEmpty()) return;
    const double ratio = painter.device()->devicePixelRatioF();
    QImage layer((QSizeF(place.size()) * ratio).toSize(), QImage::Format_ARGB32_Premultiplied);
    layer.setDevicePixelRatio(ratio);
    layer.fill(Qt::transparent);
    QPainter p(&layer);
    p.setRenderHint(QPainter::Antialiasing);
    p.setCompositionMode(QPainter::CompositionMode_Source);
    p.translate(-place.topLeft());
    if (rim.style() == Qt::SolidLine) {
        p.setPen(Qt::NoPen);
        p.setBrush(rim.color());
        drawParts(p, rim.widthF());
    } else {
        QPen around = rim;
        around.setWidthF(2 * rim.widthF()); // the inner half is painted over
        p.setPen(around);
        p.setBrush(Qt::NoBrush);
        drawParts(p, 0);
    }
    p.setPen(Qt::NoPen);
    p.setBrush(fill);
    drawParts(p, 0);
    p.end();
    painter.drawImage(place.topLeft(), layer);
}

} // namespace jl
