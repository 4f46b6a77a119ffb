#pragma once
#include "app/theme/theme.h"

#include <QLabel>

namespace jl
{

/// A line of text in a size relative to the base, a weight and a colour of the theme.
QLabel* label(const QString& text, double size, int weight, const QColor& colour, QWidget* parent);

/// The same as a paragraph that wraps.
QLabel* paragraph(const QString& text, double size, int weight, const QColor& colour, QWidget* parent);

/// The same where there may be too little room: it ends in three dots then, and its tip has the whole.
class ElidedLabel : public QLabel
{
    Q_OBJECT

public:
    ElidedLabel(double size, int weight, const QColor& colour, QWidget* parent);
    QSize minimumSizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;
};

} // namespace jl
