#pragma once
#include "app/review/bench/picture_view.h"
#include "camera/clip_knowledge.h"

namespace jl
{

/// Whether a repair is of a joint at a frame's time, s.
bool isOf(const JointRepair& repair, Landmark landmark, double time);

/// The student's picture in which wrong points can be corrected and the room be made known: joints are
/// dragged to where they belong, lengths and the wall's foot are drawn on the floor. It only says what was
/// done; storing it and measuring again are the owner's work.
class MendingView : public PictureView
{
    Q_OBJECT

public:
    enum class Tool { None, Points, Floor, Wall };

    using PictureView::PictureView;

    void setTool(Tool tool);
    Tool tool() const { return m_tool; }
    /// What was mended before: points at this moment are filled, lines are drawn.
    void setKnowledge(const ClipKnowledge& known, double time);
    /// The joint that keys move; none until one was chosen.
    std::optional<Landmark> chosen() const { return m_chosen; }

    /// Where a joint is drawn; outside of any where the body is not seen.
    QPointF placeOf(Landmark landmark) const;

signals:
    /// In the clip's pixels, as filmed.
    void pointPlaced(jl::Landmark landmark, const QPointF& pixel);
    void lineDrawn(const QPointF& from, const QPointF& to);

protected:
    void paintOver(QPainter& painter) const override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    std::optional<Landmark> nearest(const QPointF& at) const;
    void chooseNext(int direction);
    void nudge(const QPointF& pixels);
    void paintPoints(QPainter& painter) const;
    void paintLines(QPainter& painter) const;

    Tool m_tool = Tool::None;
    ClipKnowledge m_known;
    double m_time = 0;
    std::optional<Landmark> m_chosen;
    std::optional<QPointF> m_dragged; ///< on the screen, while a joint or a line's end is held
    QPointF m_start;                  ///< of a line, on the screen
};

} // namespace jl
