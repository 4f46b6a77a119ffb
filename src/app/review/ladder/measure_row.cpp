#include "app/review/ladder/measure_row.h"
#include "app/review/ladder/band_bar.h"
#include "app/review/ladder/row_heights.h"
#include "app/review/paint/words.h"
#include <QPainter>

namespace jl
{

namespace
{

/// What would help where no value is given.
QString unseenNote(Measure measure, const Value& value)
{
    if (value.view == View::Both) // nothing better can be filmed
        return value.seen()
                   ? MeasureRow::tr("even both clips leave ± %1").arg(valueText(measure, 2 * value.u))
                   : MeasureRow::tr("the two clips do not agree here");
    const std::string_view from = measureInfo(measure).shownFrom;
    return MeasureRow::tr("would show from %1")
        .arg(QString::fromUtf8(from.data(), static_cast<qsizetype>(from.size())));
}

} // namespace

MeasureRow::MeasureRow(Measure measure, const Theme& theme, QWidget* parent)
    : QAbstractButton(parent), m_measure(measure), m_theme(theme)
{
    setCheckable(true);
    setAutoExclusive(false);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setFixedHeight(kSeenHeight);
    const MeasureInfo& info = measureInfo(measure);
    setToolTip(QString::fromUtf8(info.definition.data(), static_cast<qsizetype>(info.definition.size())));
    setObjectName("measure." + QString::fromUtf8(info.key.data(), static_cast<qsizetype>(info.key.size())));
}

void MeasureRow::setValue(const JudgedValue& value, Mark mark)
{
    m_value = value;
    m_mark = mark;
    setFixedHeight(value.status == Status::Unseen ? kUnseenHeight : kSeenHeight);
    const MeasureInfo& info = measureInfo(m_measure);
    const QString name = QString::fromUtf8(info.name.data(), static_cast<qsizetype>(info.name.size()));
    setAccessibleName(name);
    setAccessibleDescription(value.status == Status::Unseen
                                 ? markName(Mark::CannotTell) + ", " + unseenNote(m_measure, value.value)
                                 : spokenValue(m_measure, value.value.value) + ", " + markName(mark));
    update();
}

void MeasureRow::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (isChecked() || underMouse()) {
        p.setPen(Qt::NoPen);
        QColor back = m_theme.chosen;
        if (!isChecked()) back.setAlpha(120);
        p.setBrush(back);
        p.drawRoundedRect(rect(), 8, 8);
    }
    if (hasFocus()) {
        p.setPen(QPen(m_theme.indigo, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 8, 8);
    }
    const QRectF inner = QRectF(rect()).adjusted(10, 2, -10, -2);
    const bool unseen = m_value.status == Status::Unseen;
    const MeasureInfo& info = measureInfo(m_measure);
    p.setFont(textFont(1.0));
    p.setPen(unseen ? m_theme.quiet : m_theme.ink);
    p.drawText(inner, Qt::AlignLeft | Qt::AlignTop,
               QString::fromUtf8(info.name.data(), static_cast<qsizetype>(info.name.size())));
    p.setFont(textFont(1.0, QFont::DemiBold));
    p.setPen(unseen ? m_theme.quiet : m_mark == Mark::Within ? m_theme.ink : markColour(m_mark, m_theme));
    const QString unit = unitText(m_measure);
    const bool withSign = m_measure == Measure::KneeLeadPastToe || m_measure == Measure::KneeLeadTrack;
    QString shown = unseen ? tr("cannot tell")
                           : valueText(m_measure, m_value.value.value, withSign) + " ± " +
                                 valueText(m_measure, 2 * m_value.value.u);
    if (!unseen) shown.replace(unit + " ±", " ±"); // the unit once
    p.drawText(inner, Qt::AlignRight | Qt::AlignTop, shown);
    if (!unseen)
        drawBandBar(p, QRectF(inner.left(), inner.top() + 22, inner.width(), 8),
                    {m_value.value.value, m_value.value.u, m_value.band, m_value.reference, m_mark}, m_theme);
    p.setFont(textFont(0.85));
    p.setPen(m_theme.quiet);
    QString note;
    if (unseen)
        note = unseenNote(m_measure, m_value.value);
    else if (m_value.band)
        note = bandText(m_measure, *m_value.band) +
               (m_value.reference ? tr(" · reference %1").arg(valueText(m_measure, *m_value.reference))
                                  : QString());
    else
        note = tr("nothing is asked of this here");
    if (m_value.capped && !unseen) note += tr(" · own limit");
    if (m_value.status == Status::Weak) note += tr(" · uncertain");
    const QFontMetricsF metrics(p.font());
    p.drawText(QRectF(inner.left(), inner.top() + (unseen ? 16 : 30), inner.width(), 16), Qt::AlignVCenter,
               metrics.elidedText(note, Qt::ElideRight, inner.width()));
}

} // namespace jl
