#include "app/review/ribbon/ribbon_view.h"
#include "app/review/paint/words.h"
#include "app/theme/mark.h"
#include "draw/breath_curve.h"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>

namespace jl
{
namespace
{

constexpr double kNames = 84; ///< width of the names at the left
constexpr double kMarks = 18, kLane = 24, kThread = 10, kBreath = 18;

/// The box of a phase on its lane.
QRectF boxOf(const QRectF& lane, double from, double to)
{
    return {from + 1, lane.top(), std::max(2.0, to - from - 2), lane.height()};
}

} // namespace

RibbonView::RibbonView(Playhead& playhead, const Theme& theme, QWidget* parent)
    : QWidget(parent), m_playhead(playhead), m_theme(theme)
{
    setMinimumHeight(136);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Time lines of student and reference"));
    connect(&playhead, &Playhead::loaded, this, qOverload<>(&QWidget::update));
    connect(&playhead, &Playhead::phaseChanged, this, qOverload<>(&QWidget::update));
    connect(&playhead, &Playhead::moved, this, &RibbonView::followMoment);
}

/// Row 0 is the student's lane, 1 the weight band, 2 the reference's lane, 3 the breath under the weight.
QRectF RibbonView::lane(int row) const
{
    const double w = width() - kNames - 10, bottom = height() - kLane - 2;
    if (row == 0) return {kNames, kMarks, w, kLane};
    if (row == 2) return {kNames, bottom, w, kLane};
    const double top = kMarks + kLane + kThread;
    const double breath = bottom - kThread - kBreath;
    if (row == 3) return {kNames, breath, w, kBreath};
    return {kNames, top, w, breath - 4 - top};
}

double RibbonView::xOf(double t) const
{
    const QRectF r = lane(0);
    const double duration = m_playhead.scene() ? m_playhead.scene()->student.track.duration() : 1;
    return r.left() + r.width() * t / std::max(0.1, duration);
}

double RibbonView::xOfReference(double t) const
{
    const QRectF r = lane(2);
    const double duration = m_playhead.scene() ? m_playhead.scene()->referenceDuration : 1;
    return r.left() + r.width() * t / std::max(0.1, duration);
}

std::vector<RibbonView::Stretch> RibbonView::stretches(bool reference) const
{
    std::vector<Stretch> found;
    double from = reference ? xOfReference(0) : xOf(0);
    const auto& postures = m_playhead.scene()->review.postures;
    for (std::size_t i = 0; i < postures.size(); ++i)
        for (std::size_t k = 0; k < postures[i].phases.size(); ++k) {
            const ReviewedPhase& phase = postures[i].phases[k];
            if (!phase.student.matched || (reference && !phase.referenceTime)) continue;
            const double to = reference ? xOfReference(*phase.referenceTime) : xOf(phase.student.time);
            found.push_back({i, k, from, to});
            from = to;
        }
    return found;
}

/// A posture's name, once over all its phases.
void RibbonView::drawName(QPainter& p, bool reference, std::size_t posture, double from, double to) const
{
    const QRectF row = lane(reference ? 2 : 0), span(from + 3, row.top(), to - from - 6, row.height());
    if (span.width() < 24) return;
    p.setFont(textFont(0.92));
    p.setPen(m_theme.ink);
    const QString name = QString::fromStdString(m_playhead.scene()->review.postures[posture].name);
    p.drawText(span, Qt::AlignCenter, QFontMetricsF(p.font()).elidedText(name, Qt::ElideRight, span.width()));
}

void RibbonView::drawLane(QPainter& p, bool reference) const
{
    const QRectF row = lane(reference ? 2 : 0);
    const std::vector<Stretch> all = stretches(reference);
    p.setPen(Qt::NoPen);
    p.setBrush(m_theme.line);
    p.setOpacity(0.6);
    for (const Stretch& s : all)
        p.drawRoundedRect(boxOf(row, s.from, s.to), 5, 5);
    p.setOpacity(1);
    for (std::size_t i = 0; i < all.size();) {
        std::size_t last = i;
        while (last + 1 < all.size() && all[last + 1].posture == all[i].posture)
            ++last;
        drawName(p, reference, all[i].posture, all[i].from, all[last].to);
        i = last + 1;
    }
    p.setPen(m_theme.ink);
    p.setFont(textFont(0.95, QFont::DemiBold));
    p.drawText(QRectF(4, row.top(), kNames - 8, row.height()), Qt::AlignVCenter,
               reference ? tr("Reference") : tr("Student"));
}

/// The current phase, with what it covers of its posture's name.
void RibbonView::drawChosen(QPainter& p, bool reference) const
{
    const auto [posture, phase] = m_playhead.phase();
    std::optional<Stretch> chosen;
    double from = 0, to = 0;
    bool any = false;
    for (const Stretch& s : stretches(reference)) {
        if (s.posture != posture) continue;
        if (!std::exchange(any, true)) from = s.from;
        to = s.to;
        if (s.phase == phase) chosen = s;
    }
    if (!chosen) return;
    const QRectF box = boxOf(lane(reference ? 2 : 0), chosen->from, chosen->to);
    p.setPen(Qt::NoPen);
    p.setBrush(m_theme.glow);
    p.drawRoundedRect(box, 5, 5);
    p.save();
    p.setClipRect(box, Qt::IntersectClip);
    drawName(p, reference, posture, from, to);
    p.restore();
}

void RibbonView::drawWeight(QPainter& p) const
{
    const QRectF row = lane(1);
    p.setPen(Qt::NoPen);
    p.setBrush(m_theme.chosen);
    p.drawRoundedRect(row, 5, 5);
    const ReviewScene& b = *m_playhead.scene();
    const WeightCourse& w = b.studentWeight;
    QPainterPath area, unseen;
    bool open = false;
    double lastX = 0;
    const auto close = [&] {
        if (!open) return;
        area.lineTo(lastX, row.bottom());
        area.closeSubpath();
        open = false;
    };
    for (std::size_t i = 0; i < w.time.size(); ++i) {
        if (!w.share[i]) { // not seen is not the same as no weight
            close();
            const double next = i + 1 < w.time.size() ? xOf(w.time[i + 1]) : row.right();
            unseen.addRect(QRectF(QPointF(xOf(w.time[i]), row.top()), QPointF(next, row.bottom())));
            continue;
        }
        const QPointF at(xOf(w.time[i]), row.bottom() - *w.share[i] * row.height());
        if (!open) {
            area.moveTo(at.x(), row.bottom());
            open = true;
        }
        area.lineTo(at);
        lastX = at.x();
    }
    close();
    QColor ink = m_theme.ink;
    ink.setAlpha(190);
    p.fillPath(area, ink);
    p.fillPath(unseen, QBrush(m_theme.line, Qt::BDiagPattern));
    p.setPen(QPen(m_theme.ochre, 1, Qt::DashLine));
    p.drawLine(QPointF(row.left(), row.center().y()), QPointF(row.right(), row.center().y()));
    p.setPen(m_theme.quiet);
    p.setFont(textFont(0.85));
    p.drawText(QRectF(4, row.top(), kNames - 8, row.height()), Qt::AlignVCenter, tr("weight on\nfront leg"));
    if (area.isEmpty()) p.drawText(row, Qt::AlignCenter, tr("not to be seen from this view"));
}

void RibbonView::drawBreath(QPainter& p) const
{
    const QRectF row = lane(3).adjusted(0, 2, 0, -2);
    p.setPen(QPen(m_theme.pine, 1.8));
    p.setBrush(Qt::NoBrush);
    p.drawPath(breathCurve(m_playhead.scene()->review, row, [this](Seconds t) { return xOf(t); }));
    p.setPen(m_theme.quiet);
    p.setFont(textFont(0.85));
    p.drawText(QRectF(4, row.top() - 2, kNames - 8, row.height() + 4), Qt::AlignVCenter, tr("breath"));
}

void RibbonView::drawThreads(QPainter& p) const
{
    const QRectF top = lane(0), middle = lane(1).united(lane(3)), bottom = lane(2);
    p.setPen(QPen(m_theme.indigo, 1));
    for (const auto& [student, reference] : m_playhead.scene()->keyTimes) {
        p.drawLine(QPointF(xOf(student), top.bottom()), QPointF(xOf(student), middle.top()));
        QPainterPath thread(QPointF(xOf(student), middle.bottom()));
        thread.cubicTo(xOf(student), bottom.top(), xOfReference(reference), middle.bottom(),
                       xOfReference(reference), bottom.top());
        p.drawPath(thread);
    }
}

void RibbonView::drawMarks(QPainter& p) const
{
    const Review& review = m_playhead.scene()->review;
    for (std::size_t i = 0; i < review.postures.size(); ++i) {
        for (std::size_t k = 0; k < review.postures[i].phases.size(); ++k) {
            const ReviewedPhase& phase = review.postures[i].phases[k];
            Mark mark = Mark::Within;
            for (const JudgedValue& v : phase.values)
                mark = worse(mark, markOf(review, i, k, v));
            if (mark != Mark::Within) drawMark(p, {xOf(phase.student.time), kMarks / 2}, 13, mark, m_theme);
        }
    }
}

/// Repaints only where the two hands were and are.
void RibbonView::followMoment()
{
    if (!m_playhead.scene()) return;
    for (const double x :
         {xOf(m_playhead.time()), xOfReference(m_playhead.referenceTime()), m_drawnHands[0], m_drawnHands[1]})
        update(static_cast<int>(x) - 7, 0, 15, height());
}

void RibbonView::paintEvent(QPaintEvent*)
{
    if (!m_playhead.scene()) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    m_still.paint(p, *this, m_playhead.sharedScene(), [this](QPainter& still) {
        drawWeight(still);
        drawBreath(still);
        drawThreads(still);
        drawLane(still, false);
        drawLane(still, true);
        drawMarks(still);
    });
    drawChosen(p, false);
    drawChosen(p, true);
    m_drawnHands = {xOf(m_playhead.time()), xOfReference(m_playhead.referenceTime())};
    const auto [x, xReference] = m_drawnHands;
    p.setPen(QPen(m_theme.lantern, 2));
    p.drawLine(QPointF(x, kMarks - 2), QPointF(x, lane(3).bottom()));
    p.drawLine(QPointF(xReference, lane(2).top() - 3), QPointF(xReference, lane(2).bottom()));
    p.setBrush(m_theme.lantern);
    p.drawEllipse(QPointF(x, kMarks + 1), 4, 5);
    if (hasFocus()) {
        p.setPen(QPen(m_theme.indigo, 1, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    }
}

double RibbonView::timeAt(const QPointF& position) const
{
    const ReviewScene& b = *m_playhead.scene();
    const QRectF r = lane(0);
    const double share = std::clamp((position.x() - r.left()) / r.width(), 0.0, 1.0);
    const bool reference = position.y() >= lane(2).top() - kThread / 2;
    return reference ? b.studentTimeAt(share * b.referenceDuration) : share * b.student.track.duration();
}

void RibbonView::mousePressEvent(QMouseEvent* event)
{
    if (!m_playhead.scene()) return;
    m_playhead.setPlaying(false);
    m_playhead.moveTo(timeAt(event->position()));
}

void RibbonView::mouseMoveEvent(QMouseEvent* event)
{
    if (m_playhead.scene() && event->buttons() & Qt::LeftButton) m_playhead.passTo(timeAt(event->position()));
}

void RibbonView::keyPressEvent(QKeyEvent* event)
{
    switch (event->key()) {
    case Qt::Key_Left:
        return m_playhead.stepFrames(-1);
    case Qt::Key_Right:
        return m_playhead.stepFrames(1);
    default:
        QWidget::keyPressEvent(event);
    }
}

} // namespace jl
