#pragma once
#include "app/jobs/frame_feed.h"
#include "app/theme/theme.h"
#include "base/units.h"
#include "body/track.h"
#include "draw/construction_painter.h"
#include <QPixmap>
#include <QWidget>
#include <memory>

namespace jl
{

/// One performer's picture, cropped steadily to the body, with the body and the chosen measure drawn over it.
/// The wheel or + and - come nearer, dragging moves what is shown, a double click or 0 shows the body again.
class PictureView : public QWidget
{
    Q_OBJECT

public:
    PictureView(const Theme& theme, QWidget* parent = nullptr);

    /// What is drawn over the picture at the shown moment.
    struct Overlay {
        std::optional<BodyFrame> body;
        Side lead = Side::Right;
        Share leadShare = 0.5;
        std::optional<Construction> construction; ///< of the chosen measure
        bool drawFigure = true;
        std::optional<BodyFrame> laidOver; ///< the reference on the student's feet
        QLineF force; ///< where a posture's force goes, in the clip's pixels; null: not shown
    };

    /// Shows another clip; the track gives the steady crop. A null feed empties the view.
    void setSource(std::unique_ptr<FrameFeed> feed, const Track* track, int width, int height);
    void showTime(double time);
    void setOverlay(const Overlay& overlay);
    void setCaption(const QString& caption, const QString& verdict);
    void setWholeFrame(bool whole);
    bool hasPicture() const { return !m_picture.isNull(); }

    /// How much nearer than the whole body, and where the middle lies, in the body's box from 0 to 1.
    struct Zoom {
        Ratio factor = 1;
        QPointF middle{0.5, 0.5};
        bool operator==(const Zoom&) const = default;
    };
    const Zoom& zoom() const { return m_zoom; }
    void setZoom(Zoom zoom);

    /// From the clip's pixels to the widget's.
    QTransform toScreen() const;

signals:
    void pictureShown(double time);
    void zoomed(const jl::PictureView::Zoom& zoom);

protected:
    void paintEvent(QPaintEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

    /// What a kind of view draws over the body.
    virtual void paintOver(QPainter&) const {}
    const Theme& theme() const { return m_theme; }
    const std::optional<BodyFrame>& body() const { return m_overlay.body; }

private:
    QRectF wholeCrop() const;
    QRectF crop() const;
    void zoomBy(double factor, const QPointF& about);
    void panBy(const QPointF& pixels);
    /// Words on a sheet of paper, redrawn only when they or the view's width change.
    struct Label {
        QString text;
        Pixels room = 0;
        Ratio ratio = 0; ///< device pixels for each
        QPixmap sheet;
    };
    void drawLabel(QPainter& painter, Label& label, const QString& text, bool top) const;
    void roundCorners(QPainter& painter) const;

    const Theme& m_theme;
    std::unique_ptr<FrameFeed> m_feed;
    void updateWithPicture();

    QImage m_picture;
    double m_wanted = 0,
           m_shown = -1; ///< times of the picture that was asked for and of the one that is here
    QSizeF m_size;       ///< of the clip, pixels
    QRectF m_focus;      ///< the body's box over the clip
    bool m_wholeFrame = false;
    Zoom m_zoom;
    QPointF m_held; ///< where the picture was taken hold of
    Overlay m_overlay;
    QString m_caption, m_verdict;
    Label m_captionLabel, m_verdictLabel;
};

} // namespace jl
