#pragma once
#include "app/theme/theme.h"

class QLabel;
class QWidget;

namespace jl
{

/// A line of text in a size relative to the base, a weight and a colour of the theme.
QLabel* label(const QString& text, double size, int weight, const QColor& colour, QWidget* parent);

} // namespace jl
