#include "app/review/bench/bench_panel.h"
#include "app/review/bench/figure_view.h"
#include "app/review/bench/mend_panel.h"
#include "app/review/paint/words.h"
#include "app/theme/icon.h"
#include "app/theme/label.h"
#include "media/preview.h"
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <filesystem>
#include <utility>

namespace jl
{
namespace
{

constexpr int kFrameHeight = 1080; ///< of the pictures on the bench, at most
constexpr const char* kModeSetting = "review.bench";

} // namespace

BenchPanel::BenchPanel(OpenReview& review, const Context& context, QWidget* parent)
    : QWidget(parent), m_review(review), m_playhead(review.playhead()), m_context(context),
      m_films(context.library.folder() + "/cache")
{
    // Before anything is drawn: pictures are read meanwhile.
    connect(&m_playhead, &Playhead::moved, this, &BenchPanel::askForPictures);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    layout->addLayout(buildHead());
    m_stack = new QStackedWidget(this);
    m_stack->addWidget(buildPictures());
    m_figures = new FigureView(m_playhead, context.theme, m_stack);
    m_figures->setObjectName("bench.room");
    m_stack->addWidget(m_figures);
    layout->addWidget(m_stack, 1);
    m_mendPanel = new MendPanel(m_context, review, *m_student, this);
    m_mendPanel->hide();
    layout->addWidget(m_mendPanel);
    connect(m_figure, &QPushButton::toggled, this, &BenchPanel::showMoment);
    for (PictureView* view : {static_cast<PictureView*>(m_student), m_reference})
        connect(m_whole, &QPushButton::toggled, view, &PictureView::setWholeFrame);
    connect(&review, &OpenReview::arriving, this, &BenchPanel::showReference);
    connect(&review, &OpenReview::shown, this, &BenchPanel::showStudent);
    connect(&m_playhead, &Playhead::moved, this, &BenchPanel::showMoment);
    connect(&m_playhead, &Playhead::phaseChanged, this, &BenchPanel::showMoment);
    connect(&m_playhead, &Playhead::measureChosen, this, &BenchPanel::showMoment);
    setMode(static_cast<BenchMode>(std::clamp(context.library.setting(kModeSetting).toInt(), 0, 2)));
}

QWidget* BenchPanel::buildPictures()
{
    auto* both = new QWidget(m_stack);
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    m_student = new MendingView(m_context.theme, both);
    m_student->setObjectName("bench.student");
    m_student->setAccessibleName(tr("Student's picture"));
    m_reference = new PictureView(m_context.theme, both);
    m_reference->setObjectName("bench.reference");
    m_reference->setAccessibleName(tr("Reference's picture"));
    row->addWidget(m_student, 1);
    row->addWidget(m_reference, 1);
    // What is looked at closely in one is looked at in the other.
    connect(m_student, &PictureView::zoomed, m_reference, &PictureView::setZoom);
    connect(m_reference, &PictureView::zoomed, m_student, &PictureView::setZoom);
    return both;
}

QLayout* BenchPanel::buildHead()
{
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    m_title = new ElidedLabel(1.2, QFont::Bold, m_context.theme.ink, this);
    m_title->setObjectName("review.phase");
    head->addWidget(m_title, 1);
    addToggles(*head);
    head->addSpacing(10);
    addModes(*head);
    return head;
}

void BenchPanel::addToggles(QBoxLayout& head)
{
    const auto toggle = [&](const QString& word, const QString& name, const QString& tip, Qt::Key key,
                            const char* id) {
        auto* button = new QPushButton(word, this);
        button->setProperty("narrow", true);
        button->setAccessibleName(name);
        button->setCheckable(true);
        button->setToolTip(tip);
        button->setShortcut(QKeySequence(key));
        button->setObjectName(id);
        head.addWidget(button);
        return button;
    };
    m_otherView = toggle(tr("other view"), tr("Other view"), tr("Show the student from the second clip (V)"),
                         Qt::Key_V, "bench.other");
    m_otherView->hide();
    connect(m_otherView, &QPushButton::toggled, this, &BenchPanel::showStudent);
    m_mend = toggle(tr("mend"), tr("Mend"),
                    tr("Put joints right that were seen wrongly, or tell about the room (M)"), Qt::Key_M,
                    "bench.mend");
    connect(m_mend, &QPushButton::toggled, this, &BenchPanel::mend);
    m_figure =
        toggle(tr("body"), tr("Body over the picture"),
               tr("Draw the body over the picture: the full leg is solid, the empty one an outline (D)"),
               Qt::Key_D, "bench.figure");
    m_figure->setChecked(true);
    m_whole = toggle(tr("whole"), tr("Whole frame"), tr("Show the whole frame instead of the body (W)"),
                     Qt::Key_W, "bench.whole");
}

void BenchPanel::addModes(QBoxLayout& head)
{
    const std::tuple<QString, QString, Qt::Key, const char*> modes[] = {
        {tr("beside"), tr("Student and reference beside each other (B)"), Qt::Key_B, "bench.mode.beside"},
        {tr("over"), tr("The reference laid on the student's feet, in the student's size (O)"), Qt::Key_O,
         "bench.mode.over"},
        {tr("figure"), tr("Both as figures to be turned (F; T for front, side and top)"), Qt::Key_F,
         "bench.mode.figure"}};
    for (std::size_t i = 0; i < m_modes.size(); ++i) {
        const auto& [text, tip, key, name] = modes[i];
        auto* button = new QPushButton(text, this);
        button->setProperty("narrow", true);
        button->setCheckable(true);
        button->setChecked(i == 0);
        button->setToolTip(tip);
        button->setShortcut(QKeySequence(key));
        button->setObjectName(name);
        connect(button, &QPushButton::clicked, this, [this, i] { setMode(static_cast<BenchMode>(i)); });
        head.addWidget(button);
        m_modes[i] = button;
    }
}

void BenchPanel::setMode(BenchMode mode)
{
    m_mode = mode;
    for (std::size_t i = 0; i < m_modes.size(); ++i)
        m_modes[i]->setChecked(i == static_cast<std::size_t>(mode));
    const bool figures = mode == BenchMode::Figure;
    m_stack->setCurrentIndex(figures ? 1 : 0);
    m_reference->setVisible(mode != BenchMode::Over);
    m_figure->setVisible(!figures);
    m_whole->setVisible(!figures);
    if (figures) m_mend->setChecked(false);
    m_context.library.setSetting(kModeSetting, QString::number(static_cast<int>(mode)));
    showMoment();
}

void BenchPanel::setMending(bool mending)
{
    m_mend->setChecked(mending);
}

void BenchPanel::lookNext()
{
    m_figures->lookNext();
}

/// Points are corrected in the student's own first view; figures have none.
void BenchPanel::mend(bool mending)
{
    if (mending && m_mode == BenchMode::Figure) setMode(BenchMode::Beside);
    if (mending) m_otherView->setChecked(false);
    m_otherView->setEnabled(!mending);
    m_mendPanel->setVisible(mending);
    if (mending) m_student->setFocus();
}

/// A clip's pictures, with a preview that is made in the background.
std::unique_ptr<FrameFeed> BenchPanel::feedOf(const ClipRow& clip, const Track& track)
{
    const std::string file = clip.file.toStdString();
    const std::string preview = m_films.want(
        m_context.library.previewOf(clip), [file](const std::string& path, const Progress& progress) {
            auto written = writePreview(file, path, kPreviewHeight, progress);
            std::error_code gone; // a clip that was removed meanwhile leaves nothing behind
            if (!std::filesystem::exists(file, gone)) std::filesystem::remove(path, gone);
            return written;
        });
    return std::make_unique<FrameFeed>([=] { return videoSource(file, kFrameHeight, preview); },
                                       track.framesPerSecond);
}

void BenchPanel::showReference(const MadeReview& made)
{
    const bool hasSecond = made.scene->second.has_value();
    m_otherView->setVisible(hasSecond);
    if (!hasSecond) m_otherView->setChecked(false);
    const auto clip = m_review.referenceClip();
    if (made.scene->reference && clip) {
        const Track& track = made.scene->reference->track;
        if (std::exchange(m_referenceSource, clip->file) != clip->file)
            m_reference->setSource(feedOf(*clip, track), &track, track.width, track.height);
    } else if (!made.performer.track.frames.empty() &&
               std::exchange(m_referenceSource, made.performer.name) != made.performer.name) {
        m_performer = made.performer;
        const std::string path = m_films.want(
            m_context.library.folder() + "/cache/" + m_performer.name + ".mp4", m_performer.make);
        const Track& film = m_performer.track;
        m_reference->setSource(std::make_unique<FrameFeed>(m_performer.source(path), film.framesPerSecond),
                               &film, film.width, film.height);
    }
}

bool BenchPanel::showsSecond() const
{
    // The choice may be gone while the review without it is still being made.
    return m_otherView->isChecked() && m_review.choices().secondId && m_playhead.scene() &&
           m_playhead.scene()->second;
}

/// Shows the student's clip, or the second view of it.
void BenchPanel::showStudent()
{
    if (!m_playhead.scene()) return;
    const bool second = showsSecond();
    const auto clip = second ? m_review.secondClip() : m_review.clip();
    const Track& track = second ? m_playhead.scene()->second->track : m_playhead.scene()->student.track;
    // What was only measured again keeps its pictures, and how near one had come to them.
    if (clip && std::exchange(m_studentSource, clip->file) != clip->file)
        m_student->setSource(feedOf(*clip, track), &track, track.width, track.height);
    askForPictures();
    showMoment();
}

void BenchPanel::askForPictures()
{
    const double time = m_playhead.time();
    m_student->showTime(showsSecond() ? m_playhead.scene()->secondTimeAt(time) : time);
    m_reference->showTime(m_playhead.referenceTime());
}

void BenchPanel::drawOver(BenchPicture picture, PictureView& view, const QString& name)
{
    BenchOverlay drawn = benchOverlay(m_playhead, picture, m_mode, m_performer, m_context.theme);
    drawn.overlay.drawFigure = m_figure->isChecked();
    view.setOverlay(drawn.overlay);
    QString caption = name + ", " + timeText(drawn.time);
    if (drawn.overlay.laidOver)
        caption +=
            tr(" · dashed: %1, %2").arg(m_review.referenceName(), timeText(m_playhead.referenceTime()));
    view.setCaption(caption, drawn.verdict);
}

void BenchPanel::showMoment()
{
    const ReviewScene* scene = m_playhead.scene();
    if (!scene) return;
    const auto [posture, phase] = m_playhead.phase();
    m_title->setText(phaseTitle(scene->review, posture, phase));
    drawOver(showsSecond() ? BenchPicture::SecondView : BenchPicture::Student, *m_student,
             m_review.studentName());
    drawOver(BenchPicture::Reference, *m_reference, m_review.referenceName());
}

} // namespace jl
