#pragma once
#include "app/review/bench/still_picture.h"
#include "app/review/model/playhead.h"
#include "app/theme/theme.h"
#include "base/units.h"
#include <QWidget>
#include <array>

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
    /// The moment under a point, in the student's clip.
    double timeAt(const QPointF& position) const;
    void followMoment();
    /// Where a phase lies on a lane.
    struct Stretch {
        std::size_t posture, phase;
        Pixels from, to;
    };
    std::vector<Stretch> stretches(bool reference) const;
    void drawName(QPainter& painter, bool reference, std::size_t posture, double from, double to) const;
    void drawLane(QPainter& painter, bool reference) const;
    void drawWeight(QPainter& painter) const;
    void drawBreath(QPainter& painter) const;
    void drawThreads(QPainter& painter) const;
    void drawMarks(QPainter& painter) const;
    void drawChosen(QPainter& painter, bool reference) const;

    Playhead& m_playhead;
    const Theme& m_theme;
    std::array<double, 2> m_drawnHands{}; ///< where the two playheads were painted last
    StillPicture m_still;                 ///< everything but where one looks now
};

} // namespace jl
