#include "app/review/ribbon/path_view.h"
#include "app/theme/mark.h"
#include "app/theme/panel.h"
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace jl
{
namespace
{

constexpr double kMargin = 26;     ///< pixels around the path
constexpr double kLeastSpan = 0.8; ///< m that are always in view
constexpr double kSole = 0.045;    ///< m, half of a sole's width
constexpr double kLantern = 11;    ///< pixels, radius

QPointF point(const Eigen::Vector2d& p)
{
    return {p.x(), p.y()};
}

/// A sole from heel to toes in the room, a little narrower at the heel, mapped to the screen.
QPainterPath sole(const Footprint& f, const QTransform& map)
{
    const Eigen::Vector2d along = f.toe - f.heel;
    const double length = std::max(0.05, along.norm());
    const Eigen::Vector2d forward = along / length, aside(forward.y(), -forward.x());
    const auto at = [&](double share, double wide) {
        return map.map(point(f.heel + forward * (share * length) + aside * (wide * kSole)));
    };
    QPainterPath path;
    path.moveTo(at(-0.1, 0));
    path.cubicTo(at(-0.1, 0.8), at(0.3, 0.6), at(0.55, 0.9));
    path.cubicTo(at(0.8, 1.2), at(1.08, 0.9), at(1.08, 0));
    path.cubicTo(at(1.08, -0.9), at(0.8, -1.2), at(0.55, -0.9));
    path.cubicTo(at(0.3, -0.6), at(-0.1, -0.8), at(-0.1, 0));
    return path;
}

} // namespace

PathView::PathView(Playhead& playhead, const Theme& theme, QWidget* parent)
    : QWidget(parent), m_playhead(playhead), m_theme(theme)
{
    setMinimumSize(180, 180);
    setAccessibleName(tr("Path over the floor"));
    setToolTip(tr("The floor from above. Click a lantern to go to its posture."));
    setCursor(Qt::PointingHandCursor);
    connect(&playhead, &Playhead::loaded, this, qOverload<>(&QWidget::update));
    connect(&playhead, &Playhead::phaseChanged, this, qOverload<>(&QWidget::update));
}

/// Metres of the room to pixels: ahead is up, and the whole of both paths fits.
QTransform PathView::toScreen() const
{
    QRectF box;
    const auto take = [&](const FloorPath& path) {
        for (const PathStop& stop : path)
            for (const Footprint& f : stop.feet)
                for (const Eigen::Vector2d& p : {f.heel, f.toe})
                    box |= QRectF(p.x() - 0.05, p.y() - 0.05, 0.1, 0.1);
    };
    take(m_playhead.scene()->studentPath);
    take(m_playhead.scene()->referencePath);
    const double wide = std::max(kLeastSpan, box.width()), deep = std::max(kLeastSpan, box.height());
    const double k = std::min((width() - 2 * kMargin) / wide, (height() - 2 * kMargin) / deep);
    QTransform map;
    map.translate(0.5 * width(), 0.5 * height());
    map.scale(k, -k);
    map.translate(-box.center().x(), -box.center().y());
    return map;
}

std::optional<QPointF> PathView::lanternOf(std::size_t posture) const
{
    const auto all = m_playhead.scene() ? lanterns() : std::vector<std::optional<QPointF>>{};
    return posture < all.size() ? all[posture] : std::nullopt;
}

/// Lanterns hang beside the feet, on the side that has more room, one below the other where a posture stays
/// in place.
std::vector<std::optional<QPointF>> PathView::lanterns() const
{
    const ReviewScene& b = *m_playhead.scene();
    const QTransform map = toScreen();
    std::vector<std::optional<QPointF>> hung(b.review.postures.size());
    for (std::size_t i = 0; i < hung.size(); ++i) {
        const PathStop* last = nullptr;
        for (const PathStop& stop : b.studentPath)
            if (stop.place == i) last = &stop;
        if (!last) continue;
        const QPointF hips = map.map(point(last->hips));
        const double aside = hips.x() > 0.5 * width() ? -1 : 1;
        QPointF at(hips.x() + aside * 3.2 * kLantern, hips.y());
        const auto clash = [&] {
            return std::any_of(hung.begin(), hung.end(), [&](const std::optional<QPointF>& t) {
                return t && std::hypot(t->x() - at.x(), t->y() - at.y()) < 2.6 * kLantern;
            });
        };
        for (int turn = 1; clash() && turn < 24; ++turn) { // up and down in growing steps
            const int size = (turn + 1) / 2;
            const double step = 0.9 * kLantern * size;
            at.setY(hips.y() + (turn % 2 ? -step : step));
        }
        at.setX(std::clamp(at.x(), kLantern + 4, width() - kLantern - 4.0));
        at.setY(std::clamp(at.y(), kLantern + 4, height() - kLantern - 4.0));
        hung[i] = at;
    }
    return hung;
}

void PathView::drawFloor(QPainter& p, const QTransform& map) const
{
    p.setPen(QPen(m_theme.line, 1));
    const QRectF seen = map.inverted().mapRect(QRectF(rect()));
    constexpr double mat = 0.5; // m between lines
    for (double x = std::floor(seen.left() / mat) * mat; x < seen.right(); x += mat)
        p.drawLine(map.map(QPointF(x, seen.top())), map.map(QPointF(x, seen.bottom())));
    for (double y = std::floor(seen.top() / mat) * mat; y < seen.bottom(); y += mat)
        p.drawLine(map.map(QPointF(seen.left(), y)), map.map(QPointF(seen.right(), y)));
    p.setPen(m_theme.quiet);
    p.setFont(textFont(0.85));
    p.drawText(QRectF(0, 5, width(), 16), Qt::AlignHCenter, tr("wall ahead"));
    p.drawText(QRectF(8, height() - 20, width() - 16, 16), Qt::AlignLeft, tr("green: reference"));
    p.drawText(QRectF(8, height() - 20, width() - 16, 16), Qt::AlignRight, tr("50 cm squares"));
}

void PathView::drawPath(QPainter& p, const QTransform& map, const FloorPath& path, bool reference) const
{
    if (path.empty()) return;
    QPainterPath travel(map.map(point(path.front().hips)));
    for (const PathStop& stop : path)
        travel.lineTo(map.map(point(stop.hips)));
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(reference ? m_theme.band : m_theme.quiet, 1.2, Qt::DotLine, Qt::RoundCap));
    p.drawPath(travel);
    QColor rim = reference ? m_theme.pine : m_theme.ink;
    rim.setAlpha(reference ? 90 : 150);
    p.setPen(QPen(rim, 1));
    QColor paper = reference ? m_theme.band : m_theme.raised;
    paper.setAlpha(reference ? 90 : 200);
    p.setBrush(paper);
    for (const PathStop& stop : path)
        for (const Footprint& f : stop.feet)
            if (f.stands) p.drawPath(sole(f, map));
}

