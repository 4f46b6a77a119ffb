#pragma once
#include "draw/theme.h"
#include <QFont>
#include <QString>

class QApplication;

namespace jl
{

/// Loads the shipped typeface and gives the application its font, palette and control styles.
void dress(QApplication& application, const Theme& theme);

/// The interface font in a size relative to the base (1 = base) and a weight.
QFont textFont(double size = 1, int weight = QFont::Normal);

} // namespace jl
