#include "app/review/bench/picture_view.h"
#include "draw/body_painter.h"
#include <QKeyEvent>
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

constexpr double kNearest = 8; ///< times nearer than the whole body
constexpr double kLabels = 70; ///< pixels that caption and verdict take at the top

/// The box that holds the body over the whole clip, without the few frames in which a point flies off.
QRectF bodyBox(const Track& track)
{
    std::vector<double> left, right, top, bottom;
    for (const BodyFrame& f : track.frames) {
        if (!f.seen) continue;
        const auto [l, r] = std::minmax_element(f.point.begin(), f.point.end(),
                                                [](const auto& a, const auto& b) { return a.x() < b.x(); });
        const auto [t, b] = std::minmax_element(f.point.begin(), f.point.end(),
                                                [](const auto& a, const auto& c) { return a.y() < c.y(); });
        left.push_back(l->x());
        right.push_back(r->x());
        top.push_back(t->y());
        bottom.push_back(b->y());
    }
    if (left.empty()) return QRectF(0, 0, track.width, track.height);
    const auto at = [](std::vector<double>& v, double share) {
        const auto k = v.begin() + static_cast<std::ptrdiff_t>(share * static_cast<double>(v.size() - 1));
        std::nth_element(v.begin(), k, v.end());
        return *k;
    };
    const QRectF box(QPointF(at(left, 0.01), at(top, 0.01)), QPointF(at(right, 0.99), at(bottom, 0.99)));
    const double margin = 0.10 * box.height();
    return box.adjusted(-margin, -1.3 * margin, margin, 1.1 * margin); // ears are below the crown
}

} // namespace

PictureView::PictureView(const Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme)
{
    setMinimumSize(220, 240);
    setFocusPolicy(Qt::ClickFocus);
}

void PictureView::setSource(std::unique_ptr<FrameFeed> feed, const Track* track, int width, int height)
{
    m_feed = std::move(feed);
    m_picture = QImage();
    m_size = QSizeF(width, height);
    m_focus = track ? bodyBox(*track) : QRectF(QPointF(0, 0), m_size);
    m_overlay = {};
    m_shown = -1;
    m_zoom = {};
    if (m_feed) {
        connect(m_feed.get(), &FrameFeed::ready, this, [this](const QImage& picture, double time) {
            m_picture = picture;
            m_shown = time;
            update();
            emit pictureShown(time);
        });
    }
    update();
}

void PictureView::showTime(double time)
{
    m_wanted = time;
    if (m_feed) m_feed->request(time);
}

/// What is drawn over a picture changes together with it: drawing twice for every frame would cost it time.
void PictureView::updateWithPicture()
{
    if (!m_feed || m_shown == m_wanted) update();
}

void PictureView::setOverlay(const Overlay& overlay)
{
    m_overlay = overlay;
    updateWithPicture();
}

void PictureView::setCaption(const QString& caption, const QString& verdict)
{
    m_caption = caption;
    m_verdict = verdict;
    setAccessibleDescription(caption + ". " + verdict);
    updateWithPicture();
}

void PictureView::setWholeFrame(bool whole)
{
    m_wholeFrame = whole;
    update();
}

/// The part of the picture that is shown: the body's box, widened to the shape of the view, inside the
/// picture.
QRectF PictureView::wholeCrop() const
{
    const double aspect = static_cast<double>(width()) / std::max(1, height());
    QRectF box = m_wholeFrame ? QRectF(QPointF(0, 0), m_size) : m_focus;
    const double words = kLabels / std::max(1.0, static_cast<double>(height()));
    if (!m_wholeFrame && words < 0.5)
        box.setTop(box.top() - box.height() * words / (1 - words)); // free of the head
    if (box.width() < aspect * box.height())
        box = QRectF(box.center().x() - 0.5 * aspect * box.height(), box.top(), aspect * box.height(),
                     box.height());
    else
        box = QRectF(box.left(), box.center().y() - 0.5 * box.width() / aspect, box.width(),
                     box.width() / aspect);
    if (m_wholeFrame) return box;
    if (box.width() <= m_size.width())
        box.moveLeft(std::clamp(box.left(), 0.0, m_size.width() - box.width()));
    if (box.height() <= m_size.height())
        box.moveTop(std::clamp(box.top(), 0.0, m_size.height() - box.height()));
    return box;
}

/// The same, come nearer.
QRectF PictureView::crop() const
{
    const QRectF whole = wholeCrop();
    const QSizeF size = whole.size() / m_zoom.factor;
    const QPointF middle(whole.left() + m_zoom.middle.x() * whole.width(),
                         whole.top() + m_zoom.middle.y() * whole.height());
    return {middle - QPointF(size.width() / 2, size.height() / 2), size};
}

QTransform PictureView::toScreen() const
{
    const QRectF part = crop();
    QTransform map;
    map.scale(width() / part.width(), height() / part.height());
    map.translate(-part.left(), -part.top());
    return map;
}

void PictureView::setZoom(Zoom zoom)
{
    zoom.factor = std::clamp(zoom.factor, 1.0, kNearest);
    const double edge = 0.5 / zoom.factor; // the shown part stays within the whole
    zoom.middle = {std::clamp(zoom.middle.x(), edge, 1 - edge), std::clamp(zoom.middle.y(), edge, 1 - edge)};
    if (zoom == m_zoom) return;
    m_zoom = zoom;
    update();
    emit zoomed(m_zoom);
}

