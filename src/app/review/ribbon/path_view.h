#pragma once
#include "app/review/bench/still_picture.h"
#include "app/review/model/playhead.h"
#include "app/theme/theme.h"
#include <QTransform>
#include <QWidget>
#include <utility>

namespace jl
{

/// The floor from above: footprints as stepped, the line of travel, a numbered lantern for every posture with
/// its worst mark, and the reference's footprints pale beneath. A click on a lantern or a footprint goes
/// there.
class PathView : public QWidget
{
    Q_OBJECT

public:
    PathView(Playhead& playhead, const Theme& theme, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {240, 300}; }

    /// Where the lantern of a posture hangs, for tests; none where it was not found.
    std::optional<QPointF> lanternOf(std::size_t posture) const;

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    QTransform toScreen() const;
    std::vector<std::optional<QPointF>> lanterns() const;
    void drawFloor(QPainter& painter, const QTransform& map) const;
    void drawPath(QPainter& painter, const QTransform& map, const FloorPath& path, bool reference) const;
    void drawStandingFeet(QPainter& painter, const QTransform& map) const;
    void drawLanterns(QPainter& painter) const;

    Playhead& m_playhead;
    const Theme& m_theme;
    StillPicture m_still; ///< floor and footprints
};

} // namespace jl
