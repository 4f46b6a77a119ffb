#include "app/theme/mark_label.h"
#include <QPainter>

namespace jl
{

MarkLabel::MarkLabel(Mark mark, const Theme& theme, QWidget* parent)
    : QWidget(parent), m_mark(mark), m_theme(theme)
{
    setFixedSize(18, 18);
    setToolTip(markName(mark));
    setAccessibleName(markName(mark));
}

void MarkLabel::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    drawMark(p, {9, 9}, 14, m_mark, m_theme);
}

} // namespace jl