void PictureView::zoomBy(double factor, const QPointF& about)
{
    // What lies under the pointer stays there.
    const QPointF from(about.x() / width() - 0.5, about.y() / height() - 0.5);
    const double was = m_zoom.factor, now = std::clamp(was * factor, 1.0, kNearest);
    setZoom({now, m_zoom.middle + from * (1 / was - 1 / now)});
}

void PictureView::panBy(const QPointF& pixels)
{
    setZoom({m_zoom.factor,
             m_zoom.middle - QPointF(pixels.x() / width(), pixels.y() / height()) / m_zoom.factor});
}

void PictureView::wheelEvent(QWheelEvent* event)
{
    zoomBy(std::exp2(event->angleDelta().y() / 480.0), event->position());
    event->accept();
}

void PictureView::mousePressEvent(QMouseEvent* event)
{
    m_held = event->position();
}

void PictureView::mouseMoveEvent(QMouseEvent* event)
{
    if (!(event->buttons() & (Qt::LeftButton | Qt::MiddleButton))) return;
    panBy(event->position() - m_held);
    m_held = event->position();
}

void PictureView::mouseDoubleClickEvent(QMouseEvent*)
{
    setZoom({});
}

void PictureView::keyPressEvent(QKeyEvent* event)
{
    const QPointF middle = rect().center();
    switch (event->key()) {
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        return zoomBy(1.25, middle);
    case Qt::Key_Minus:
        return zoomBy(0.8, middle);
    case Qt::Key_0:
        return setZoom({});
    default:
        QWidget::keyPressEvent(event);
    }
}

void PictureView::drawLabel(QPainter& painter, Label& label, const QString& text, bool top) const
{
    if (text.isEmpty()) return;
    const double room = width() - 20.0, ratio = devicePixelRatioF();
    if (label.text != text || label.room != room || label.ratio != ratio) {
        const QFont font = textFont(top ? 1.0 : 1.05, QFont::DemiBold);
        const QFontMetricsF metrics(font);
        const QSizeF size(std::min(std::ceil(metrics.horizontalAdvance(text)) + 24, room), 30);
        label = {text, room, ratio, QPixmap((size * ratio).toSize())};
        label.sheet.setDevicePixelRatio(ratio);
        label.sheet.fill(Qt::transparent);
        QPainter p(&label.sheet);
        p.setRenderHint(QPainter::Antialiasing);
        QColor paper = m_theme.raised;
        paper.setAlpha(235);
        p.setPen(Qt::NoPen);
        p.setBrush(paper);
        p.drawRoundedRect(QRectF(QPointF(0, 0), size), 8, 8);
        p.setPen(m_theme.ink);
        p.setFont(font);
        p.drawText(QRectF(12, 0, size.width() - 24, size.height()), Qt::AlignVCenter,
                   metrics.elidedText(text, Qt::ElideRight, size.width() - 24));
    }
    painter.drawPixmap(QPointF(10, top ? 10 : 46), label.sheet); // both above, so that the feet stay free
}

void PictureView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.fillRect(rect(), m_theme.rail);
    const QRectF part = crop();
    const QTransform map = toScreen();
    if (!m_picture.isNull()) {
        const double k = m_picture.width() / m_size.width();
        p.drawImage(QRectF(rect()), m_picture,
                    QRectF(part.left() * k, part.top() * k, part.width() * k, part.height() * k));
    }
    if (m_picture.isNull() && m_feed) {
        p.setPen(m_theme.railText);
        p.drawText(rect(), Qt::AlignCenter, tr("the picture is being drawn"));
        drawLabel(p, m_captionLabel, m_caption, true);
        return roundCorners(p); // nothing is drawn over a picture that is not there
    }
    if (m_overlay.body) {
        if (m_overlay.drawFigure)
            drawBody(p, *m_overlay.body, map, m_overlay.lead, m_overlay.leadShare, m_theme);
        if (m_overlay.laidOver) drawOutline(p, *m_overlay.laidOver, map, m_theme.glow);
        if (!m_overlay.force.isNull()) drawForce(p, map.map(m_overlay.force), m_theme);
        if (m_overlay.construction)
            drawConstruction(p, *m_overlay.body, map, *m_overlay.construction, m_theme);
    }
    paintOver(p);
    drawLabel(p, m_captionLabel, m_caption, true);
    drawLabel(p, m_verdictLabel, m_verdict, false);
    roundCorners(p);
}

/// By painting over them: within a round path everything would be drawn span by span.
void PictureView::roundCorners(QPainter& p) const
{
    constexpr double round = 8;
    QPainterPath corner; // the upper left one
    corner.lineTo(round, 0);
    corner.arcTo(0, 0, 2 * round, 2 * round, 90, 90);
    corner.closeSubpath();
    for (const double x : {1.0, -1.0})
        for (const double y : {1.0, -1.0}) {
            QTransform place = QTransform::fromScale(x, y);
            place *= QTransform::fromTranslate(x < 0 ? width() : 0, y < 0 ? height() : 0);
            p.fillPath(place.map(corner), m_theme.ground);
        }
}

} // namespace jl
