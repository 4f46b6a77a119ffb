#include "app/review/body_painter.h"
#include "app/review/body_on_screen.h"
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace jl
{
namespace
{

double length(const QPointF& v)
{
    return std::hypot(v.x(), v.y());
}

/// A limb that narrows from a to b, with round ends.
QPainterPath taper(const QPointF& a, const QPointF& b, double ra, double rb)
{
    const QPointF d = b - a;
    const double n = std::max(1e-6, length(d));
    const QPointF side(-d.y() / n, d.x() / n);
    const double turn = std::atan2(-side.y(), side.x()) * 180 / M_PI; // of the first edge, as arcs count
    QPainterPath path(a + side * ra);
    path.arcTo(QRectF(a.x() - ra, a.y() - ra, 2 * ra, 2 * ra), turn, -180);
    path.lineTo(b - side * rb);
    path.arcTo(QRectF(b.x() - rb, b.y() - rb, 2 * rb, 2 * rb), turn + 180, -180);
    path.closeSubpath();
    return path;
}

/// Trunk, arms and head in one shape.
QPainterPath upperBody(const BodyOnScreen& s)
{
    using enum Landmark;
    const double u = s.size;
    QPainterPath trunk;
    trunk.addPolygon(QPolygonF{s.at(LeftShoulder), s.at(RightShoulder), s.at(RightHip), s.at(LeftHip)});
    trunk.closeSubpath();
    QPainterPathStroker round;
    round.setWidth(0.16 * u);
    round.setJoinStyle(Qt::RoundJoin);
    QPainterPath path = trunk.united(round.createStroke(trunk));
    for (Side side : {Side::Left, Side::Right}) {
        path = path.united(taper(s.of(LeftShoulder, side), s.of(LeftElbow, side), 0.085 * u, 0.06 * u));
        path = path.united(taper(s.of(LeftElbow, side), s.of(LeftWrist, side), 0.06 * u, 0.045 * u));
    }
    const QPointF ear = 0.5 * (s.at(LeftEar) + s.at(RightEar));
    path.addEllipse(ear, 0.19 * u, 0.23 * u);
    return path;
}

QPainterPath legOf(const BodyOnScreen& s, Side side, double girth)
{
    using enum Landmark;
    const double u = s.size;
    QPainterPath leg = taper(s.of(LeftHip, side), s.of(LeftKnee, side), 0.13 * u * girth, 0.095 * u * girth);
    leg = leg.united(taper(s.of(LeftKnee, side), s.of(LeftAnkle, side), 0.09 * u * girth, 0.055 * u * girth));
    return leg.united(taper(s.of(LeftHeel, side), s.of(LeftToe, side), 0.05 * u, 0.035 * u));
}

/// Both legs, the fuller one on top: the full leg is solid, the empty one an outline.
void drawLegs(QPainter& p, const BodyOnScreen& s, Side lead, double leadShare, const QColor& full,
              const QColor& empty)
{
    const Side order[] = {leadShare >= 0.5 ? other(lead) : lead, leadShare >= 0.5 ? lead : other(lead)};
    for (Side side : order) {
        const double share = side == lead ? leadShare : 1 - leadShare;
        QColor fill = full;
        fill.setAlphaF(static_cast<float>(0.10 + 0.75 * share * share));
        QColor rim = share >= 0.5 ? full : empty;
        rim.setAlpha(220);
        p.setPen(QPen(rim, 2));
        p.setBrush(fill);
        p.drawPath(legOf(s, side, 0.8 + 0.5 * share));
    }
}

} // namespace

void drawBody(QPainter& p, const BodyFrame& body, const QTransform& toScreen, Side lead, double leadShare,
              const Theme& theme)
{
    if (!body.seen) return;
    const BodyOnScreen s(body, toScreen);
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    // Trunk, arms and head stay a quiet outline; the legs carry the message.
    QColor veil = theme.empty;
    veil.setAlpha(38);
    p.setPen(QPen(QColor(theme.empty.red(), theme.empty.green(), theme.empty.blue(), 150), 1.5));
    p.setBrush(veil);
    p.drawPath(upperBody(s));
    drawLegs(p, s, lead, leadShare, theme.full, theme.empty);
    p.restore();
}

void drawInkBody(QPainter& p, const BodyFrame& body, const QTransform& toScreen, Side lead, double leadShare,
                 const Theme& theme)
{
    const BodyOnScreen s(body, toScreen);
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    drawLegs(p, s, lead, leadShare, theme.ink, theme.ink);
    QColor wash = theme.ink;
    wash.setAlpha(70);
    p.setPen(QPen(theme.ink, 1.5));
    p.setBrush(wash);
    p.drawPath(upperBody(s));
    p.restore();
}

void drawOutline(QPainter& p, const BodyFrame& body, const QTransform& toScreen, const QColor& colour)
{
    const BodyOnScreen s(body, toScreen);
    QPainterPath whole = upperBody(s);
    for (Side side : {Side::Left, Side::Right})
        whole = whole.united(legOf(s, side, 1));
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    QColor veil = colour;
    veil.setAlpha(28);
    p.setBrush(veil);
    p.setPen(QPen(colour, 2.2, Qt::DashLine, Qt::RoundCap, Qt::RoundJoin));
    p.drawPath(whole);
    p.restore();
}

} // namespace jl
