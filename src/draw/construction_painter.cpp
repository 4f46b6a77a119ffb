#include "draw/construction_painter.h"
#include "draw/body_on_screen.h"
#include <QPainter>

namespace jl
{
namespace
{

using enum Landmark;

double length(const QPointF& v)
{
    return std::hypot(v.x(), v.y());
}

/// Draws the parts of which constructions are made.
class Drawing
{
public:
    Drawing(QPainter& painter, const BodyOnScreen& body, const Construction& c, const Theme& theme)
        : m_painter(painter), m_body(body), m_construction(c), m_theme(theme)
    {
    }

    void draw();

private:
    void line(const QPointF& a, const QPointF& b, double width = 2, Qt::PenStyle style = Qt::SolidLine) const
    {
        stroke(a, b, m_construction.colour, width, style);
    }
    /// What the body is held against: verticals, levels, gates.
    void guide(const QPointF& a, const QPointF& b) const { stroke(a, b, m_theme.empty, 1.5, Qt::DashLine); }
    void stroke(const QPointF& a, const QPointF& b, const QColor& colour, double width,
                Qt::PenStyle style) const
    {
        m_painter.setPen(QPen(m_theme.halo, width + 2.5, style, Qt::RoundCap));
        m_painter.drawLine(a, b);
        m_painter.setPen(QPen(colour, width, style, Qt::RoundCap));
        m_painter.drawLine(a, b);
    }
    void joint(const QPointF& at) const
    {
        m_painter.setPen(QPen(m_construction.colour, 2));
        m_painter.setBrush(m_theme.raised);
        m_painter.drawEllipse(at, 4, 4);
        m_painter.setBrush(Qt::NoBrush);
    }
    void bend(const QPointF& a, const QPointF& b, const QPointF& c) const;
    void gauge(const QPointF& a, const QPointF& b) const;
    void level(const QPointF& a, const QPointF& b) const;
    void shaft(const QPointF& foot, const QPointF& top) const;
    void gate(Side side) const;
    void feet() const;
    void footBoxes() const;
    void heightScale(Side side) const;
    void lift(const QPointF& raised, const QPointF& flat) const;
    void fan() const;
    void polygon() const;

    QPointF of(Landmark left, Side s) const { return m_body.of(left, s); }
    QPointF mid(Landmark left) const { return m_body.mid(left); }
    /// A little below the lower foot.
    double floor() const
    {
        double y = 0;
        for (Landmark l : {LeftHeel, RightHeel, LeftToe, RightToe})
            y = std::max(y, m_body.at(l).y());
        return y + 4;
    }
    void drawFeetAndWeight(Side lead, Side rear) const;
    void drawTrunk() const;
    void drawArm(Side side) const;
    void drawHead() const;

