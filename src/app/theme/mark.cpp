#include "app/theme/mark.h"
#include <QCoreApplication>
#include <QPainter>
#include <QPainterPath>

namespace jl
{

QString markName(Mark mark)
{
    switch (mark) {
    case Mark::Within:
        return QCoreApplication::translate("Mark", "within the band");
    case Mark::Watch:
        return QCoreApplication::translate("Mark", "worth watching");
    case Mark::Fault:
        return QCoreApplication::translate("Mark", "fault");
    case Mark::Safety:
        return QCoreApplication::translate("Mark", "safety");
    case Mark::CannotTell:
        return QCoreApplication::translate("Mark", "cannot tell from this view");
    }
    return {};
}

QColor markColour(Mark mark, const Theme& t)
{
    switch (mark) {
    case Mark::Within:
        return t.pine;
    case Mark::Watch:
        return t.ochre;
    case Mark::Fault:
    case Mark::Safety:
        return t.lantern;
    case Mark::CannotTell:
        return t.quiet;
    }
    return t.ink;
}

void drawMark(QPainter& p, const QPointF& c, double size, Mark mark, const Theme& theme)
{
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QColor colour = markColour(mark, theme);
    const double r = size / 2 - 1;
    p.setPen(QPen(colour, 2));
    p.setBrush(Qt::NoBrush);
    switch (mark) {
    case Mark::Within:
        p.drawEllipse(c, r, r);
        break;
    case Mark::Watch: {
        p.drawEllipse(c, r, r);
        p.setBrush(colour);
        p.setPen(Qt::NoPen);
        p.drawPie(QRectF(c.x() - r, c.y() - r, 2 * r, 2 * r), -90 * 16, 180 * 16);
        break;
    }
    case Mark::Fault: {
        QPainterPath wedge;
        wedge.moveTo(c.x() - r, c.y() - r);
        wedge.lineTo(c.x() + r + 1, c.y());
        wedge.lineTo(c.x() - r, c.y() + r);
        wedge.closeSubpath();
        p.setPen(Qt::NoPen);
        p.fillPath(wedge, colour);
        break;
    }
    case Mark::Safety: {
        p.setPen(Qt::NoPen);
        p.setBrush(colour);
        p.drawRoundedRect(QRectF(c.x() - r, c.y() - r, 2 * r, 2 * r), 2, 2);
        p.setBrush(theme.onAccent);
        p.drawRect(QRectF(c.x() - r * 0.6, c.y() - 1, r * 1.2, 2));
        break;
    }
    case Mark::CannotTell:
        p.setPen(QPen(colour, 1.5, Qt::CustomDashLine));
        {
            QPen pen(colour, 1.5);
            pen.setDashPattern({2, 1.6});
            p.setPen(pen);
        }
        p.drawEllipse(c, r, r);
        break;
    }
    p.restore();
}

namespace
{

Mark markOf(Severity severity)
{
    return severity == Severity::Safety  ? Mark::Safety
           : severity == Severity::Fault ? Mark::Fault
                                         : Mark::Watch;
}

/// The mark of the finding that `is` about the value; without one, a value outside of its band is worth a
/// look.
template <class Is>
Mark markOfValue(const Review& review, std::size_t posture, std::size_t phase, Status status, double excess,
                 double u, Is is)
{
    if (status == Status::Unseen) return Mark::CannotTell;
    for (const Finding& f : review.findings)
        if (f.posture == posture && f.phase == phase && is(f)) return markOf(f.severity);
    return std::abs(excess) > u ? Mark::Watch : Mark::Within;
}

} // namespace

Mark markOf(const Review& review, std::size_t posture, std::size_t phase, const JudgedValue& v)
{
    return markOfValue(review, posture, phase, v.status, v.band ? v.band->excess(v.value.value) : 0,
                       v.value.u, [&](const Finding& f) { return f.measure == v.value.measure; });
}

Mark markOf(const Review& review, std::size_t posture, std::size_t phase, const JudgedWhole& v)
{
    return markOfValue(review, posture, phase, v.status,
                       v.band && v.value.isGiven() ? v.band->excess(v.value.value) : 0, v.value.u,
                       [&](const Finding& f) { return f.whole == v.value.measure; });
}

namespace
{

Mark gravest(const Review& review, std::size_t posture, std::optional<std::size_t> phase)
{
    Mark mark = Mark::Within;
    for (const Finding& f : review.findings) {
        if (f.posture != posture || (phase && f.phase != *phase)) continue;
        mark = worse(mark, markOf(f.severity));
    }
    return mark;
}

} // namespace

Mark markOf(const Review& review, std::size_t posture, std::size_t phase)
{
    if (!review.postures[posture].phases[phase].student.matched) return Mark::CannotTell;
    return gravest(review, posture, phase);
}

Mark markOf(const Review& review, std::size_t posture)
{
    const PostureStatus status = review.postures[posture].status;
    if (status == PostureStatus::NotFilmed) return Mark::CannotTell;
    return gravest(review, posture, {});
}

Mark worse(Mark a, Mark b)
{
    const auto rank = [](Mark m) { return m == Mark::CannotTell ? -1 : static_cast<int>(m); };
    return rank(a) >= rank(b) ? a : b;
}

} // namespace jl
