#include "draw/body_painter.h"
#include "draw/body_on_screen.h"
#include "draw/ink_shape.h"
#include <QPainter>

namespace jl
{
namespace
{

/// Trunk, arms and head in one shape.
InkShape upperBody(const BodyOnScreen& s)
{
    using enum Landmark;
    const double u = s.size;
    const QPolygonF trunk{s.at(LeftShoulder), s.at(RightShoulder), s.at(RightHip), s.at(LeftHip)};
    InkShape shape;
    shape.addFlat(trunk);
    for (qsizetype i = 0; i < trunk.size(); ++i) // rounds it off
        shape.addLimb(trunk[i], trunk[(i + 1) % trunk.size()], 0.08 * u, 0.08 * u);
    for (Side side : {Side::Left, Side::Right}) {
        shape.addLimb(s.of(LeftShoulder, side), s.of(LeftElbow, side), 0.085 * u, 0.06 * u);
        shape.addLimb(s.of(LeftElbow, side), s.of(LeftWrist, side), 0.06 * u, 0.045 * u);
    }
    shape.addRound(0.5 * (s.at(LeftEar) + s.at(RightEar)), 0.19 * u, 0.23 * u);
    return shape;
}

InkShape legOf(const BodyOnScreen& s, Side side, double girth)
{
    using enum Landmark;
    const double u = s.size;
    InkShape leg;
    leg.addLimb(s.of(LeftHip, side), s.of(LeftKnee, side), 0.13 * u * girth, 0.095 * u * girth);
    leg.addLimb(s.of(LeftKnee, side), s.of(LeftAnkle, side), 0.09 * u * girth, 0.055 * u * girth);
    leg.addLimb(s.of(LeftHeel, side), s.of(LeftToe, side), 0.05 * u, 0.035 * u);
    return leg;
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
        legOf(s, side, 0.8 + 0.5 * share).draw(p, QPen(rim, 2), fill);
    }
}

} // namespace

void drawBody(QPainter& p, const BodyFrame& body, const QTransform& toScreen, Side lead, double leadShare,
              const Theme& theme)
{
    if (!body.seen) return;
    const BodyOnScreen s(body, toScreen);
    // Trunk, arms and head stay a quiet outline; the legs carry the message.
    QColor veil = theme.empty;
    veil.setAlpha(38);
    const QColor rim(theme.empty.red(), theme.empty.green(), theme.empty.blue(), 150);
    upperBody(s).draw(p, QPen(rim, 1.5), veil);
    drawLegs(p, s, lead, leadShare, theme.full, theme.empty);
}

void drawInkBody(QPainter& p, const BodyFrame& body, const QTransform& toScreen, Side lead, double leadShare,
                 const Theme& theme)
{
    const BodyOnScreen s(body, toScreen);
    drawLegs(p, s, lead, leadShare, theme.ink, theme.ink);
    QColor wash = theme.ink;
    wash.setAlpha(70);
    upperBody(s).draw(p, QPen(theme.ink, 1.5), wash);
}

void drawOutline(QPainter& p, const BodyFrame& body, const QTransform& toScreen, const QColor& colour)
{
    const BodyOnScreen s(body, toScreen);
    InkShape whole = upperBody(s);
    for (Side side : {Side::Left, Side::Right})
        whole.add(legOf(s, side, 1));
    QColor veil = colour;
    veil.setAlpha(28);
    whole.draw(p, QPen(colour, 2.2, Qt::DashLine, Qt::RoundCap, Qt::RoundJoin), veil);
}

} // namespace jl
