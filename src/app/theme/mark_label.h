#pragma once
#include "app/theme/mark.h"
#include <QWidget>

namespace jl
{

/// A status shape as a small widget; its name is its tip.
class MarkLabel : public QWidget
{
    Q_OBJECT

public:
    MarkLabel(Mark mark, const Theme& theme, QWidget* parent);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    Mark m_mark;
    const Theme& m_theme;
};

} // namespace jl
