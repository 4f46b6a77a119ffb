#include "app/review/bench/figure_view.h"
#include "app/theme/panel.h"
#include "draw/body_painter.h"
#include "measure/support_polygon.h"
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kDistance = 6; ///< m: far enough that the body is hardly distorted
constexpr double kReach = 1.0;  ///< m of floor around the body
constexpr double kWords = 50;   ///< pixels above the body

/// The body as this camera sees it, for the painter of bodies.
BodyFrame seenBy(const Camera& camera, const BodyPoints& body)
{
    BodyFrame f;
    f.seen = true;
    for (std::size_t i = 0; i < kLandmarkCount; ++i)
        f.point[i] = camera.project(body[i]);
    return f;
}

QPointF onScreen(const Camera& camera, const Eigen::Vector3d& p)
{
    const Eigen::Vector2d at = camera.project(p);
    return {at.x(), at.y()};
}

Eigen::Vector3d feetMiddle(const BodyPoints& b)
{
    using enum Landmark;
    Eigen::Vector3d middle = 0.5 * (b[index(LeftAnkle)] + b[index(RightAnkle)]);
    middle.z() = 0;
    return middle;
}

} // namespace

FigureView::FigureView(Playhead& playhead, const Theme& theme, QWidget* parent)
    : QWidget(parent), m_playhead(playhead), m_theme(theme)
{
    setMinimumSize(260, 260);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::OpenHandCursor);
    setAccessibleName(tr("Figure, to be turned"));
    setToolTip(tr("Drag to turn, wheel to come nearer, T for front, side and top"));
    connect(&playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
    connect(&playhead, &Playhead::measureChosen, this, qOverload<>(&QWidget::update));
}

void FigureView::look(Direction from)
{
    m_next = (static_cast<int>(from) + 1) % 3;
    m_azimuth = from == Direction::Side ? 90 : 0;
    m_elevation = from == Direction::Top ? 89 : from == Direction::Front ? 6 : 4;
    update();
}

void FigureView::lookNext()
{
    look(static_cast<Direction>(m_next));
}

void FigureView::setShowsReference(bool shows)
{
    m_showsReference = shows;
    update();
}

Camera FigureView::cameraOn(const BodyPoints& body) const
{
    const double heading = m_playhead.scene()->student.lineUp.phaseAt(m_playhead.time()).heading;
    Eigen::Vector3d target = feetMiddle(body);
    target.z() = 0.70 * std::cos(m_elevation * M_PI / 180);
    Camera camera = Camera::looking(target, heading + m_azimuth, m_elevation, kDistance);
    camera.focal = m_zoom * kDistance * std::min((height() - kWords) / 2.05, width() / 2.0);
    camera.centre = {0.5 * width(), 0.5 * (height() + kWords)};
    return camera;
}

void FigureView::drawFloor(QPainter& p, const Camera& camera, const BodyPoints& body, double heading) const
{
    const Eigen::Vector3d middle = feetMiddle(body);
    const auto at = [&](double deg, double r) { return onScreen(camera, middle + r * forwardOf(deg)); };
    p.setPen(QPen(m_theme.line, 1));
    for (double r : {0.5, 1.0, kReach}) {
        QPainterPath ring(at(0, r));
        for (int d = 6; d <= 360; d += 6)
            ring.lineTo(at(d, r));
        p.setBrush(Qt::NoBrush);
        p.drawPath(ring);
    }
    for (int d = 0; d < 360; d += 45) {
        const bool ahead = std::abs(std::remainder(d - heading, 360.0)) < 1;
        p.setPen(QPen(ahead ? m_theme.lantern : m_theme.line, ahead ? 2 : 1));
        p.drawLine(at(d, 0), at(d, kReach));
    }
    p.setFont(textFont(0.9));
    p.setPen(m_theme.quiet);
    const std::pair<int, QString> names[] = {
        {0, tr("ahead")}, {90, tr("right")}, {180, tr("back")}, {270, tr("left")}};
    for (const auto& [d, name] : names) {
        QPointF c = at(d, kReach + 0.12);
        c.setX(std::clamp(c.x(), 24.0, width() - 24.0));
        c.setY(std::clamp(c.y(), 10.0, height() - 12.0));
        p.drawText(QRectF(c.x() - 40, c.y() - 9, 80, 18), Qt::AlignCenter, name);
    }
}

void FigureView::drawSupport(QPainter& p, const Camera& camera, const BodyPoints& body) const
{
    const auto hull = supportPolygon(body, m_playhead.scene()->student.lengths);
    if (!hull.empty()) {
        QPolygonF outline;
        for (const Eigen::Vector2d& c : hull)
            outline << onScreen(camera, {c.x(), c.y(), 0});
        QColor fill = m_theme.ochre;
        fill.setAlpha(50);
        p.setBrush(fill);
        p.setPen(QPen(m_theme.ochre, 1.5));
        p.drawPolygon(outline);
    }
    const Eigen::Vector2d under = underCentreOfMass(body);
    const QPointF c = onScreen(camera, {under.x(), under.y(), 0});
    p.setBrush(m_theme.ochre);
    p.setPen(QPen(m_theme.raised, 1.5));
    p.drawEllipse(c, 5, 5);
}

void FigureView::drawWords(QPainter& p) const
{
    p.setFont(textFont(0.9));
    p.setPen(m_theme.quiet);
    p.drawText(QRectF(14, 10, width() - 28, 40), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
               tr("Solid: the student. Dashed: the reference on the same feet, in the student's size. The "
                  "dot lies under the "
                  "centre of mass. What one camera cannot see is as the model has it."));
}

void FigureView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const QPainterPath frame = drawPanel(p, rect(), m_theme);
    const ReviewScene* b = m_playhead.scene();
    if (!b) return;
    p.setClipPath(frame);
    const double time = m_playhead.time();
    const BodyPoints student = b->studentBodyAt(time);
    const Camera camera = cameraOn(student);
    const double heading = b->student.lineUp.phaseAt(time).heading;
    drawFloor(p, camera, student, heading);
    drawSupport(p, camera, student);
    const Side lead = b->student.leadAt(time);
    if (m_showsReference) drawOutline(p, seenBy(camera, b->referenceOverAt(time)), {}, m_theme.pine);
    drawInkBody(p, seenBy(camera, student), {}, lead, b->leadShareAt(time), m_theme);
    drawWords(p);
}

void FigureView::mousePressEvent(QMouseEvent* e)
{
    m_grip = e->position();
}

void FigureView::mouseMoveEvent(QMouseEvent* e)
{
    if (!(e->buttons() & Qt::LeftButton)) return;
    const QPointF moved = e->position() - m_grip;
    m_grip = e->position();
    m_azimuth = std::remainder(m_azimuth + 0.5 * moved.x(), 360.0);
    m_elevation = std::clamp(m_elevation + 0.4 * moved.y(), -5.0, 89.0);
    update();
}

void FigureView::wheelEvent(QWheelEvent* e)
{
    m_zoom = std::clamp(m_zoom * std::pow(1.0015, e->angleDelta().y()), 0.6, 4.0);
    update();
}

void FigureView::keyPressEvent(QKeyEvent* e)
{
    constexpr double step = 10; // deg
    switch (e->key()) {
    case Qt::Key_Left:
        m_azimuth = std::remainder(m_azimuth - step, 360.0);
        break;
    case Qt::Key_Right:
        m_azimuth = std::remainder(m_azimuth + step, 360.0);
        break;
    default:
        return QWidget::keyPressEvent(e);
    }
    update();
}

} // namespace jl
