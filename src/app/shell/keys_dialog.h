#pragma once
#include "app/theme/theme.h"
#include <QDialog>

namespace jl
{

/// All keys of a place and of its window: of shortcuts with what they are for, and of buttons that have one.
class KeysDialog : public QDialog
{
    Q_OBJECT

public:
    KeysDialog(QWidget& place, const Theme& theme);
};

} // namespace jl