/// The feet of the phase that is shown, as full as the weight they carry.
void PathView::drawStandingFeet(QPainter& p, const QTransform& map) const
{
    const ReviewScene& b = *m_playhead.scene();
    const ReviewedPhase* now = m_playhead.currentPhase();
    if (!now || !now->student.matched) return;
    for (const PathStop& stop : b.studentPath) {
        if (std::abs(stop.time - now->student.time) > 1e-6) continue;
        const double leadShare = b.leadShareAt(stop.time);
        for (Side side : {Side::Left, Side::Right}) {
            const double share = side == now->student.lead ? leadShare : 1 - leadShare;
            QColor fill = m_theme.ink;
            fill.setAlphaF(static_cast<float>(0.08 + 0.9 * share * share));
            p.setPen(QPen(m_theme.lantern, 1.6));
            p.setBrush(fill);
            p.drawPath(sole(stop.feet[static_cast<std::size_t>(side)], map));
        }
    }
}

void PathView::drawLanterns(QPainter& p) const
{
    const Review& review = m_playhead.scene()->review;
    const std::size_t current = m_playhead.phase().first;
    const auto all = lanterns();
    for (std::size_t i = 0; i < all.size(); ++i) {
        const std::optional<QPointF>& at = all[i];
        if (!at) continue;
        const bool here = i == current;
        p.setPen(QPen(here ? m_theme.lantern : m_theme.line, here ? 2 : 1));
        p.setBrush(here ? m_theme.glow : m_theme.chosen);
        p.drawEllipse(*at, kLantern - 1, kLantern + 1);
        p.setPen(m_theme.ink);
        p.setFont(textFont(0.9, here ? QFont::Bold : QFont::DemiBold));
        p.drawText(QRectF(at->x() - kLantern, at->y() - kLantern, 2 * kLantern, 2 * kLantern),
                   Qt::AlignCenter, QString::number(i + 1));
        const Mark mark = markOf(review, i);
        if (mark == Mark::Watch || mark == Mark::Fault || mark == Mark::Safety)
            drawMark(p, *at + QPointF(kLantern, -kLantern), 11, mark, m_theme);
    }
}

void PathView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const QPainterPath frame = drawPanel(p, rect(), m_theme);
    if (!m_playhead.scene()) return;
    p.setClipPath(frame);
    const QTransform map = toScreen();
    m_still.paint(p, *this, m_playhead.sharedScene(), [&](QPainter& still) {
        drawFloor(still, map);
        drawPath(still, map, m_playhead.scene()->referencePath, true);
        drawPath(still, map, m_playhead.scene()->studentPath, false);
    });
    drawStandingFeet(p, map);
    drawLanterns(p);
}

void PathView::mousePressEvent(QMouseEvent* e)
{
    const ReviewScene* b = m_playhead.scene();
    if (!b) return;
    const auto away = [&](const QPointF& at) {
        return std::hypot(at.x() - e->position().x(), at.y() - e->position().y());
    };
    const auto all = lanterns();
    for (std::size_t i = 0; i < all.size(); ++i)
        if (all[i] && away(*all[i]) < kLantern + 4) return m_playhead.goToPosture(i);
    const QTransform map = toScreen();
    const auto nearest = std::min_element(
        b->studentPath.begin(), b->studentPath.end(), [&](const PathStop& x, const PathStop& y) {
            return away(map.map(point(x.hips))) < away(map.map(point(y.hips)));
        });
    if (nearest != b->studentPath.end()) m_playhead.moveTo(nearest->time);
}

} // namespace jl
