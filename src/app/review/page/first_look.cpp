#include "app/review/page/first_look.h"
#include "app/theme/theme.h"
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <QtConcurrentRun>

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
    m_picture = new QLabel(this);
    m_picture->setObjectName("firstlook.picture");
    m_picture->setAccessibleName(tr("What matters most, student and aim"));
    m_picture->setFixedSize(kPictureWidth, kPictureHeight);
    m_picture->setAlignment(Qt::AlignCenter);
    m_picture->setWordWrap(true);
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
    connect(&m_making, &QFutureWatcherBase::finished, this, &FirstLook::showPicture);
    hide();
}

FirstLook::~FirstLook()
{
    m_making.waitForFinished();
}

void FirstLook::show(std::shared_ptr<const ReviewScene> scene, const PictureFiles& files,
                     const std::optional<PairPassage>& passage)
{
    m_accept->setVisible(passage.has_value());
    m_picture->setPixmap({});
    m_picture->setText(passage ? tr("Taking the picture from the clip…")
                               : tr("Nothing to correct can be claimed from this view."));
    setGeometry(parentWidget()->rect());
    QWidget::show();
    raise();
    setFocus();
    if (!passage) return;
    m_making.setFuture(QtConcurrent::run(
        [scene = std::move(scene), files, wanted = *passage]() -> std::shared_ptr<const Result<QImage>> {
            auto picture = PairPicture::make(scene, files, wanted, {}, Theme::paper());
            return std::make_shared<const Result<QImage>>(
                picture ? picture->at(wanted.moment.value_or(wanted.from)) : Result<QImage>(picture.error()));
        }));
}

void FirstLook::showPicture()
{
    const auto made = m_making.result();
    if (!*made) return m_picture->setText(QString::fromStdString(made->error().message()));
    QImage picture = (**made).scaled(m_picture->size() * devicePixelRatioF(), Qt::KeepAspectRatio,
                                     Qt::SmoothTransformation);
    picture.setDevicePixelRatio(devicePixelRatioF());
    m_picture->setPixmap(QPixmap::fromImage(picture));
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
