#include "app/desk/desk_page.h"
#include "app/theme/icon.h"
#include "media/decoder.h"
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QFutureWatcher>
#include <QHBoxLayout>
#include <QLabel>
#include <QMimeData>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <QtConcurrentRun>

namespace jl
{

DeskPage::DeskPage(const Context& context, QWidget* parent) : QWidget(parent), m_context(context)
{
    setAcceptDrops(true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(24, 16, 24, 16);
    layout->setSpacing(12);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Desk"), this);
    title->setFont(textFont(1.7, QFont::Bold));
    auto* hint = new QLabel(tr("Drop a video anywhere here to begin."), this);
    QPalette quiet = hint->palette();
    quiet.setColor(QPalette::WindowText, context.theme.quiet);
    hint->setPalette(quiet);
    auto* add = new QPushButton(icon("plus", context.theme.onAccent), tr("Bring in a clip"), this);
    add->setProperty("accent", true);
    add->setObjectName("desk.add");
    add->setShortcut(QKeySequence::Open);
    add->setToolTip(tr("Choose video files (Ctrl+O)"));
    connect(add, &QPushButton::clicked, this, &DeskPage::chooseFiles);
    head->addWidget(title);
    head->addSpacing(12);
    head->addWidget(hint, 0, Qt::AlignBottom);
    head->addStretch(1);
    head->addWidget(add);
    layout->addLayout(head);

    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    auto* inside = new QWidget(scroll);
    m_list = new QVBoxLayout(inside);
    m_list->setContentsMargins(0, 0, 4, 0);
    m_list->setSpacing(10);
    scroll->setWidget(inside);
    layout->addWidget(scroll, 1);
    connectQueue();
    refresh();
}

void DeskPage::connectQueue()
{
    ExtractionQueue& queue = m_context.queue;
    connect(&queue, &ExtractionQueue::progress, this, [this](qint64 clip, double share, double left) {
        for (ClipCard* card : m_cards)
            if (card->clipId() == clip) card->setProgress(share, left);
    });
    connect(&queue, &ExtractionQueue::extracted, this, [this](qint64 clip, const Track& track) {
        const auto saved = m_context.library.saveTrack(clip, track);
        if (!saved) emit message(QString::fromStdString(saved.error().message()));
        refresh();
    });
    const auto failed = [this](qint64 clip, const QString& why) {
        static_cast<void>(m_context.library.setClipState(clip, ClipState::Failed, why));
        emit message(why);
        refresh();
    };
    connect(&queue, &ExtractionQueue::failed, this, failed);
    connect(&queue, &ExtractionQueue::cancelled, this, [this](qint64 clip) {
        static_cast<void>(m_context.library.setClipState(clip, ClipState::Failed,
                                                         tr("Stopped. Try again whenever you like.")));
        refresh();
    });
}

void DeskPage::chooseFiles()
{
    addFiles(QFileDialog::getOpenFileNames(
        this, tr("Bring in clips"), {},
        tr("Videos (*.mp4 *.mov *.m4v *.mkv *.avi *.webm *.3gp);;All files (*)")));
}

void DeskPage::addFiles(const QStringList& files)
{
    for (const QString& file : files) {
        const auto info = probe(file.toStdString());
        if (!info) {
            emit message(QString::fromStdString(info.error().message()));
            continue;
        }
        ClipRow about;
        about.title = QFileInfo(file).completeBaseName();
        const auto id = m_context.library.addClip(file, about);
        if (!id) {
            emit message(QString::fromStdString(id.error().message()));
            continue;
        }
        m_context.queue.add(*id, m_context.library.clip(*id)->file);
    }
    refresh();
}

void DeskPage::resumeWaiting()
{
    for (const ClipRow& clip : m_context.library.clips())
        if (clip.state == ClipState::Waiting && !m_context.queue.contains(clip.id))
            m_context.queue.add(clip.id, clip.file);
}

void DeskPage::refresh()
{
    while (QLayoutItem* item = m_list->takeAt(0)) {
        if (item->widget()) item->widget()->deleteLater();
        delete item;
    }
    m_cards.clear();
    const auto clips = m_context.library.clips();
    if (clips.empty()) {
        auto* empty = new QLabel(tr("No clips yet. Film a student's form from the side or the front, the "
                                    "whole body in view, and drop the video here."),
                                 this);
        empty->setWordWrap(true);
        empty->setAlignment(Qt::AlignCenter);
        empty->setMinimumHeight(160);
        m_list->addWidget(empty);
    }
    const auto add = [&](const ClipRow& clip) {
        auto* card = new ClipCard(clip, m_context, this);
        connect(card, &ClipCard::openRequested, this, &DeskPage::openRequested);
        connect(card, &ClipCard::cancelRequested, &m_context.queue, &ExtractionQueue::cancel);
        connect(card, &ClipCard::retryRequested, this, [this](qint64 id) {
            static_cast<void>(m_context.library.setClipState(id, ClipState::Waiting));
            m_context.queue.add(id, m_context.library.clip(id)->file);
            refresh();
        });
        connect(card, &ClipCard::removeRequested, this, [this](qint64 id) {
            const auto removed = m_context.library.removeClip(id);
            if (!removed) emit message(QString::fromStdString(removed.error().message()));
            refresh();
        });
        m_list->addWidget(card);
        m_cards.push_back(card);
        loadStill(card, clip.file);
    };
    for (const ClipRow& clip : clips)
        if (!clip.reference) add(clip);
    for (const ClipRow& clip : clips)
        if (clip.reference) add(clip);
    m_list->addStretch(1);
}

void DeskPage::loadStill(ClipCard* card, const QString& file)
{
    auto* watcher = new QFutureWatcher<QImage>(card);
    connect(watcher, &QFutureWatcher<QImage>::finished, card, [card, watcher] {
        if (!watcher->result().isNull()) card->setStill(watcher->result());
    });
    watcher->setFuture(QtConcurrent::run([file] {
        const auto info = probe(file.toStdString());
        const auto still = stillAt(file.toStdString(), info ? 0.4 * info->duration : 0, 320);
        if (!still) return QImage();
        return QImage(still->data.data(), still->width, still->height, 3 * still->width,
                      QImage::Format_RGB888)
            .copy();
    }));
}

void DeskPage::dragEnterEvent(QDragEnterEvent* event)
{
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void DeskPage::dropEvent(QDropEvent* event)
{
    QStringList files;
    for (const QUrl& url : event->mimeData()->urls())
        files << url.toLocalFile();
    addFiles(files);
}

} // namespace jl
