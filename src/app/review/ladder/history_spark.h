#pragma once
#include "app/theme/theme.h"
#include "review/review_record.h"
#include <QWidget>

namespace jl
{

/// One measure of one phase over a student's lessons, the oldest on the left and this one on the right, each
/// with two standard uncertainties against the band. Hidden where there is no earlier one.
class HistorySpark : public QWidget
{
    Q_OBJECT

public:
    explicit HistorySpark(const Theme& theme, QWidget* parent = nullptr);

    struct Lesson {
        double value = 0, u = 0;
    };
    /// The last lesson is this one.
    void setLessons(Measure measure, std::vector<Lesson> lessons, const std::optional<Band>& band);
    const std::vector<Lesson>& lessons() const { return m_lessons; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    const Theme& m_theme;
    Measure m_measure = Measure::KneeLeadFlexion;
    std::vector<Lesson> m_lessons;
    std::optional<Band> m_band;
};

} // namespace jl
