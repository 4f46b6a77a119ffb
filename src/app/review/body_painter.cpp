#include "app/review/body_painter.h"
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace jl
{
namespace
{

/// Body points on the screen, with the body's size as a yardstick for line widths.
struct OnScreen {
    const BodyFrame& body;
    const QTransform& map;
    double size;

    OnScreen(const BodyFrame& b, const QTransform& t) : body(b), map(t), size(0)
    {
        const QPointF hip = 0.5 * (at(Landmark::LeftHip) + at(Landmark::RightHip)),
                      shoulder = 0.5 * (at(Landmark::LeftShoulder) + at(Landmark::RightShoulder));
        size = std::max(20.0, std::hypot(shoulder.x() - hip.x(), shoulder.y() - hip.y()));
    }
    QPointF at(Landmark l) const
    {
        const auto& p = body.at(l);
        return map.map(QPointF(p.x(), p.y()));
    }
    QPointF of(Landmark left, Side s) const { return at(sided(left, s)); }
};

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
    QPainterPath path;
    path.moveTo(a + side * ra);
    path.lineTo(b + side * rb);
    path.lineTo(b - side * rb);
    path.lineTo(a - side * ra);
    path.closeSubpath();
    QPainterPath ends;
    ends.addEllipse(a, ra, ra);
    ends.addEllipse(b, rb, rb);
    return path.united(ends);
}

void line(QPainter& p, const QPointF& a, const QPointF& b, const QColor& colour, double width,
          const Theme& theme, Qt::PenStyle style = Qt::SolidLine)
{
    p.setPen(QPen(theme.halo, width + 2.5, style, Qt::RoundCap));
    p.drawLine(a, b);
    p.setPen(QPen(colour, width, style, Qt::RoundCap));
    p.drawLine(a, b);
}

void joint(QPainter& p, const QPointF& at, const QColor& colour, const Theme& theme)
{
    p.setPen(QPen(colour, 2));
    p.setBrush(theme.raised);
    p.drawEllipse(at, 4, 4);
    p.setBrush(Qt::NoBrush);
}

/// Two bones and the arc of the bend between them.
void bend(QPainter& p, const QPointF& a, const QPointF& b, const QPointF& c, const QColor& colour,
          const Theme& theme)
{
    line(p, a, b, colour, 2, theme);
    line(p, b, c, colour, 2, theme);
    const QPointF beyond = b + (b - a) * (0.6 * length(c - b) / std::max(1e-6, length(b - a)));
    line(p, b, beyond, colour, 1, theme, Qt::DotLine);
    const double from = std::atan2(-(beyond.y() - b.y()), beyond.x() - b.x()) * 180 / M_PI,
                 to = std::atan2(-(c.y() - b.y()), c.x() - b.x()) * 180 / M_PI;
    double sweep = std::remainder(to - from, 360.0);
    const double r = 0.35 * length(c - b);
    p.setPen(QPen(colour, 2));
    p.drawArc(QRectF(b.x() - r, b.y() - r, 2 * r, 2 * r), static_cast<int>(from * 16),
              static_cast<int>(sweep * 16));
    joint(p, b, colour, theme);
}

void gauge(QPainter& p, const QPointF& a, const QPointF& b, const QColor& colour, const Theme& theme)
{
    line(p, a, b, colour, 2, theme);
    for (const QPointF& end : {a, b})
        line(p, end - QPointF(0, 5), end + QPointF(0, 5), colour, 2, theme);
}

/// Trunk, arms and head in one shape.
QPainterPath upperBody(const OnScreen& s)
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

QPainterPath legOf(const OnScreen& s, Side side, double girth)
{
    using enum Landmark;
    const double u = s.size;
    QPainterPath leg = taper(s.of(LeftHip, side), s.of(LeftKnee, side), 0.13 * u * girth, 0.095 * u * girth);
    leg = leg.united(taper(s.of(LeftKnee, side), s.of(LeftAnkle, side), 0.09 * u * girth, 0.055 * u * girth));
    return leg.united(taper(s.of(LeftHeel, side), s.of(LeftToe, side), 0.05 * u, 0.035 * u));
}

/// Both legs, the fuller one on top: the full leg is solid, the empty one an outline.
void drawLegs(QPainter& p, const OnScreen& s, Side lead, double leadShare, const QColor& full,
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
    const OnScreen s(body, toScreen);
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
    const OnScreen s(body, toScreen);
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
    const OnScreen s(body, toScreen);
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

void drawConstruction(QPainter& p, const BodyFrame& body, const QTransform& toScreen, Measure measure,
                      Side lead, const QColor& colour, const Theme& theme)
{
    if (!body.seen) return;
    const OnScreen s(body, toScreen);
    const Side rear = other(lead);
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(Qt::NoBrush);
    using enum Landmark;
    const auto leg = [&](Side side) {
        bend(p, s.of(LeftHip, side), s.of(LeftKnee, side), s.of(LeftAnkle, side), colour, theme);
    };
    const auto fold = [&](Side side) {
        const QPointF shoulder = 0.5 * (s.at(LeftShoulder) + s.at(RightShoulder));
        bend(p, shoulder, s.of(LeftHip, side), s.of(LeftKnee, side), colour, theme);
    };
    const auto arm = [&](Side side) {
        bend(p, s.of(LeftShoulder, side), s.of(LeftElbow, side), s.of(LeftWrist, side), colour, theme);
    };
    const QPointF knee = s.of(LeftKnee, lead), toe = s.of(LeftToe, lead), heel = s.of(LeftHeel, lead),
                  rearHeel = s.of(LeftHeel, rear), rearToe = s.of(LeftToe, rear);
    const double floor = std::max(toe.y(), heel.y()) + 4;
    switch (measure) {
    case Measure::KneeLeadFlexion:
        leg(lead);
        break;
    case Measure::KneeRearFlexion:
        leg(rear);
        break;
    case Measure::HipLeadFlexion:
        fold(lead);
        break;
    case Measure::HipRearFlexion:
        fold(rear);
        break;
    case Measure::ElbowLeadFlexion:
        arm(lead);
        break;
    case Measure::ElbowRearFlexion:
        arm(rear);
        break;
    case Measure::KneeLeadPastToe:
    case Measure::KneeLeadTrack: {
        const QPointF foot(knee.x(), floor);
        line(p, knee, foot, colour, 2, theme);
        line(p, QPointF(toe.x(), floor), QPointF(toe.x(), floor - 0.55 * s.size), theme.empty, 1.5, theme,
             Qt::DashLine);
        gauge(p, QPointF(toe.x(), floor + 8), QPointF(knee.x(), floor + 8), colour, theme);
        joint(p, knee, colour, theme);
        break;
    }
    case Measure::StanceLength:
    case Measure::StanceWidth: {
        line(p, heel, toe, colour, 3, theme);
        line(p, rearHeel, rearToe, colour, 3, theme);
        const double y = std::max(heel.y(), rearHeel.y()) + 12;
        line(p, heel, QPointF(heel.x(), y), colour, 1, theme, Qt::DotLine);
        line(p, rearHeel, QPointF(rearHeel.x(), y), colour, 1, theme, Qt::DotLine);
        gauge(p, QPointF(rearHeel.x(), y), QPointF(heel.x(), y), colour, theme);
        break;
    }
    case Measure::TrunkLeanForward:
    case Measure::TrunkLeanSide: {
        const QPointF hip = 0.5 * (s.at(LeftHip) + s.at(RightHip)),
                      shoulder = 0.5 * (s.at(LeftShoulder) + s.at(RightShoulder));
        line(p, hip, QPointF(hip.x(), shoulder.y() - 0.25 * s.size), theme.empty, 1.5, theme, Qt::DashLine);
        line(p, hip, shoulder, colour, 3, theme);
        joint(p, hip, colour, theme);
        joint(p, shoulder, colour, theme);
        break;
    }
    case Measure::WeightLead: {
        line(p, heel, toe, colour, 4, theme);
        line(p, rearHeel, rearToe, theme.empty, 4, theme);
        const QPointF hip = 0.5 * (s.at(LeftHip) + s.at(RightHip));
        line(p, hip, QPointF(hip.x(), floor), colour, 2, theme, Qt::DashLine);
        joint(p, hip, colour, theme);
        break;
    }
    default: // not read from clips, so never chosen
        break;
    }
    p.restore();
}

} // namespace jl
