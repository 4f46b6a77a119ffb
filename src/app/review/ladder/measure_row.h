#pragma once
#include "app/theme/mark.h"
#include <QAbstractButton>

namespace jl
{

/// One measure in the ladder: name, value, and a bar with the allowed band, a notch for the reference and a
/// dot with its uncertainty for the student. A button: choosing it draws the measure on the bodies.
class MeasureRow : public QAbstractButton
{
    Q_OBJECT

public:
    MeasureRow(Measure measure, const Theme& theme, QWidget* parent = nullptr);

    Measure measure() const { return m_measure; }
    void setValue(const JudgedValue& value, Mark mark);
    Mark mark() const { return m_mark; }
    QSize sizeHint() const override { return {300, height()}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    Measure m_measure;
    const Theme& m_theme;
    JudgedValue m_value;
    Mark m_mark = Mark::CannotTell;
};

} // namespace jl
