#pragma once
#include "app/theme/theme.h"
#include <QStringList>
#include <QWidget>

namespace jl
{

/// The cautions of a review and its notes: the first in one line, all of them unfolded on demand.
class CautionLine : public QWidget
{
    Q_OBJECT

public:
    CautionLine(const QStringList& lines, const Theme& theme, QWidget* parent = nullptr);
};

} // namespace jl
