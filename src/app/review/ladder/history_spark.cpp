#include "app/review/ladder/history_spark.h"
#include "app/review/paint/words.h"
#include <QPainter>
#include <algorithm>
#include <utility>

namespace jl
{
namespace
{

constexpr int kHeight = 46;
constexpr std::size_t kMost = 8; ///< lessons that are shown

} // namespace

HistorySpark::HistorySpark(const Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme)
{
    setObjectName("ladder.history");
    setAccessibleName(tr("Earlier lessons"));
    setToolTip(
        tr("The same measure in earlier lessons, seen from the same view; the last dot is this lesson"));
    setFixedHeight(kHeight);
    hide();
}

void HistorySpark::setLessons(Measure measure, std::vector<Lesson> lessons, const std::optional<Band>& band)
{
    if (lessons.size() > kMost) lessons.erase(lessons.begin(), lessons.end() - kMost);
    m_measure = measure;
    m_lessons = std::move(lessons);
    m_band = band;
    setVisible(m_lessons.size() > 1);
    QStringList values;
    for (const Lesson& l : m_lessons)
        values << valueText(m_measure, l.value);
    setAccessibleDescription(tr("From lesson to lesson: %1").arg(values.join(", ")));
    update();
}

void HistorySpark::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(textFont(0.85));
    const QString words = tr("lesson by lesson");
    const double left = QFontMetricsF(p.font()).horizontalAdvance(words) + 12;
    p.setPen(m_theme.quiet);
    p.drawText(QRectF(2, 0, left, height()), Qt::AlignLeft | Qt::AlignVCenter, words);
    double low = 1e9, high = -1e9;
    for (const Lesson& l : m_lessons) {
        low = std::min(low, l.value - 2 * l.u);
        high = std::max(high, l.value + 2 * l.u);
    }
    if (m_band) {
        low = std::min(low, m_band->low);
        high = std::max(high, m_band->high);
    }
    const double room = std::max(1e-6, high - low);
    const QRectF area(left, 4, width() - left - 6, height() - 8);
    const auto at = [&](std::size_t lesson, double value) {
        const double share = (static_cast<double>(lesson) + 0.5) / static_cast<double>(m_lessons.size());
        return QPointF(area.left() + share * area.width(),
                       area.bottom() - (value - low) / room * area.height());
    };
    if (m_band)
        p.fillRect(QRectF(QPointF(area.left(), at(0, m_band->high).y()),
                          QPointF(area.right(), at(0, m_band->low).y())),
                   m_theme.band);
    for (std::size_t i = 0; i < m_lessons.size(); ++i) {
        const Lesson& l = m_lessons[i];
        const bool now = i + 1 == m_lessons.size();
        const QColor colour = now ? m_theme.ink : m_theme.quiet;
        if (i > 0) {
            p.setPen(QPen(m_theme.line, 1.5));
            p.drawLine(at(i - 1, m_lessons[i - 1].value), at(i, l.value));
        }
        p.setPen(QPen(colour, 1.5));
        p.drawLine(at(i, l.value - 2 * l.u), at(i, l.value + 2 * l.u));
    }
    for (std::size_t i = 0; i < m_lessons.size(); ++i) { // over all lines
        const bool now = i + 1 == m_lessons.size();
        p.setPen(QPen(now ? m_theme.ink : m_theme.quiet, 1.5));
        p.setBrush(now ? m_theme.ink : m_theme.raised);
        p.drawEllipse(at(i, m_lessons[i].value), now ? 4 : 3, now ? 4 : 3);
    }
}

} // namespace jl
