#pragma once
#include "app/review/bench/mending_view.h"
#include "app/review/page/playhead.h"
#include "app/shell/context.h"

class QDoubleSpinBox;
class QLabel;
class QPushButton;
class QUndoStack;

namespace jl
{

/// Beneath the bench while something is mended: what to put right (joints, a length on the floor, the wall's
/// foot, the student's height), and how well the camera is known by it. Every change is kept at once, apart
/// from what was extracted, and can be undone; changed() asks for measuring anew.
class MendPanel : public QWidget
{
    Q_OBJECT

public:
    MendPanel(const Context& context, Playhead& playhead, QUndoStack& undo, MendingView& view,
              QWidget* parent = nullptr);

    void setClip(qint64 clip, const std::optional<StudentRow>& student);
    const ClipKnowledge& knowledge() const { return m_known; }

signals:
    void changed();
    void message(const QString& text);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void choose(MendingView::Tool tool);
    void placePoint(Landmark landmark, const QPointF& pixel);
    void drawLine(const QPointF& from, const QPointF& to);
    void keep(const ClipKnowledge& known, const QString& what);
    void keepHeight(double height);
    void showMoment();
    void showCamera();

    Library& m_library;
    const Theme& m_theme;
    Playhead& m_playhead;
    QUndoStack& m_undo;
    MendingView& m_view;
    qint64 m_clip = 0;
    std::optional<StudentRow> m_student;
    ClipKnowledge m_known;
    MendingView::Tool m_tool = MendingView::Tool::Points;
    std::optional<std::pair<double, double>> m_cameraBefore; ///< spreads of direction and size in this clip
    std::array<QPushButton*, 3> m_tools{};
    QDoubleSpinBox *m_length = nullptr, *m_height = nullptr;
    QLabel *m_hint = nullptr, *m_camera = nullptr;
    QPushButton* m_clear = nullptr;
};

} // namespace jl
