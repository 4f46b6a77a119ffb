#include "app/theme/label.h"
#include <QLabel>

namespace jl
{

QLabel* label(const QString& text, double size, int weight, const QColor& colour, QWidget* parent)
{
    auto* l = new QLabel(text, parent);
    l->setFont(textFont(size, weight));
    QPalette p = l->palette();
    p.setColor(QPalette::WindowText, colour);
    l->setPalette(p);
    return l;
}

} // namespace jl
