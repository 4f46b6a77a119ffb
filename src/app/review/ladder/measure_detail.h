#pragma once
#include "app/review/model/playhead.h"
#include "app/review/paint/words.h"
#include "app/theme/theme.h"
#include "reading/measure_course.h"
#include <QWidget>
#include <map>
#include <memory>
#include <optional>

class QLabel;

namespace jl
{

class HistorySpark;

/// What lies behind the chosen value: its course over the phase (student, reference, allowed band), its
/// definition, where it was read, and how it stood in earlier lessons.
class MeasureDetail : public QWidget
{
    Q_OBJECT

public:
    MeasureDetail(Playhead& playhead, const Theme& theme, QWidget* parent = nullptr);

    /// Follows the playhead's phase and measure.
    void refresh();
    const MeasureCourse& studentCourse() const { return m_courses->student; }

private:
    class Course;
    QString words(const JudgedValue& value, const ReviewedPhase& phase) const;
    QStringList heightWords() const;
    void showHistory(const JudgedValue& value, const ReviewedPhase& phase);

    Playhead& m_playhead;
    const Theme& m_theme;
    Course* m_course = nullptr;
    HistorySpark* m_history = nullptr;
    QLabel* m_words = nullptr;
    /// Of a phase, for one measure; kept while the review is shown, since scrubbing comes by again and again.
    struct Courses {
        MeasureCourse student, reference;
    };
    using Shown = std::tuple<std::size_t, std::size_t, Measure>;
    const Courses& coursesOf(const Shown& shown, const FoundPhase& phase);

    std::weak_ptr<const ReviewScene> m_scene; ///< the one that the courses are of
    std::map<Shown, Courses> m_known;
    std::optional<Shown> m_shown;
    LengthUnit m_lengths = LengthUnit::Centimetres; ///< in which it is shown
    const Courses* m_courses = nullptr;
};

} // namespace jl
