#include "app/review/page/waiting_view.h"
#include "app/jobs/frame_feed.h"
#include "app/review/bench/picture_view.h"
#include "app/review/paint/words.h"
#include "app/theme/label.h"
#include "media/clip_info.h"
#include <QFutureWatcher>
#include <QHBoxLayout>
#include <QLabel>
#include <QSlider>
#include <QVBoxLayout>
#include <QtConcurrentRun>

namespace jl
{
namespace
{

constexpr double kStep = 0.1; ///< s a step of the slider

} // namespace

WaitingView::WaitingView(const Theme& theme, QWidget* parent) : QWidget(parent)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 12, 12, 12);
    layout->setSpacing(8);
    auto* words =
        label(tr("Measuring… Look through the clip meanwhile."), 1.1, QFont::DemiBold, theme.ink, this);
    words->setObjectName("waiting.words");
    layout->addWidget(words);
    m_picture = new PictureView(theme, this);
    m_picture->setObjectName("waiting.picture");
    m_picture->setAccessibleName(tr("The clip's picture"));
    m_picture->setWholeFrame(true);
    layout->addWidget(m_picture, 1);
    auto* row = new QHBoxLayout;
    row->setSpacing(10);
    m_slider = new QSlider(Qt::Horizontal, this);
    m_slider->setObjectName("waiting.slider");
    m_slider->setAccessibleName(tr("Moment of the clip"));
    m_slider->setPageStep(static_cast<int>(5 / kStep));
    connect(m_slider, &QSlider::valueChanged, this, &WaitingView::seek);
    row->addWidget(m_slider, 1);
    m_clock = label({}, 0.95, QFont::Normal, theme.quiet, this);
    row->addWidget(m_clock);
    layout->addLayout(row);
    hide();
}

void WaitingView::open(const QString& file, const QString& preview)
{
    if (m_file == file) return;
    clear();
    m_file = file;
    show();
    using Outcome = Result<ClipInfo>;
    auto* watcher = new QFutureWatcher<Outcome>(this);
    connect(watcher, &QFutureWatcher<Outcome>::finished, this, [this, watcher, file, preview] {
        watcher->deleteLater();
        const Outcome info = watcher->result();
        if (info && m_file == file) showPictures(*info, preview); // else who measures it says what is wrong
    });
    watcher->setFuture(QtConcurrent::run([clip = file.toStdString()] { return probe(clip); }));
}

void WaitingView::showPictures(const ClipInfo& info, const QString& preview)
{
    constexpr int height = 720;
    m_duration = info.duration;
    m_picture->setSource(
        std::make_unique<FrameFeed>(
            [clip = info.path, small = preview.toStdString()] { return videoSource(clip, height, small); },
            info.framesPerSecond),
        nullptr, info.width, info.height);
    m_slider->setRange(0, static_cast<int>(m_duration / kStep));
    m_slider->setValue(0);
    seek(0);
    m_slider->setFocus();
}

void WaitingView::clear()
{
    hide();
    m_file.clear();
    m_picture->setSource({}, nullptr, 16, 9);
}

void WaitingView::seek(int step)
{
    m_picture->showTime(step * kStep);
    m_clock->setText(tr("%1 of %2").arg(timeText(step * kStep), timeText(m_duration)));
}

} // namespace jl
