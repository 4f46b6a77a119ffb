#include "app/theme/label.h"
#include <QPainter>

namespace jl
{

namespace
{

void dressed(QLabel& l, double size, int weight, const QColor& colour)
{
    l.setFont(textFont(size, weight));
    QPalette p = l.palette();
    p.setColor(QPalette::WindowText, colour);
    l.setPalette(p);
}

} // namespace

QLabel* label(const QString& text, double size, int weight, const QColor& colour, QWidget* parent)
{
    auto* l = new QLabel(text, parent);
    dressed(*l, size, weight, colour);
    return l;
}

QLabel* paragraph(const QString& text, double size, int weight, const QColor& colour, QWidget* parent)
{
    QLabel* lines = label(text, size, weight, colour, parent);
    lines->setWordWrap(true);
    return lines;
}

ElidedLabel::ElidedLabel(double size, int weight, const QColor& colour, QWidget* parent) : QLabel(parent)
{
    dressed(*this, size, weight, colour);
}

QSize ElidedLabel::minimumSizeHint() const
{
    constexpr int some = 40; // pixels, of the beginning
    return {some, QLabel::minimumSizeHint().height()};
}

void ElidedLabel::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const QString shown = fontMetrics().elidedText(text(), Qt::ElideRight, width());
    if (const QString tip = shown == text() ? QString() : text(); toolTip() != tip) setToolTip(tip);
    p.setPen(palette().color(QPalette::WindowText));
    p.drawText(rect(), Qt::AlignVCenter | Qt::AlignLeft, shown);
}

} // namespace jl
