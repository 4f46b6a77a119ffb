#include "app/desk/desk_page.h"
#include "app/jobs/clip_still.h"
#include "app/theme/icon.h"
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFutureWatcher>
#include <QHBoxLayout>
#include <QLabel>
#include <QMimeData>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace jl
{

DeskPage::DeskPage(const Context& context, ClipIntake& intake, QWidget* parent)
    : QWidget(parent), m_context(context), m_intake(intake)
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
    add->setToolTip(tr("Choose videos, or another instructor's bundle (Ctrl+O)"));
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
    connect(&m_intake, &ClipIntake::changed, this, &DeskPage::refresh);
    connect(&context.queue, &ExtractionQueue::progress, this, [this](qint64 clip, double share, double left) {
        for (ClipCard* card : m_cards)
            if (card->clipId() == clip) card->setProgress(share, left);
    });
    refresh();
}

void DeskPage::chooseFiles()
{
    emit filesBrought(QFileDialog::getOpenFileNames(
        this, tr("Bring in clips"), {},
        tr("Videos and bundles (*.mp4 *.mov *.m4v *.mkv *.avi *.webm *.3gp *.zip);;All files (*)")));
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
        connect(card, &ClipCard::lookRequested, this, &DeskPage::lookRequested);
        connect(card, &ClipCard::cancelRequested, &m_context.queue, &ExtractionQueue::cancel);
        connect(card, &ClipCard::retryRequested, &m_intake, &ClipIntake::extractAgain);
        connect(card, &ClipCard::removeRequested, &m_intake, &ClipIntake::remove);
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
    constexpr int width = 320; // pixels, for screens of two device pixels each
    auto* watcher = new QFutureWatcher<QImage>(card);
    connect(watcher, &QFutureWatcher<QImage>::finished, card, [card, watcher] {
        if (!watcher->result().isNull()) card->setStill(watcher->result());
    });
    watcher->setFuture(clipStill(file, width));
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
    emit filesBrought(files);
}

} // namespace jl
