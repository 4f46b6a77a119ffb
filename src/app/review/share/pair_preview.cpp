#include "app/review/share/pair_preview.h"
#include <QtConcurrentRun>

namespace jl
{

PairPreview::PairPreview(const QSize& size, QWidget* parent) : QLabel(parent)
{
    setFixedSize(size);
    setAlignment(Qt::AlignCenter);
    setWordWrap(true);
    connect(&m_making, &QFutureWatcherBase::finished, this, &PairPreview::showPicture);
}

PairPreview::~PairPreview()
{
    m_making.waitForFinished();
}

void PairPreview::show(std::shared_ptr<const ReviewScene> scene, const PictureFiles& files,
                       const PairPassage& passage, const PairStyle& style)
{
    m_wish = [scene = std::move(scene), files, passage, style]() -> Outcome {
        auto picture = PairPicture::make(scene, files, passage, style, Theme::paper());
        return std::make_shared<const Result<QImage>>(
            picture ? picture->at(passage.moment.value_or(passage.from)) : Result<QImage>(picture.error()));
    };
    m_isWanted = true;
    if (!m_making.isRunning()) make();
}

void PairPreview::say(const QString& words)
{
    m_wish = {};
    m_isWanted = false;
    setText(words);
}

void PairPreview::make()
{
    m_making.setFuture(QtConcurrent::run(std::exchange(m_wish, {})));
}

void PairPreview::showPicture()
{
    if (m_wish) return make();
    if (!m_isWanted) return;
    const auto made = m_making.result();
    if (!*made) return setText(QString::fromStdString(made->error().message()));
    QImage picture =
        (**made).scaled(size() * devicePixelRatioF(), Qt::KeepAspectRatio, Qt::SmoothTransformation);
    picture.setDevicePixelRatio(devicePixelRatioF());
    setPixmap(QPixmap::fromImage(picture));
}

} // namespace jl