    QPainter& m_painter;
    const BodyOnScreen& m_body;
    const Construction& m_construction;
    const Theme& m_theme;
};

/// Two bones and the arc of the bend between them.
void Drawing::bend(const QPointF& a, const QPointF& b, const QPointF& c) const
{
    line(a, b);
    line(b, c);
    const QPointF beyond = b + (b - a) * (0.6 * length(c - b) / std::max(1e-6, length(b - a)));
    line(b, beyond, 1, Qt::DotLine);
    const double from = std::atan2(-(beyond.y() - b.y()), beyond.x() - b.x()) * 180 / M_PI,
                 to = std::atan2(-(c.y() - b.y()), c.x() - b.x()) * 180 / M_PI;
    const double sweep = std::remainder(to - from, 360.0), r = 0.35 * length(c - b);
    m_painter.setPen(QPen(m_construction.colour, 2));
    m_painter.drawArc(QRectF(b.x() - r, b.y() - r, 2 * r, 2 * r), static_cast<int>(from * 16),
                      static_cast<int>(sweep * 16));
    joint(b);
}

void Drawing::gauge(const QPointF& a, const QPointF& b) const
{
    line(a, b);
    const QPointF along = b - a;
    const QPointF tick = QPointF(-along.y(), along.x()) * (5 / std::max(1e-6, length(along)));
    for (const QPointF& end : {a, b})
        line(end - tick, end + tick);
}

/// A line that should lie level, against the horizontal through its middle.
void Drawing::level(const QPointF& a, const QPointF& b) const
{
    const QPointF middle = 0.5 * (a + b), half(0.75 * std::max(length(b - a), 0.5 * m_body.size), 0);
    guide(middle - half, middle + half);
    line(a, b, 3);
    joint(a);
    joint(b);
}

/// A line that should stand, against the vertical through its foot.
void Drawing::shaft(const QPointF& foot, const QPointF& top) const
{
    guide(foot, QPointF(foot.x(), top.y() - 0.25 * m_body.size));
    line(foot, top, 3);
    joint(foot);
    joint(top);
}

/// The knee's plumb and the toe's gate.
void Drawing::gate(Side side) const
{
    const QPointF knee = of(LeftKnee, side), toe = of(LeftToe, side);
    const double ground = std::max(toe.y(), of(LeftHeel, side).y()) + 4;
    line(knee, QPointF(knee.x(), ground));
    guide(QPointF(toe.x(), ground), QPointF(toe.x(), ground - 0.55 * m_body.size));
    gauge(QPointF(toe.x(), ground + 8), QPointF(knee.x(), ground + 8));
    joint(knee);
}

void Drawing::feet() const
{
    for (Side s : {Side::Left, Side::Right})
        line(of(LeftHeel, s), of(LeftToe, s), 3);
}

void Drawing::footBoxes() const
{
    feet();
    const QPointF front = of(LeftHeel, m_construction.lead), rear = of(LeftHeel, other(m_construction.lead));
    const double y = std::max(front.y(), rear.y()) + 12;
    line(front, QPointF(front.x(), y), 1, Qt::DotLine);
    line(rear, QPointF(rear.x(), y), 1, Qt::DotLine);
    gauge(QPointF(rear.x(), y), QPointF(front.x(), y));
}

/// From the hips (0) to the shoulders (100 %), with the hand's height on it.
void Drawing::heightScale(Side side) const
{
    const QPointF wrist = of(LeftWrist, side), low = mid(LeftHip), high = mid(LeftShoulder);
    gauge(low, high);
    const QPointF along = high - low;
    const double share =
        QPointF::dotProduct(wrist - low, along) / std::max(1e-6, QPointF::dotProduct(along, along));
    guide(low + share * along, wrist);
    joint(wrist);
}

/// How far one end of a foot is above the other.
void Drawing::lift(const QPointF& raised, const QPointF& flat) const
{
    line(flat, raised, 3);
    gauge(QPointF(raised.x(), std::max(floor(), raised.y() + 1)), raised);
}

/// Directions on the floor: the posture's own drawn out, the other eighths fine.
void Drawing::fan() const
{
    for (std::size_t i = 0; i < m_construction.fan.size(); ++i) {
        const QLineF ray = m_body.map.map(m_construction.fan[i]);
        stroke(ray.p1(), ray.p2(), m_theme.empty, i == 0 ? 2.5 : 1, i == 0 ? Qt::SolidLine : Qt::DotLine);
    }
}

/// What both feet span.
void Drawing::polygon() const
{
    const QPolygonF feet{of(LeftHeel, Side::Left), of(LeftToe, Side::Left), of(LeftToe, Side::Right),
                         of(LeftHeel, Side::Right)};
    QColor veil = m_construction.colour;
    veil.setAlpha(50);
    m_painter.setPen(QPen(m_construction.colour, 2));
    m_painter.setBrush(veil);
    m_painter.drawPolygon(feet);
    m_painter.setBrush(Qt::NoBrush);
}

void Drawing::drawFeetAndWeight(Side lead, Side rear) const
{
    switch (m_construction.measure) {
    case Measure::FootLeadAngle:
        fan();
        return line(of(LeftHeel, lead), of(LeftToe, lead), 4);
    case Measure::FootRearAngle:
        fan();
        return line(of(LeftHeel, rear), of(LeftToe, rear), 4);
    case Measure::HeelRearLift:
        return lift(of(LeftHeel, rear), of(LeftToe, rear));
    case Measure::ToeLeadLift:
        return lift(of(LeftToe, lead), of(LeftHeel, lead));
    case Measure::LegLeadSplay:
        return shaft(of(LeftAnkle, lead), of(LeftHip, lead));
    case Measure::LegRearSplay:
        return shaft(of(LeftAnkle, rear), of(LeftHip, rear));
    case Measure::BalanceMargin:
        polygon();
        return line(mid(LeftHip), QPointF(mid(LeftHip).x(), floor()), 2, Qt::DashLine);
    case Measure::WeightLead: {
        line(of(LeftHeel, lead), of(LeftToe, lead), 4);
        stroke(of(LeftHeel, rear), of(LeftToe, rear), m_theme.empty, 4, Qt::SolidLine);
        line(mid(LeftHip), QPointF(mid(LeftHip).x(), floor()), 2, Qt::DashLine);
        return joint(mid(LeftHip));
    }
    case Measure::KneesOpen:
        line(of(LeftHip, Side::Left), of(LeftKnee, Side::Left), 3);
        line(of(LeftHip, Side::Right), of(LeftKnee, Side::Right), 3);
        return gauge(of(LeftKnee, Side::Left), of(LeftKnee, Side::Right));
    default:
        return footBoxes();
    }
}

void Drawing::drawTrunk() const
{
    const Side rear = other(m_construction.lead);
    switch (m_construction.measure) {
    case Measure::PelvisSquare:
        fan();
        return line(of(LeftHip, Side::Left), of(LeftHip, Side::Right), 4);
    case Measure::WaistTwist:
        line(of(LeftHip, Side::Left), of(LeftHip, Side::Right), 4);
        return line(of(LeftShoulder, Side::Left), of(LeftShoulder, Side::Right), 4);
    case Measure::PelvisLevel:
        return level(of(LeftHip, Side::Left), of(LeftHip, Side::Right));
    case Measure::ShouldersLevel:
        return level(of(LeftShoulder, Side::Left), of(LeftShoulder, Side::Right));
    case Measure::PelvisHeight:
        gauge(QPointF(mid(LeftHip).x(), floor()), mid(LeftHip));
        return joint(mid(LeftHip));
    case Measure::TrunkRearLegLine:
        return bend(of(LeftAnkle, rear), of(LeftHip, rear), mid(LeftShoulder));
    case Measure::SpineRound:
        return bend(mid(LeftHip), mid(LeftShoulder), mid(LeftEar));
    case Measure::ColumnOffset:
        guide(QPointF(mid(LeftAnkle).x(), floor()), QPointF(mid(LeftAnkle).x(), mid(LeftEar).y()));
        for (Landmark l : {LeftAnkle, LeftHip, LeftShoulder, LeftEar})
            joint(mid(l));
        return;
    default:
        return shaft(mid(LeftHip), mid(LeftShoulder));
    }
}

void Drawing::drawArm(Side side) const
{
    const QPointF shoulder = of(LeftShoulder, side), elbow = of(LeftElbow, side), wrist = of(LeftWrist, side);
    const QPointF breast = mid(LeftShoulder);
    switch (m_construction.measure) {
    case Measure::ShoulderLeadRaise:
    case Measure::ShoulderRearRaise:
        guide(of(LeftEar, side), QPointF(of(LeftEar, side).x(), shoulder.y()));
        return gauge(QPointF(shoulder.x(), of(LeftEar, side).y()), shoulder);
    case Measure::ElbowLeadBelow:
    case Measure::ElbowRearBelow:
        guide(shoulder, QPointF(elbow.x(), shoulder.y()));
        gauge(QPointF(elbow.x(), shoulder.y()), elbow);
        return joint(elbow);
    case Measure::ArmLeadReach:
    case Measure::ArmRearReach:
        return gauge(shoulder, wrist);
    case Measure::HandLeadHeight:
    case Measure::HandRearHeight:
        return heightScale(side);
    case Measure::HandLeadCentre:
    case Measure::HandRearCentre:
    case Measure::HandLeadFront:
    case Measure::HandRearFront:
        guide(breast, QPointF(breast.x(), std::max(wrist.y(), breast.y() + 0.5 * m_body.size)));
        gauge(QPointF(breast.x(), wrist.y()), wrist);
        return joint(wrist);
    case Measure::PalmLeadUp:
    case Measure::PalmRearUp:
        line(wrist, of(LeftIndex, side), 3);
        line(wrist, of(LeftPinky, side), 3);
        return line(of(LeftIndex, side), of(LeftPinky, side), 3);
    case Measure::HandsApart:
        return gauge(of(LeftWrist, Side::Left), of(LeftWrist, Side::Right));
    case Measure::ArmsParallel:
        for (Side s : {Side::Left, Side::Right})
            line(of(LeftElbow, s), of(LeftWrist, s), 4);
        return;
    case Measure::ArmOverLeg:
        line(shoulder, wrist, 4);
        return line(of(LeftHip, side), of(LeftAnkle, side), 4);
    default:
        return bend(shoulder, elbow, wrist);
    }
}

void Drawing::drawHead() const
{
    const QPointF ear = mid(LeftEar), shoulder = mid(LeftShoulder), nose = m_body.at(Nose);
    switch (m_construction.measure) {
    case Measure::HeadTilt:
        return level(of(LeftEar, Side::Left), of(LeftEar, Side::Right));
    case Measure::HeadForward:
        guide(shoulder, QPointF(shoulder.x(), ear.y() - 0.2 * m_body.size));
        gauge(QPointF(shoulder.x(), ear.y()), ear);
        return joint(ear);
    default: { // where the face looks
        const QPointF look = nose - ear;
        guide(ear, QPointF(ear.x() + (look.x() < 0 ? -1 : 1) * m_body.size, ear.y()));
        line(ear, ear + look * (m_body.size / std::max(1.0, length(look))), 3);
        return joint(ear);
    }
    }
}

void Drawing::draw()
{
    const Measure m = m_construction.measure;
    const Side lead = m_construction.lead, rear = other(lead);
    const bool ofRear = measureInfo(m).limbSide == LimbSide::Rear;
    switch (m) {
    case Measure::KneeLeadFlexion:
    case Measure::KneeRearFlexion: {
        const Side side = ofRear ? rear : lead;
        return bend(of(LeftHip, side), of(LeftKnee, side), of(LeftAnkle, side));
    }
    case Measure::HipLeadFlexion:
    case Measure::HipRearFlexion: {
        const Side side = ofRear ? rear : lead;
        return bend(mid(LeftShoulder), of(LeftHip, side), of(LeftKnee, side));
    }
    case Measure::KneeLeadPastToe:
    case Measure::KneeLeadTrack:
    case Measure::KneeRearTrack:
        return gate(ofRear ? rear : lead);
    default:
        break;
    }
    switch (measureInfo(m).rung) {
    case Rung::Feet:
    case Rung::Weight:
    case Rung::Knees:
        return drawFeetAndWeight(lead, rear);
    case Rung::Hips:
    case Rung::Trunk:
        return drawTrunk();
    case Rung::Arms:
        return m == Measure::ShouldersLevel ? drawTrunk() : drawArm(ofRear ? rear : lead);
    case Rung::Head:
        return drawHead();
    }
}

} // namespace

void drawConstruction(QPainter& p, const BodyFrame& body, const QTransform& toScreen,
                      const Construction& construction, const Theme& theme)
{
    if (!body.seen) return;
    const BodyOnScreen onScreen(body, toScreen);
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(Qt::NoBrush);
    Drawing(p, onScreen, construction, theme).draw();
    p.restore();
}

void drawForce(QPainter& painter, const QLineF& force, const Theme& theme)
{
    constexpr double least = 12, head = 14, half = 7; // pixels; a shorter arrow points at the camera
    const double size = force.length();
    if (size < least) return;
    const QPointF along = (force.p2() - force.p1()) / size, across(-along.y(), along.x());
    const QPointF neck = force.p2() - head * along;
    const QPolygonF tip{force.p2(), neck + half * across, neck - half * across};
    for (const auto& [colour, more] : {std::pair(theme.halo, 3.0), {theme.indigo, 0.0}}) {
        painter.setPen(QPen(colour, 4 + more, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(force.p1(), neck);
        painter.setPen(QPen(colour, more, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.setBrush(colour);
        painter.drawPolygon(tip);
    }
    painter.setBrush(Qt::NoBrush);
}

} // namespace jl
