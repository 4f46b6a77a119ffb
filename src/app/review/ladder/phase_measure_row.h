#pragma once
#include "app/theme/mark.h"
#include <QWidget>

namespace jl
{

/// One measure of a phase as a whole in the ladder's timing rung: name, value and bar.
class PhaseMeasureRow : public QWidget
{
    Q_OBJECT

public:
    PhaseMeasureRow(PhaseMeasure measure, const Theme& theme, QWidget* parent = nullptr);

    PhaseMeasure measure() const { return m_measure; }
    /// Hides itself where the phase has no such value.
    void setValue(const JudgedWhole& value, Mark mark);
    Mark mark() const { return m_mark; }
    QSize sizeHint() const override { return {300, height()}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    PhaseMeasure m_measure;
    const Theme& m_theme;
    JudgedWhole m_value;
    Mark m_mark = Mark::CannotTell;
};

} // namespace jl
