#pragma once
#include "app/theme/theme.h"
#include "review/review.h"
#include <QDialog>

class QCheckBox;
class QLineEdit;
class QPlainTextEdit;

namespace jl
{

/// What the instructor sees herself at a moment: a heading, what to do, a drill, and the measure it is about.
class OwnFindingDialog : public QDialog
{
    Q_OBJECT

public:
    OwnFindingDialog(Seconds time, Measure measure, const Theme& theme, QWidget* parent = nullptr);

    OwnFinding finding() const;

private:
    Seconds m_time;
    Measure m_measure;
    QLineEdit *m_title = nullptr, *m_drill = nullptr;
    QPlainTextEdit* m_cue = nullptr;
    QCheckBox* m_about = nullptr;
};

} // namespace jl
