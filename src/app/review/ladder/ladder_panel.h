#pragma once
#include "app/review/model/open_review.h"
#include <QWidget>

class QComboBox;

namespace jl
{

class LadderView;

/// The ladder with what its bands come from: the school, and the yardstick.
class LadderPanel : public QWidget
{
    Q_OBJECT

public:
    LadderPanel(OpenReview& review, const Context& context, QWidget* parent = nullptr);

private:
    QLayout* buildHead(LadderView& ladder);
    void fill();
    void choose();

    OpenReview& m_review;
    Context m_context;
    QComboBox *m_school = nullptr, *m_yardstick = nullptr;
};

} // namespace jl
