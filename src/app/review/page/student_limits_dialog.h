#pragma once
#include "app/theme/theme.h"
#include "library/library.h"
#include <QDialog>

class QCheckBox;
class QComboBox;
class QDateEdit;
class QLineEdit;
class QSpinBox;

namespace jl
{

/// What a student's body should not do, in a few controls.
class StudentLimitsDialog : public QDialog
{
    Q_OBJECT

public:
    StudentLimitsDialog(const StudentRow& student, const Theme& theme, QWidget* parent = nullptr);

    /// The student with the limits as set.
    StudentRow student() const;

private:
    QSpinBox* degrees(const char* name, int least, int most, int usual, const std::optional<double>& value,
                      QCheckBox* on);

    StudentRow m_student;
    QCheckBox *m_knee = nullptr, *m_square = nullptr, *m_kicks = nullptr, *m_low = nullptr,
              *m_jumps = nullptr, *m_unsteady = nullptr;
    QSpinBox *m_kneeDegrees = nullptr, *m_squareDegrees = nullptr;
    QComboBox* m_kneeSide = nullptr;
    QCheckBox* m_ends = nullptr;
    QDateEdit* m_until = nullptr;
    QLineEdit* m_words = nullptr;
};

/// The limits of a student in a few words, for a button; "no limits" where there are none.
QString limitsSummary(const StudentRow& student);

} // namespace jl
