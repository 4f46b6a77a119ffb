#include "app/review/bench/mending_view.h"
#include <QKeyEvent>
#include <QLocale>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

using enum Landmark;

/// The joints that can be corrected, from the head down; fingers and face carry no measure of their own.
constexpr Landmark kJoints[] = {Nose,      LeftEar,    RightEar,  LeftShoulder, RightShoulder,
                                LeftElbow, RightElbow, LeftWrist, RightWrist,   LeftHip,
                                RightHip,  LeftKnee,   RightKnee, LeftAnkle,    RightAnkle,
                                LeftHeel,  RightHeel,  LeftToe,   RightToe};
constexpr double kJointReach = 18; ///< pixels from a joint in which it is taken hold of
constexpr double kShortest = 12;   ///< pixels of a line on the floor

double distance(const QPointF& a, const QPointF& b)
{
    return std::hypot(a.x() - b.x(), a.y() - b.y());
}

} // namespace

bool isOf(const JointRepair& repair, Landmark landmark, double time)
{
    constexpr double sameMoment = 0.02; // s
    return repair.landmark == landmark && std::abs(repair.time - time) < sameMoment;
}

void MendingView::setTool(Tool tool)
{
    m_tool = tool;
    m_dragged.reset();
    m_chosen.reset();
    setFocusPolicy(tool == Tool::None ? Qt::ClickFocus : Qt::StrongFocus);
    setCursor(tool == Tool::None ? Qt::ArrowCursor : Qt::CrossCursor);
    update();
}

void MendingView::setKnowledge(const ClipKnowledge& known, double time)
{
    m_known = known;
    m_time = time;
    update();
}

QPointF MendingView::placeOf(Landmark l) const
{
    if (!body()) return {-1000, -1000};
    const auto& p = body()->point[index(l)];
    return toScreen().map(QPointF(p.x(), p.y()));
}

std::optional<Landmark> MendingView::nearest(const QPointF& at) const
{
    const auto away = [&](Landmark l) { return distance(placeOf(l), at); };
    const auto best = std::min_element(std::begin(kJoints), std::end(kJoints),
                                       [&](Landmark a, Landmark b) { return away(a) < away(b); });
    return away(*best) <= kJointReach ? std::optional(*best) : std::nullopt;
}

void MendingView::mousePressEvent(QMouseEvent* event)
{
    if (m_tool == Tool::None || event->button() != Qt::LeftButton) return PictureView::mousePressEvent(event);
    if (m_tool == Tool::Points) {
        m_chosen = nearest(event->position());
        if (!m_chosen) return PictureView::mousePressEvent(event); // beside the body the picture is moved
    }
    m_start = event->position();
    m_dragged = event->position();
    update();
}

void MendingView::mouseMoveEvent(QMouseEvent* event)
{
    if (!m_dragged) return PictureView::mouseMoveEvent(event);
    m_dragged = event->position();
    update();
}

void MendingView::mouseReleaseEvent(QMouseEvent* event)
{
    if (!m_dragged) return;
    const QPointF end = event->position();
    m_dragged.reset();
    update();
    const QTransform toClip = toScreen().inverted();
    if (m_tool == Tool::Points) {
        if (m_chosen && distance(m_start, end) >= 1) emit pointPlaced(*m_chosen, toClip.map(end));
    } else if (distance(m_start, end) >= kShortest) {
        emit lineDrawn(toClip.map(m_start), toClip.map(end));
    }
}

void MendingView::chooseNext(int direction)
{
    const auto count = static_cast<int>(std::size(kJoints));
    int now = direction > 0 ? -1 : count;
    if (m_chosen)
        now = static_cast<int>(std::find(std::begin(kJoints), std::end(kJoints), *m_chosen) - kJoints);
    m_chosen = kJoints[(now + direction + count) % count];
    update();
}

void MendingView::nudge(const QPointF& pixels)
{
    emit pointPlaced(*m_chosen, toScreen().inverted().map(placeOf(*m_chosen) + pixels));
}

void MendingView::keyPressEvent(QKeyEvent* event)
{
    if (m_tool != Tool::Points || !body()) return PictureView::keyPressEvent(event);
    const double step = event->modifiers() & Qt::ShiftModifier ? 8 : 2;
    switch (event->key()) {
    case Qt::Key_BracketRight:
        return chooseNext(1);
    case Qt::Key_BracketLeft:
        return chooseNext(-1);
    case Qt::Key_Left:
        return m_chosen ? nudge({-step, 0}) : PictureView::keyPressEvent(event);
    case Qt::Key_Right:
        return m_chosen ? nudge({step, 0}) : PictureView::keyPressEvent(event);
    case Qt::Key_Up:
        return m_chosen ? nudge({0, -step}) : PictureView::keyPressEvent(event);
    case Qt::Key_Down:
        return m_chosen ? nudge({0, step}) : PictureView::keyPressEvent(event);
    default:
        PictureView::keyPressEvent(event);
    }
}

void MendingView::paintPoints(QPainter& p) const
{
    for (Landmark l : kJoints) {
        const bool held = m_chosen == l;
        const bool mended = std::any_of(m_known.repairs.begin(), m_known.repairs.end(),
                                        [&](const JointRepair& r) { return isOf(r, l, m_time); });
        const QPointF at = held && m_dragged ? *m_dragged : placeOf(l);
        p.setPen(QPen(theme().halo, 4));
        p.setBrush(Qt::NoBrush);
        p.drawEllipse(at, held ? 8 : 5, held ? 8 : 5);
        p.setPen(QPen(held ? theme().lantern : theme().indigo, 2));
        p.setBrush(mended ? theme().lantern : theme().raised);
        p.drawEllipse(at, held ? 8 : 5, held ? 8 : 5);
    }
}

void MendingView::paintLines(QPainter& p) const
{
    const QTransform map = toScreen();
    const auto draw = [&](const QPointF& a, const QPointF& b, const QColor& colour, const QString& words) {
        p.setPen(QPen(theme().halo, 5, Qt::SolidLine, Qt::RoundCap));
        p.drawLine(a, b);
        p.setPen(QPen(colour, 2.5, Qt::SolidLine, Qt::RoundCap));
        p.drawLine(a, b);
        if (words.isEmpty()) return;
        p.setFont(textFont(0.95, QFont::DemiBold));
        const QRectF box = QFontMetricsF(p.font()).boundingRect(words).adjusted(-6, -2, 6, 2);
        const QRectF paper = box.translated(0.5 * (a + b) - box.center() + QPointF(0, 16));
        p.setPen(Qt::NoPen);
        p.setBrush(theme().raised);
        p.drawRoundedRect(paper, 5, 5);
        p.setPen(theme().ink);
        p.drawText(paper, Qt::AlignCenter, words);
    };
    const auto at = [&](const Eigen::Vector2d& pixel) { return map.map(QPointF(pixel.x(), pixel.y())); };
    for (const FloorSpan& s : m_known.hints.spans)
        draw(at(s.from), at(s.to), theme().indigo, tr("%1 m").arg(QLocale().toString(s.length, 'f', 2)));
    if (m_known.hints.wall)
        draw(at(m_known.hints.wall->at(0)), at(m_known.hints.wall->at(1)), theme().pine, tr("wall"));
    if (m_dragged) draw(m_start, *m_dragged, theme().lantern, {});
}

void MendingView::paintOver(QPainter& p) const
{
    if (m_tool == Tool::None) return;
    if (m_tool == Tool::Points && body() && body()->seen) paintPoints(p);
    if (m_tool != Tool::Points) paintLines(p);
}

} // namespace jl
