#include "app/review/page/review_page.h"
#include "app/review/ladder/ladder_panel.h"
#include "app/review/page/first_look.h"
#include "app/review/page/review_header.h"
#include "app/review/page/waiting_view.h"
#include "app/review/ribbon/path_view.h"
#include "app/review/ribbon/play_controls.h"
#include "app/review/ribbon/posture_list.h"
#include "app/review/ribbon/purpose_line.h"
#include "app/review/ribbon/ribbon_view.h"
#include "app/review/share/export_strip.h"
#include "app/review/share/moving_picture_dialog.h"
#include "app/review/slip/slip_page_dialog.h"
#include "app/review/slip/slip_view.h"
#include "app/theme/label.h"
#include "media/sound_reader.h"
#include <QHBoxLayout>
#include <QShortcut>
#include <QUndoStack>
#include <QVBoxLayout>

namespace jl
{
namespace
{

/// Widths of the side columns in a window of the usual width, and how much of what it is wider they take.
constexpr int kUsualWidth = 1280, kSideWidth = 332, kMostSideWidth = 460, kPathWidth = 216,
              kMostPathWidth = 300;
constexpr double kSideShare = 0.2, kPathShare = 0.12;
constexpr int kRibbonHeight = 158;
constexpr int kPatience = 250; ///< ms of measuring after which the clip's pictures stand in for its review

QVBoxLayout* column(QWidget* widget, int spacing)
{
    auto* layout = new QVBoxLayout(widget);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(spacing);
    return layout;
}

} // namespace

ReviewPage::ReviewPage(const Context& context, QWidget* parent)
    : QWidget(parent), m_context(context), m_review(context), m_exporter(m_review, context, m_exports, this)
{
    auto* layout = column(this, 0);
    auto* header = new ReviewHeader(m_review, context, this);
    connect(header, &ReviewHeader::exportWanted, this,
            [this](ReviewExport what) { m_exporter.ask(what, m_slip->slip()); });
    layout->addWidget(header);
    layout->addWidget(new ExportStrip(m_exports, context.theme, this));
    m_empty = label(tr("Choose a clip on the Desk to review it here."), 1.2, QFont::Normal,
                    context.theme.quiet, this);
    m_empty->setAlignment(Qt::AlignCenter);
    m_empty->setWordWrap(true);
    layout->addWidget(m_empty, 1);
    m_content = new QWidget(this);
    auto* columns = new QHBoxLayout(m_content);
    columns->setContentsMargins(12, 8, 12, 12);
    columns->setSpacing(12);
    QWidget* middle =
        buildMiddle(); // first to follow the playhead: pictures are read while the rest is shown
    columns->addWidget(buildPath());
    columns->addWidget(middle, 1);
    columns->addWidget(buildSide());
    layout->addWidget(m_content, 1);
    m_content->hide();
    m_waiting = new WaitingView(context.theme, this);
    layout->addWidget(m_waiting, 1);
    m_firstLook = new FirstLook(context.theme, this);
    connect(m_firstLook, &FirstLook::accepted, this, [this] { m_slip->decideNext(Decision::Accepted); });
    connectReview();
    connectExports();
    addShortcuts();
}

void ReviewPage::connectExports()
{
    connect(&m_exporter, &ReviewExporter::message, this, &ReviewPage::message);
    connect(&m_exports, &ExportJobs::finished, this,
            [this](int, const QString& name) { emit message(tr("Saved: %1").arg(name)); });
    connect(&m_exports, &ExportJobs::failed, this, [this](int, const QString& why) { emit message(why); });
    connect(&m_exports, &ExportJobs::cancelled, this,
            [this](int, const QString& name) { emit message(tr("Not written: %1").arg(name)); });
}

void ReviewPage::connectReview()
{
    m_patience.setSingleShot(true);
    m_patience.setInterval(kPatience);
    connect(&m_patience, &QTimer::timeout, this, &ReviewPage::showWaiting);
    connect(&m_review, &OpenReview::making, this, &ReviewPage::wait);
    connect(&m_review, &OpenReview::arriving, this, &ReviewPage::showReview);
    connect(&m_review, &OpenReview::shown, this, [this] {
        m_slip->setReview(m_review.choices().id, m_review.studentName());
        emit opened(m_review.clip().id);
        if (std::exchange(m_looksFirst, false)) showFirstLook();
    });
    connect(&m_review, &OpenReview::failed, this, &ReviewPage::showMessage);
    connect(&m_review, &OpenReview::message, this, &ReviewPage::message);
}

QWidget* ReviewPage::buildPath()
{
    auto* panel = new QWidget(m_content);
    m_path = panel;
    auto* layout = column(panel, 6);
    layout->addWidget(label(tr("Path"), 1.1, QFont::DemiBold, m_context.theme.ink, panel));
    auto* path = new PathView(m_review.playhead(), m_context.theme, panel);
    path->setObjectName("path");
    layout->addWidget(path, 10);
    auto* list = new PostureList(m_review.playhead(), m_context.theme, panel);
    list->setObjectName("path.list");
    layout->addWidget(list, 11);
    layout->addWidget(new PurposeLine(m_review.playhead(), m_context.theme, panel));
    return panel;
}

QWidget* ReviewPage::buildMiddle()
{
    auto* middle = new QWidget(m_content);
    auto* layout = column(middle, 8);
    m_bench = new BenchPanel(m_review, m_context, middle);
    layout->addWidget(m_bench, 1);
    auto* ribbon = new RibbonView(m_review.playhead(), m_context.theme, middle);
    ribbon->setObjectName("ribbon");
    ribbon->setFixedHeight(kRibbonHeight);
    layout->addWidget(ribbon);
    layout->addWidget(new PlayControls(m_review, m_context, middle));
    return middle;
}

PictureFiles ReviewPage::pictureFiles() const
{
    const auto reference = m_review.referenceClip();
    return {m_review.clip().file.toStdString(), reference ? reference->file.toStdString() : std::string()};
}

void ReviewPage::showSlipPage()
{
    if (!m_review.isShown()) return;
    if (!m_slip->isReady())
        return emit message(tr("Accept a correction first: the page shows what you accepted."));
    auto* dialog = new SlipPageDialog(m_review.playhead().sharedScene(), m_slip->slip(), pictureFiles(),
                                      m_review.choices().id, m_context, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setObjectName("page");
    connect(dialog, &SlipPageDialog::reworded, m_slip, &SlipView::keepCue);
    dialog->open();
}

void ReviewPage::showMovingPicture()
{
    if (!m_review.isShown()) return;
    const Slip slip = m_slip->slip();
    MovingPictureSource source{m_review.playhead().sharedScene(),
                               pictureFiles(),
                               QString::fromStdString(slipFileName(slip)),
                               {},
                               {},
                               {},
                               hasSound(m_review.clip().file.toStdString())};
    source.slip = slip;
    source.corrections = passagesOf(slip, source.scene->review);
    if (auto posture = passageOf(source.scene->review, m_review.playhead().phase().first))
        source.posture = std::move(*posture);
    auto* dialog = new MovingPictureDialog(std::move(source), m_context, m_exports, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setObjectName("moving");
    dialog->open();
}

void ReviewPage::openToLook(qint64 clip)
{
    m_looksFirst = true;
    m_review.open(clip);
}

/// Of the first correction that waits for a decision.
std::optional<PairPassage> ReviewPage::firstPassage() const
{
    const auto next = m_slip->current();
    if (!next) return {};
    const Review& review = m_review.playhead().scene()->review;
    const Slip slip = slipOf(review, m_context.data.rules, nullptr, {{}, {}, {}, {{*next, {}}}, {}});
    return passagesOf(slip, review).front();
}

void ReviewPage::showFirstLook()
{
    if (m_review.isShown())
        m_firstLook->show(m_review.playhead().sharedScene(), pictureFiles(), firstPassage());
}

QWidget* ReviewPage::buildSide()
{
    auto* side = new QWidget(m_content);
    m_side = side;
    auto* layout = column(side, 6);
    layout->addWidget(new LadderPanel(m_review, m_context, side), 10);
    m_slip = new SlipView(m_review.playhead(), m_context, m_review.undo(), side);
    m_slip->setObjectName("slip");
    connect(&m_review, &OpenReview::doubted, m_slip, &SlipView::setDoubt);
    connect(m_slip, &SlipView::message, this, &ReviewPage::message);
    connect(m_slip, &SlipView::pageWanted, this, &ReviewPage::showSlipPage);
    connect(m_slip, &SlipView::movingWanted, this, &ReviewPage::showMovingPicture);
    connect(m_slip, &SlipView::causesChanged, &m_review, &OpenReview::makeAgain);
    connect(m_slip, &SlipView::measuredWrong, this, [this] { m_bench->setMending(true); });
    layout->addWidget(m_slip, 10);
    return side;
}

void ReviewPage::resizeEvent(QResizeEvent* event)
{
    const double wider = std::max(0, window()->width() - kUsualWidth);
    m_side->setFixedWidth(std::min(kMostSideWidth, kSideWidth + static_cast<int>(kSideShare * wider)));
    m_path->setFixedWidth(std::min(kMostPathWidth, kPathWidth + static_cast<int>(kPathShare * wider)));
    m_firstLook->setGeometry(rect());
    QWidget::resizeEvent(event);
}

void ReviewPage::addShortcuts()
{
    // What a key does is said once, here, and listed by F1 with the buttons that have keys.
    const auto on = [this](const QKeySequence& keys, const QString& words, auto action) {
        auto* shortcut = new QShortcut(keys, m_content); // asleep while no review is on the screen
        shortcut->setWhatsThis(words);
        connect(shortcut, &QShortcut::activated, this, action);
    };
    Playhead& playhead = m_review.playhead();
    on(Qt::Key_Space, tr("play or pause"), [&playhead] { playhead.setPlaying(!playhead.playing()); });
    on(Qt::Key_Comma, tr("one frame back"), [&playhead] { playhead.stepFrames(-1); });
    on(Qt::Key_Period, tr("one frame on"), [&playhead] { playhead.stepFrames(1); });
    on(Qt::Key_Up, tr("key moment before"), [&playhead] { playhead.stepKeyMoment(-1); });
    on(Qt::Key_Down, tr("next key moment"), [&playhead] { playhead.stepKeyMoment(1); });
    on(Qt::Key_PageUp, tr("posture before"), [&playhead] { playhead.stepPosture(-1); });
    on(Qt::Key_PageDown, tr("next posture"), [&playhead] { playhead.stepPosture(1); });
    on(Qt::Key_T, tr("figure from the front, side, top"), [this] { m_bench->lookNext(); });
    on(Qt::CTRL | Qt::Key_L, tr("first look: what matters most"), [this] { showFirstLook(); });
    on(Qt::Key_N, tr("next correction"), [this] { m_slip->step(1); });
    on(Qt::SHIFT | Qt::Key_N, tr("correction before"), [this] { m_slip->step(-1); });
    on(Qt::Key_Return, tr("accept the correction, go to the next"),
       [this] { m_slip->decideNext(Decision::Accepted); });
    on(Qt::Key_Backspace, tr("park the correction, go to the next"),
       [this] { m_slip->decideNext(Decision::Parked); });
    on(Qt::Key_X, tr("set the correction aside"), [this] { m_slip->askWhyAside(); });
    on(Qt::Key_Y, tr("why: what lies behind the correction"), [this] { m_slip->unfoldCurrent(); });
    on(Qt::Key_E, tr("put the correction in your own words"), [this] { m_slip->rewordCurrent(); });
    on(Qt::CTRL | Qt::Key_P, tr("page for the student"), [this] { showSlipPage(); });
    on(Qt::CTRL | Qt::SHIFT | Qt::Key_P, tr("moving picture for the student"),
       [this] { showMovingPicture(); });
    on(Qt::CTRL | Qt::Key_N, tr("add what you see at this moment"), [this] { m_slip->addOwn(); });
    on(QKeySequence::Undo, tr("undo"), [this] { m_review.undo().undo(); });
    on(QKeySequence::Redo, tr("redo"), [this] { m_review.undo().redo(); });
}

void ReviewPage::wait()
{
    if (m_content->isHidden() && m_waiting->isHidden()) {
        m_empty->setText(tr("Measuring…"));
        m_empty->show();
    }
    m_patience.start();
}

/// A review that is only made again stays where it is.
void ReviewPage::showWaiting()
{
    if (!m_content->isHidden() && m_review.isShown()) return;
    m_content->hide();
    m_empty->hide();
    m_waiting->open(m_review.clip().file, m_context.library.previewOf(m_review.clip()));
}

/// In the place of a review.
void ReviewPage::showMessage(const QString& words)
{
    m_patience.stop();
    m_waiting->clear();
    m_content->hide();
    m_empty->setText(words);
    m_empty->show();
}

void ReviewPage::showReview()
{
    m_patience.stop();
    m_waiting->clear();
    m_empty->hide();
    m_content->show();
}

} // namespace jl
