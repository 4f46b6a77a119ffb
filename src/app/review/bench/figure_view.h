#pragma once
#include "app/review/model/playhead.h"
#include "app/theme/theme.h"
#include "camera/camera.h"
#include <QWidget>

namespace jl
{

/// Both bodies in the room, turnable: the student as an ink figure, the reference as an outline on the same
/// feet, the floor with its eight directions, what of the soles carries, and the point under the centre of
/// mass.
class FigureView : public QWidget
{
    Q_OBJECT

public:
    FigureView(Playhead& playhead, const Theme& theme, QWidget* parent = nullptr);

    /// Front, side and top against the posture's direction, in turn.
    enum class Direction { Front, Side, Top };
    void look(Direction from);
    void lookNext();
    double azimuth() const { return m_azimuth; }
    double elevation() const { return m_elevation; }
    void setShowsReference(bool shows);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    Camera cameraOn(const BodyPoints& body) const;
    void drawFloor(QPainter& painter, const Camera& camera, const BodyPoints& body, double heading) const;
    void drawSupport(QPainter& painter, const Camera& camera, const BodyPoints& body) const;
    void drawWords(QPainter& painter) const;

    Playhead& m_playhead;
    const Theme& m_theme;
    double m_azimuth = 60, m_elevation = 12; ///< deg, against the posture's direction
    double m_zoom = 1;
    int m_next = 0;
    bool m_showsReference = true;
    QPointF m_grip;
};

} // namespace jl
