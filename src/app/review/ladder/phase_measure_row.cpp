#include "app/review/ladder/phase_measure_row.h"
#include "app/review/ladder/band_bar.h"
#include "app/review/ladder/row_heights.h"
#include "app/review/paint/words.h"
#include <QPainter>

namespace jl
{
namespace
{

QString text(std::string_view s)
{
    return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

} // namespace

PhaseMeasureRow::PhaseMeasureRow(PhaseMeasure measure, const Theme& theme, QWidget* parent)
    : QWidget(parent), m_measure(measure), m_theme(theme)
{
    const PhaseMeasureInfo& info = phaseMeasureInfo(measure);
    setToolTip(text(info.definition));
    setAccessibleName(text(info.name));
    setObjectName("phase." + text(info.key));
    setFocusPolicy(Qt::TabFocus);
}

void PhaseMeasureRow::setValue(const JudgedWhole& value, Mark mark)
{
    m_value = value;
    m_mark = mark;
    setVisible(value.value.isGiven());
    setFixedHeight(value.status == Status::Unseen ? kUnseenHeight : kSeenHeight);
    setAccessibleDescription(value.status == Status::Unseen
                                 ? markName(Mark::CannotTell)
                                 : valueText(m_measure, value.value.value) + ", " + markName(mark));
    update();
}

void PhaseMeasureRow::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (hasFocus()) {
        p.setPen(QPen(m_theme.indigo, 1.5));
        p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 8, 8);
    }
    const QRectF inner = QRectF(rect()).adjusted(10, 2, -10, -2);
    const bool unseen = m_value.status == Status::Unseen;
    p.setFont(textFont(1.0));
    p.setPen(unseen ? m_theme.quiet : m_theme.ink);
    p.drawText(inner, Qt::AlignLeft | Qt::AlignTop, text(phaseMeasureInfo(m_measure).name));
    p.setFont(textFont(1.0, QFont::DemiBold));
    p.setPen(unseen || m_mark == Mark::Within ? (unseen ? m_theme.quiet : m_theme.ink)
                                              : markColour(m_mark, m_theme));
    p.drawText(inner, Qt::AlignRight | Qt::AlignTop,
               unseen ? tr("cannot tell") : valueText(m_measure, m_value.value.value, m_value.value.u));
    if (!unseen)
        drawBandBar(p, QRectF(inner.left(), inner.top() + 22, inner.width(), 8),
                    {m_value.value.value, m_value.value.u, m_value.band, m_value.reference, m_mark}, m_theme);
    QString note = unseen          ? tr("this view does not give it well enough")
                   : !m_value.band ? tr("nothing is asked of this here")
                                   : tr("allowed %1 to %2")
                                         .arg(valueText(m_measure, m_value.band->low),
                                              valueText(m_measure, m_value.band->high));
    if (m_value.status == Status::Weak) note += tr(" · uncertain");
    p.setFont(textFont(0.85));
    p.setPen(m_theme.quiet);
    p.drawText(QRectF(inner.left(), inner.top() + (unseen ? 16 : 30), inner.width(), 16), Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(note, Qt::ElideRight, inner.width()));
}

} // namespace jl
