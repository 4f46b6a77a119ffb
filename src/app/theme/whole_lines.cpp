#include "app/theme/whole_lines.h"
#include <QEvent>
#include <QLabel>
#include <QPainter>
#include <QScrollArea>
#include <QScrollBar>

namespace jl
{
namespace
{

bool isLeaf(const QWidget& widget)
{
    const auto children = widget.findChildren<QWidget*>(Qt::FindDirectChildrenOnly);
    return std::none_of(children.begin(), children.end(), [](const QWidget* c) { return c->isVisible(); });
}

/// Where the last whole line of a widget ends that is cut at `edge`, in the coordinates of its top.
int wholeUntil(const QWidget& widget, int top, int edge)
{
    const auto* label = qobject_cast<const QLabel*>(&widget);
    if (!label || !label->wordWrap()) return top;
    const int line = label->fontMetrics().lineSpacing();
    return top + std::max(0, edge - top) / line * line;
}

} // namespace

WholeLines::WholeLines(QScrollArea& area, const Theme& theme)
    : QWidget(area.viewport()), m_area(area), m_theme(theme)
{
    setAttribute(Qt::WA_TransparentForMouseEvents);
    m_soon.setSingleShot(true);
    m_soon.setInterval(0);
    connect(&m_soon, &QTimer::timeout, this, &WholeLines::place);
    area.viewport()->installEventFilter(this);
    area.widget()->installEventFilter(this);
    connect(area.verticalScrollBar(), &QScrollBar::valueChanged, this, &WholeLines::place);
    connect(area.verticalScrollBar(), &QScrollBar::rangeChanged, &m_soon, qOverload<>(&QTimer::start));
}

bool WholeLines::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::Resize || event->type() == QEvent::LayoutRequest) m_soon.start();
    return QWidget::eventFilter(watched, event);
}

void WholeLines::place()
{
    const QWidget* viewport = m_area.viewport();
    const int edge = viewport->height();
    int from = edge;
    for (const QWidget* w : m_area.widget()->findChildren<QWidget*>()) {
        if (!w->isVisible() || !isLeaf(*w)) continue;
        const int top = w->mapTo(viewport, QPoint(0, 0)).y(), bottom = top + w->height();
        // What fills the whole height is no line: it may be cut.
        if (top > 0 && top < edge && bottom > edge) from = std::min(from, wholeUntil(*w, top, edge));
    }
    setGeometry(0, from, viewport->width(), edge - from);
    setVisible(from < edge);
    raise();
}

void WholeLines::paintEvent(QPaintEvent*)
{
    QPainter(this).fillRect(rect(), m_theme.ground);
}

} // namespace jl
