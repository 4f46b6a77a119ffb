#pragma once
#include <QColor>
#include <QIcon>

class QAbstractButton;

namespace jl
{

struct Theme;

/// A shipped line icon in a colour of the theme.
QIcon icon(const QString& name, const QColor& colour);

/// Makes a small square button of an icon, which turns light when the button is down.
void setPictured(QAbstractButton& button, const QString& name, const Theme& theme);

} // namespace jl
