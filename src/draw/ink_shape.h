#pragma once
#include "base/units.h"
#include <QColor>
#include <QPen>
#include <QPolygonF>
#include <vector>

class QPainter;

namespace jl
{

/// Round-ended limbs, rounds and flat parts that are drawn as one shape: filled evenly, with a rim around the
/// whole only. The parts are filled over each other beside the picture, first as wide as the rim, and laid
/// onto it once: uniting and stroking paths would take most of the time of painting a body.
class InkShape
{
public:
    /// Narrows from radius ra at a to rb at b.
    void addLimb(const QPointF& a, const QPointF& b, double ra, double rb);
    void addRound(const QPointF& centre, double rx, double ry);
    /// A part whose edge others cover; it has no rim of its own.
    void addFlat(const QPolygonF& polygon);
    void add(const InkShape& other);

    /// The rim lies outside of the parts. One that is not drawn out (dashed) is stroked.
    void draw(QPainter& painter, const QPen& rim, const QColor& fill) const;

private:
    struct Limb {
        QPointF a, b;
        Pixels ra, rb;
    };
    struct Round {
        QPointF centre;
        Pixels rx, ry;
    };
    static QPolygonF outline(const Limb& limb);
    QRectF box() const;
    void drawParts(QPainter& painter, double wider) const;

    std::vector<Limb> m_limbs;
    std::vector<Round> m_rounds;
    std::vector<QPolygonF> m_flats;
};

} // namespace jl
