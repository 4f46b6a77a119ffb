#pragma once
#include "app/theme/theme.h"

class QWidget;

namespace jl
{

/// Gives a window the keys that all have: F1 lists its keys, Ctrl+K finds what can be done in it.
void addWindowKeys(QWidget& window, const Theme& theme);

} // namespace jl
