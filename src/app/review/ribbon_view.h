#pragma once
#include "app/review/playhead.h"
#include "app/theme/theme.h"
#include <QPixmap>
#include <QWidget>

namespace jl
{

/// Two time lines, the student's above and the reference's below, their phases joined by threads; between
/// them the student's weight as a filled band, and the breath that rises and falls. Scrubbing works on either
/// side.
class RibbonView : public QWidget
{
    Q_OBJECT

public:
    RibbonView(Playhead& playhead, const Theme& theme, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {600, 150}; }

    /// Where a student time is drawn, for tests and scrubbing.
    double xOf(double studentTime) const;

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    QRectF lane(int row) const;
    double xOfReference(double referenceTime) const;
    void scrubTo(const QPointF& position);
    void drawLane(QPainter& painter, bool reference) const;
    void drawWeight(QPainter& painter) const;
    void drawBreath(QPainter& painter) const;
    void drawThreads(QPainter& painter) const;
    void drawMarks(QPainter& painter) const;
    void drawStill();

    Playhead& m_playhead;
    const Theme& m_theme;
    QPixmap m_still;
    std::shared_ptr<const ReviewBundle> m_stillOf; ///< what m_still shows
    std::pair<std::size_t, std::size_t> m_stillPhase;
};

} // namespace jl
