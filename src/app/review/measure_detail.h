#pragma once
#include "app/review/playhead.h"
#include "app/theme/theme.h"
#include "form/measure_course.h"
#include <QWidget>

class QLabel;

namespace jl
{

/// What lies behind the chosen value: its course over the phase (student, reference, allowed band), its
/// definition, where it was read, and how it stood last time.
class MeasureDetail : public QWidget
{
    Q_OBJECT

public:
    MeasureDetail(Playhead& playhead, const Theme& theme, QWidget* parent = nullptr);

    /// Follows the playhead's phase and measure.
    void refresh();
    const MeasureCourse& studentCourse() const { return m_student; }

private:
    class Course;
    QString words(const JudgedValue& value, const ReviewedPhase& phase) const;

    Playhead& m_playhead;
    const Theme& m_theme;
    Course* m_course = nullptr;
    QLabel* m_words = nullptr;
    MeasureCourse m_student, m_reference;
    std::tuple<const ReviewBundle*, std::size_t, std::size_t, Measure> m_shown{};
};

} // namespace jl
