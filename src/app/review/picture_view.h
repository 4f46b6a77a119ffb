#pragma once
#include "app/jobs/frame_feed.h"
#include "app/theme/theme.h"
#include "body/track.h"
#include "measure/measure_id.h"
#include <QWidget>
#include <memory>

namespace jl
{

/// One performer's picture, cropped steadily to the body, with the body and the chosen measure drawn over it.
class PictureView : public QWidget
{
    Q_OBJECT

public:
    PictureView(const Theme& theme, QWidget* parent = nullptr);

    /// What is drawn over the picture at the shown moment.
    struct Overlay {
        std::optional<BodyFrame> body;
        Side lead = Side::Right;
        double leadShare = 0.5;
        std::optional<Measure> measure;
        QColor colour;
        bool drawFigure = true;
        std::optional<BodyFrame> laidOver; ///< the reference on the student's feet
    };

    /// Shows another clip; the track gives the steady crop. A null feed empties the view.
    void setSource(std::unique_ptr<FrameFeed> feed, const Track* track, int width, int height);
    void showTime(double time);
    void setOverlay(const Overlay& overlay);
    void setCaption(const QString& caption, const QString& verdict);
    void setWholeFrame(bool whole);
    bool hasPicture() const { return !m_picture.isNull(); }

signals:
    void pictureShown(double time);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QRectF crop() const;
    void label(QPainter& painter, const QString& text, bool top) const;

    const Theme& m_theme;
    std::unique_ptr<FrameFeed> m_feed;
    QImage m_picture;
    QSizeF m_size;  ///< of the clip, pixels
    QRectF m_focus; ///< the body's box over the clip
    bool m_wholeFrame = false;
    Overlay m_overlay;
    QString m_caption, m_verdict;
};

} // namespace jl
