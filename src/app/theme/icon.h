#pragma once
#include <QColor>
#include <QIcon>

namespace jl
{

/// A shipped line icon in a colour of the theme.
QIcon icon(const QString& name, const QColor& colour);

} // namespace jl
