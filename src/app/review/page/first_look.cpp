#include "app/review/page/first_look.h"
#include "app/review/share/pair_preview.h"
#include "app/theme/theme.h"
#include <QKeyEvent>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace jl
{
namespace
{

constexpr int kPictureWidth = 960, kPictureHeight = 540; ///< pixels

} // namespace

FirstLook::FirstLook(const Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme)
{
    setObjectName("firstlook");
    setFocusPolicy(Qt::StrongFocus);
    auto* layout = new QVBoxLayout(this);
    layout->setAlignment(Qt::AlignCenter);
    layout->setSpacing(18);
    m_picture = new PairPreview({kPictureWidth, kPictureHeight}, this);
    m_picture->setObjectName("firstlook.picture");
    m_picture->setAccessibleName(tr("What matters most, student and aim"));
    m_picture->setFont(textFont(1.3));
    layout->addWidget(m_picture, 0, Qt::AlignCenter);
    m_accept = new QPushButton(tr("accept this, and go on"), this);
    m_accept->setObjectName("firstlook.accept");
    m_accept->setProperty("accent", true);
    m_accept->setFont(textFont(1.15, QFont::DemiBold));
    m_accept->setToolTip(tr("Puts it on the slip (Enter)"));
    connect(m_accept, &QPushButton::clicked, this, [this] {
        hide();
        emit accepted();
    });
    layout->addWidget(m_accept, 0, Qt::AlignCenter);
    hide();
}

void FirstLook::show(std::shared_ptr<const ReviewScene> scene, const PictureFiles& files,
                     const std::optional<PairPassage>& passage)
{
    m_accept->setVisible(passage.has_value());
    m_picture->say(passage ? tr("Taking the picture from the clip…")
                           : tr("Nothing to correct can be claimed from this view."));
    setGeometry(parentWidget()->rect());
    QWidget::show();
    raise();
    setFocus();
    if (passage) m_picture->show(std::move(scene), files, *passage, {});
}

void FirstLook::paintEvent(QPaintEvent*)
{
    QPainter(this).fillRect(rect(), m_theme.ground);
}

void FirstLook::mousePressEvent(QMouseEvent*)
{
    hide();
}

void FirstLook::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape) return hide();
    if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && m_accept->isVisible())
        return m_accept->click();
    QWidget::keyPressEvent(event);
}

} // namespace jl
