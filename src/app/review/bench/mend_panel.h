#pragma once
#include "app/review/bench/mending_view.h"
#include "app/review/model/open_review.h"

class QDoubleSpinBox;
class QLabel;
class QPushButton;

namespace jl
{

/// Beneath the bench while something is mended: what to correct (joints, a length on the floor, the wall's
/// foot, the student's height), and how well the camera is known by it. Every change is kept at once, apart
/// from what was extracted, and can be undone; then the review is made again.
class MendPanel : public QWidget
{
    Q_OBJECT

public:
    MendPanel(const Context& context, OpenReview& review, MendingView& view, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    QLayout* buildTools();
    QLayout* buildWords();
    void showClip();
    void choose(MendingView::Tool tool);
    void placePoint(Landmark landmark, const QPointF& pixel);
    void drawLine(const QPointF& from, const QPointF& to);
    void keep(const ClipKnowledge& known, const QString& what);
    void keepHeight(double height);
    void showMoment();
    void showCamera();

    Library& m_library;
    const Theme& m_theme;
    OpenReview& m_review;
    Playhead& m_playhead;
    MendingView& m_view;
    qint64 m_clip = 0;
    ClipKnowledge m_known;
    MendingView::Tool m_tool = MendingView::Tool::Points;
    std::optional<std::pair<double, double>> m_cameraBefore; ///< spreads of direction and size in this clip
    std::array<QPushButton*, 3> m_tools{};
    QDoubleSpinBox *m_length = nullptr, *m_height = nullptr;
    QLabel *m_hint = nullptr, *m_camera = nullptr;
    QPushButton* m_clear = nullptr;
};

} // namespace jl
