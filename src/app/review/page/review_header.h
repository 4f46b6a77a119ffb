#pragma once
#include "app/review/model/open_review.h"
#include "app/review/share/review_exporter.h"
#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;

namespace jl
{

/// The head of a review: who is seen, which clip with which other view, against which reference, of which
/// form; limits and export.
class ReviewHeader : public QWidget
{
    Q_OBJECT

public:
    ReviewHeader(OpenReview& review, const Context& context, QWidget* parent = nullptr);

signals:
    void exportWanted(jl::ReviewExport what);

private:
    void nameStudent();
    void fillClips();
    void fillForms();
    void fill();
    void choose();
    void editLimits();
    void exportAs(ReviewExport what);

    OpenReview& m_review;
    Context m_context;
    QLabel *m_name = nullptr, *m_about = nullptr;
    QPushButton* m_limits = nullptr;
    QComboBox *m_clip = nullptr, *m_second = nullptr, *m_reference = nullptr, *m_form = nullptr;
};

} // namespace jl
