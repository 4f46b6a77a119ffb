#pragma once
#include "pipeline/review_scene.h"
#include <QPainter>
#include <QPixmap>
#include <QWidget>
#include <memory>

namespace jl
{

/// What of a view stays the same while one looks through a review, drawn once and kept until another review
/// or another size is shown.
class StillPicture
{
public:
    /// Paints the picture over a view; draw(painter) is called where there is none yet.
    template <class Draw>
    void paint(QPainter& onto, const QWidget& view, const std::shared_ptr<const ReviewScene>& review,
               Draw draw)
    {
        const QSize size = view.size() * view.devicePixelRatioF();
        if (m_review != review || m_picture.size() != size) {
            m_review = review;
            m_picture = QPixmap(size);
            m_picture.setDevicePixelRatio(view.devicePixelRatioF());
            m_picture.fill(Qt::transparent);
            QPainter painter(&m_picture);
            painter.setRenderHint(QPainter::Antialiasing);
            draw(painter);
        }
        onto.drawPixmap(0, 0, m_picture);
    }

private:
    QPixmap m_picture;
    std::shared_ptr<const ReviewScene> m_review;
};

} // namespace jl
