#include "app/review/page/review_page.h"
#include "app/jobs/form_doubt.h"
#include "app/review/bench/figure_view.h"
#include "app/review/bench/mend_panel.h"
#include "app/review/ladder/ladder_view.h"
#include "app/review/page/keys_dialog.h"
#include "app/review/page/sound_button.h"
#include "app/review/page/waiting_view.h"
#include "app/review/ribbon/path_view.h"
#include "app/review/ribbon/posture_list.h"
#include "app/review/ribbon/ribbon_view.h"
#include "app/review/slip/slip_view.h"
#include "app/theme/choice_box.h"
#include "app/theme/icon.h"
#include "app/theme/label.h"
#include "exchange/track_pack.h"
#include "media/sound_reader.h"
#include <QComboBox>
#include <QFutureWatcher>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QShortcut>
#include <QStackedWidget>
#include <QToolButton>
#include <QUndoStack>
#include <QVBoxLayout>
#include <QtConcurrentRun>

namespace jl
{
namespace
{

constexpr int kSideWidth = 332;
constexpr int kPathWidth = 216;
constexpr int kPatience = 250; ///< ms of measuring after which the clip's pictures stand in for its review

} // namespace

ReviewPage::ReviewPage(const Context& context, QWidget* parent)
    : QWidget(parent), m_context(context), m_pictures(context.library.folder() + "/cache"),
      m_undo(new QUndoStack(this))
{
    // First of all that follows the playhead: pictures are read while the rest is shown.
    connect(&m_playhead, &Playhead::moved, this, &ReviewPage::askForPictures);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(buildHeader());
    m_empty = label(tr("Choose a clip on the Desk to review it here."), 1.2, QFont::Normal,
                    context.theme.quiet, this);
    m_empty->setAlignment(Qt::AlignCenter);
    m_empty->setWordWrap(true);
    layout->addWidget(m_empty, 1);
    m_content = new QWidget(this);
    auto* columns = new QHBoxLayout(m_content);
    columns->setContentsMargins(12, 8, 12, 12);
    columns->setSpacing(12);
    columns->addWidget(buildPath());
    columns->addWidget(buildBench(), 1);
    columns->addWidget(buildSide());
    layout->addWidget(m_content, 1);
    m_content->hide();
    m_waiting = new WaitingView(context.theme, this);
    layout->addWidget(m_waiting, 1);
    m_patience.setSingleShot(true);
    m_patience.setInterval(kPatience);
    connect(&m_patience, &QTimer::timeout, this, &ReviewPage::showWaiting);
    connect(&m_playhead, &Playhead::moved, this, &ReviewPage::showMoment);
    connect(&m_playhead, &Playhead::phaseChanged, this, &ReviewPage::showMoment);
    connect(&m_playhead, &Playhead::measureChosen, this, &ReviewPage::showMoment);
    addShortcuts();
    setBench(static_cast<Bench>(std::clamp(context.library.setting("review.bench").toInt(), 0, 2)));
}

QWidget* ReviewPage::buildBench()
{
    const Theme& t = m_context.theme;
    auto* bench = new QWidget(m_content);
    auto* layout = new QVBoxLayout(bench);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);

    layout->addLayout(buildBenchHead(bench));

    auto* pictures = new QHBoxLayout;
    pictures->setSpacing(8);
    m_studentView = new MendingView(t, bench);
    m_studentView->setObjectName("bench.student");
    m_studentView->setAccessibleName(tr("Student's picture"));
    m_referenceView = new PictureView(t, bench);
    m_referenceView->setObjectName("bench.reference");
    m_referenceView->setAccessibleName(tr("Reference's picture"));
    pictures->addWidget(m_studentView, 1);
    pictures->addWidget(m_referenceView, 1);
    m_benchStack = new QStackedWidget(bench);
    auto* both = new QWidget(m_benchStack);
    pictures->setContentsMargins(0, 0, 0, 0);
    both->setLayout(pictures);
    m_figureView = new FigureView(m_playhead, t, m_benchStack);
    m_figureView->setObjectName("bench.room");
    m_benchStack->addWidget(both);
    m_benchStack->addWidget(m_figureView);
    layout->addWidget(m_benchStack, 1);
    // What is looked at closely in one is looked at in the other.
    connect(m_studentView, &PictureView::zoomed, m_referenceView, &PictureView::setZoom);
    connect(m_referenceView, &PictureView::zoomed, m_studentView, &PictureView::setZoom);
    m_mendPanel = new MendPanel(m_context, m_playhead, *m_undo, *m_studentView, bench);
    m_mendPanel->hide();
    connect(m_mendPanel, &MendPanel::changed, this, &ReviewPage::measureAnew);
    connect(m_mendPanel, &MendPanel::message, this, &ReviewPage::message);
    layout->addWidget(m_mendPanel);
    connect(m_figure, &QPushButton::toggled, this, &ReviewPage::showMoment);
    connect(m_whole, &QPushButton::toggled, m_studentView, &PictureView::setWholeFrame);
    connect(m_whole, &QPushButton::toggled, m_referenceView, &PictureView::setWholeFrame);

    m_ribbon = new RibbonView(m_playhead, t, bench);
    m_ribbon->setObjectName("ribbon");
    m_ribbon->setFixedHeight(158);
    layout->addWidget(m_ribbon);
    layout->addWidget(buildControls());
    return bench;
}

QLayout* ReviewPage::buildBenchHead(QWidget* bench)
{
    const Theme& t = m_context.theme;
    auto* title = new QHBoxLayout;
    title->setSpacing(10);
    m_title = new ElidedLabel(1.2, QFont::Bold, t.ink, bench);
    m_title->setObjectName("review.phase");
    title->addWidget(m_title, 1);
    m_figure = new QPushButton(bench);
    m_figure->setCheckable(true);
    m_figure->setChecked(true);
    m_figure->setToolTip(
        tr("Draw the body over the picture: the full leg is solid, the empty one an outline (D)"));
    m_figure->setShortcut(QKeySequence(Qt::Key_D));
    m_figure->setObjectName("bench.figure");
    m_whole = new QPushButton(bench);
    m_whole->setCheckable(true);
    m_whole->setToolTip(tr("Show the whole frame instead of the body (W)"));
    m_whole->setShortcut(QKeySequence(Qt::Key_W));
    m_whole->setObjectName("bench.whole");
    const auto pictured = [&](QPushButton* b, const QString& picture, const QString& name) {
        setPictured(*b, picture, t);
        b->setAccessibleName(name);
    };
    pictured(m_figure, "person-standing", tr("Body over the picture"));
    pictured(m_whole, "maximize", tr("Whole frame"));
    m_otherView = new QPushButton(bench);
    pictured(m_otherView, "switch-camera", tr("Other view"));
    m_otherView->setCheckable(true);
    m_otherView->setToolTip(tr("Show the student from the second clip (V)"));
    m_otherView->setShortcut(QKeySequence(Qt::Key_V));
    m_otherView->setObjectName("bench.other");
    m_otherView->hide();
    connect(m_otherView, &QPushButton::toggled, this, &ReviewPage::showStudent);
    m_mend = new QPushButton(bench);
    pictured(m_mend, "wrench", tr("Mend"));
    m_mend->setCheckable(true);
    m_mend->setToolTip(tr("Put joints right that were seen wrongly, or tell about the room (M)"));
    m_mend->setShortcut(QKeySequence(Qt::Key_M));
    m_mend->setObjectName("bench.mend");
    connect(m_mend, &QPushButton::toggled, this, &ReviewPage::mend);
    title->addWidget(m_otherView);
    title->addWidget(m_mend);
    title->addWidget(m_figure);
    title->addWidget(m_whole);
    title->addSpacing(10);
    const std::tuple<QString, QString, Qt::Key, const char*> modes[] = {
        {tr("beside"), tr("Student and reference beside each other (B)"), Qt::Key_B, "bench.mode.beside"},
        {tr("over"), tr("The reference laid on the student's feet, in the student's size (O)"), Qt::Key_O,
         "bench.mode.over"},
        {tr("figure"), tr("Both as figures to be turned (F; T for front, side and top)"), Qt::Key_F,
         "bench.mode.figure"}};
    for (std::size_t i = 0; i < 3; ++i) {
        const auto& [text, tip, key, name] = modes[i];
        auto* button = new QPushButton(text, bench);
        button->setCheckable(true);
        button->setChecked(i == 0);
        button->setToolTip(tip);
        button->setShortcut(QKeySequence(key));
        button->setObjectName(name);
        connect(button, &QPushButton::clicked, this, [this, i] { setBench(static_cast<Bench>(i)); });
        title->addWidget(button);
        m_benchButtons[i] = button;
    }
    return title;
}

void ReviewPage::setMending(bool mending)
{
    m_mend->setChecked(mending);
}

void ReviewPage::setBench(Bench bench)
{
    m_bench = bench;
    for (std::size_t i = 0; i < m_benchButtons.size(); ++i)
        m_benchButtons[i]->setChecked(i == static_cast<std::size_t>(bench));
    m_benchStack->setCurrentIndex(bench == Bench::Figure ? 1 : 0);
    m_referenceView->setVisible(bench != Bench::Over);
    m_figure->setVisible(bench != Bench::Figure);
    m_whole->setVisible(bench != Bench::Figure);
    if (bench == Bench::Figure) m_mend->setChecked(false);
    m_context.library.setSetting("review.bench", QString::number(static_cast<int>(bench)));
    showMoment();
}

QWidget* ReviewPage::buildPath()
{
    auto* panel = new QWidget(m_content);
    panel->setFixedWidth(kPathWidth);
    auto* layout = new QVBoxLayout(panel);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    layout->addWidget(label(tr("Path"), 1.1, QFont::DemiBold, m_context.theme.ink, panel));
    m_path = new PathView(m_playhead, m_context.theme, panel);
    m_path->setObjectName("path");
    layout->addWidget(m_path, 10);
    auto* list = new PostureList(m_playhead, m_context.theme, panel);
    list->setObjectName("path.list");
    layout->addWidget(list, 11);
    return panel;
}

QWidget* ReviewPage::buildControls()
{
    const Theme& t = m_context.theme;
    auto* controls = new QWidget(m_content);
    auto* row = new QHBoxLayout(controls);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    const auto button = [&](const QString& picture, const QString& tip, const QString& name, auto action) {
        auto* b = new QToolButton(controls);
        b->setIcon(icon(picture, t.ink));
        b->setIconSize({18, 18});
        b->setToolTip(tip);
        b->setAccessibleName(tip);
        b->setObjectName(name);
        connect(b, &QToolButton::clicked, this, action);
        row->addWidget(b);
        return b;
    };
    button("skip-back", tr("Key moment before (Up)"), "ribbon.previous",
           [this] { m_playhead.stepKeyMoment(-1); });
    button("step-back", tr("Frame before (comma)"), "ribbon.back", [this] { m_playhead.stepFrames(-1); });
    m_play = button("play", tr("Play (Space)"), "ribbon.play",
                    [this] { m_playhead.setPlaying(!m_playhead.playing()); });
    button("step-forward", tr("Next frame (period)"), "ribbon.forward", [this] { m_playhead.stepFrames(1); });
    button("skip-forward", tr("Next key moment (Down)"), "ribbon.next",
           [this] { m_playhead.stepKeyMoment(1); });
    connect(&m_playhead, &Playhead::playingChanged, this, [this](bool playing) {
        m_play->setIcon(icon(playing ? "pause" : "play", m_context.theme.ink));
        m_play->setAccessibleName(playing ? tr("Pause (Space)") : tr("Play (Space)"));
    });
    m_clock = label({}, 0.95, QFont::Normal, t.quiet, controls);
    m_clock->setObjectName("ribbon.clock");
    row->addSpacing(8);
    row->addWidget(m_clock);
    row->addStretch(1);
    m_sound = new SoundButton(m_playhead, m_context, controls);
    row->addWidget(m_sound);
    m_loop = new QPushButton(tr("loop"), controls);
    m_loop->setCheckable(true);
    m_loop->setToolTip(tr("Play the phase again and again (L)"));
    m_loop->setShortcut(QKeySequence(Qt::Key_L));
    m_loop->setObjectName("ribbon.loop");
    connect(m_loop, &QPushButton::toggled, &m_playhead, &Playhead::setLoop);
    row->addWidget(m_loop);
    m_speed = new QComboBox(controls);
    m_speed->setAccessibleName(tr("Speed"));
    m_speed->setObjectName("ribbon.speed");
    for (const auto& [text, speed] : {std::pair(tr("⅛ speed"), 0.125),
                                      {tr("¼ speed"), 0.25},
                                      {tr("½ speed"), 0.5},
                                      {tr("full speed"), 1.0},
                                      {tr("double speed"), 2.0}})
        m_speed->addItem(text, speed);
    connect(m_speed, &QComboBox::currentIndexChanged, this, [this] {
        m_playhead.setSpeed(m_speed->currentData().toDouble());
        m_context.library.setSetting("review.speed", m_speed->currentData().toString());
    });
    const QString kept = m_context.library.setting("review.speed");
    m_speed->setCurrentIndex(std::max(0, m_speed->findData(kept.isEmpty() ? 0.5 : kept.toDouble())));
    row->addWidget(m_speed);
    return controls;
}

QWidget* ReviewPage::buildSide()
{
    const Theme& t = m_context.theme;
    auto* side = new QWidget(m_content);
    side->setFixedWidth(kSideWidth);
    auto* layout = new QVBoxLayout(side);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Ladder"), 1.1, QFont::DemiBold, t.ink, side));
    head->addStretch(1);
    m_schoolChoice = new ChoiceBox(tr("School"), 150, side);
    m_schoolChoice->setObjectName("review.school");
    m_schoolChoice->setToolTip(tr("The school whose bands, variants and level hold"));
    connect(m_schoolChoice, &QComboBox::activated, this, &ReviewPage::changeChoices);
    head->addWidget(m_schoolChoice);
    m_yardstick = new QComboBox(side);
    m_yardstick->setObjectName("review.yardstick");
    m_yardstick->setAccessibleName(tr("Judged by"));
    m_yardstick->setToolTip(tr(
        "What the student is measured against: the reference's own values, the school's standard, or both. "
        "Bands that spare knees are always the school's."));
    for (const auto& [text, y] : {std::pair(tr("by reference"), Yardstick::Reference),
                                  {tr("by standard"), Yardstick::Standard},
                                  {tr("by both"), Yardstick::Both}}) {
        const std::string_view name = yardstickName(y);
        m_yardstick->addItem(text, QString::fromUtf8(name.data(), static_cast<qsizetype>(name.size())));
    }
    connect(m_yardstick, &QComboBox::activated, this, &ReviewPage::changeChoices);
    head->addWidget(m_yardstick);
    layout->addLayout(head);
    m_ladder = new LadderView(m_playhead, t);
    m_ladder->setObjectName("ladder");
    auto* scroll = new QScrollArea(side);
    scroll->setWidget(m_ladder);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFrameShape(QFrame::NoFrame);
    // Once the layout has settled.
    connect(m_ladder, &LadderView::detailPlaced, scroll, [scroll](QWidget* detail) {
        QMetaObject::invokeMethod(
            scroll, [scroll, detail] { scroll->ensureWidgetVisible(detail, 0, 8); }, Qt::QueuedConnection);
    });
    layout->addWidget(scroll, 13);
    m_slip = new SlipView(m_playhead, m_context, *m_undo, side);
    m_formDoubt = new FormDoubt(m_context.data, this);
    connect(m_formDoubt, &FormDoubt::found, m_slip, &SlipView::setDoubt);
    m_slip->setObjectName("slip");
    connect(m_slip, &SlipView::message, this, &ReviewPage::message);
    connect(m_slip, &SlipView::causesChanged, this, &ReviewPage::reload);
    connect(m_slip, &SlipView::measuredWrong, this, [this] { m_mend->setChecked(true); });
    layout->addWidget(m_slip, 9);
    return side;
}

void ReviewPage::addShortcuts()
{
    // What a key does is said once, here, and listed by F1 with the buttons that have keys.
    const auto on = [this](const QKeySequence& keys, const QString& words, auto action) {
        auto* shortcut = new QShortcut(keys, m_content); // asleep while no review is on the screen
        shortcut->setWhatsThis(words);
        connect(shortcut, &QShortcut::activated, this, action);
    };
    on(Qt::Key_Space, tr("play or pause"), [this] { m_playhead.setPlaying(!m_playhead.playing()); });
    on(Qt::Key_Comma, tr("one frame back"), [this] { m_playhead.stepFrames(-1); });
    on(Qt::Key_Period, tr("one frame on"), [this] { m_playhead.stepFrames(1); });
    on(Qt::Key_Up, tr("key moment before"), [this] { m_playhead.stepKeyMoment(-1); });
    on(Qt::Key_Down, tr("next key moment"), [this] { m_playhead.stepKeyMoment(1); });
    on(Qt::Key_PageUp, tr("posture before"), [this] { m_playhead.stepPosture(-1); });
    on(Qt::Key_PageDown, tr("next posture"), [this] { m_playhead.stepPosture(1); });
    on(Qt::Key_T, tr("figure from the front, side, top"), [this] { m_figureView->lookNext(); });
    on(Qt::Key_Return, tr("accept the next correction"), [this] { m_slip->decideNext(Decision::Accepted); });
    on(Qt::Key_Backspace, tr("park the next correction"), [this] { m_slip->decideNext(Decision::Parked); });
    on(QKeySequence::Undo, tr("undo"), [this] { m_undo->undo(); });
    on(QKeySequence::Redo, tr("redo"), [this] { m_undo->redo(); });
    on(QKeySequence::HelpContents, tr("this list"), [this] { KeysDialog(*this, m_context.theme).exec(); });
}

void ReviewPage::open(qint64 id)
{
    const auto clip = m_context.library.clip(id);
    if (!clip || clip->state != ClipState::Ready) return;
    m_clip = clip;
    m_student = clip->studentId ? m_context.library.student(*clip->studentId) : std::nullopt;
    const QString last = m_context.library.setting(kLastForm);
    const auto row =
        m_context.library.reviewOf({0, id, {}, last.isEmpty() ? "sparrow-tail" : last, "upright-broad"});
    if (!row) return emit message(QString::fromStdString(row.error().message()));
    m_row = *row;
    nameStudent();
    fillChoices();
    m_mendPanel->setClip(id, m_student);
    reload();
}

/// After something was mended, or somebody's height became known.
void ReviewPage::measureAnew()
{
    if (m_clip->studentId) m_student = m_context.library.student(*m_clip->studentId);
    m_mendPanel->setClip(m_clip->id, m_student);
    reload();
}

void ReviewPage::reload()
{
    const quint64 turn = ++m_turn;
    m_formDoubt->drop();
    m_playhead.setPlaying(false);
    auto wished = wish();
    if (!wished) return emit message(QString::fromStdString(wished.error().message()));
    if (m_content->isHidden() && m_waiting->isHidden()) showMessage(tr("Measuring…"));
    m_patience.start();
    using Outcome = Result<Opened>;
    auto* watcher = new QFutureWatcher<Outcome>(this);
    connect(watcher, &QFutureWatcher<Outcome>::finished, this, [this, watcher, turn] {
        watcher->deleteLater();
        if (turn != m_turn) return;
        m_patience.stop();
        m_waiting->clear();
        const Outcome outcome = watcher->result();
        if (outcome) return show(*outcome);
        showMessage(QString::fromStdString(outcome.error().message()));
        emit message(QString::fromStdString(outcome.error().message()));
    });
    watcher->setFuture(QtConcurrent::run([&data = m_context.data, wished = std::move(*wished)]() mutable {
        return make(data, std::move(wished));
    }));
}

/// In the place of a review.
void ReviewPage::showMessage(const QString& words)
{
    m_content->hide();
    m_empty->setText(words);
    m_empty->show();
}

/// A review that is only made anew stays where it is.
void ReviewPage::showWaiting()
{
    if (!m_content->isHidden() && m_shownClip == m_clip->id) return;
    m_content->hide();
    m_empty->hide();
    m_waiting->open(m_clip->file, m_context.library.previewOf(*m_clip));
}

Result<ReviewPage::Opened> ReviewPage::make(const ShippedData& data, Wish wish)
{
    BundleRequest& request = wish.request;
    auto student = unpackTrack(wish.student, wish.file);
    if (!student) return student.error();
    request.student = std::move(*student);
    for (const auto& [packed, track] :
         {std::pair(&wish.second, &request.second), {&wish.reference, &request.reference}}) {
        if (packed->empty()) continue;
        auto unpacked = unpackTrack(*packed, wish.file);
        if (!unpacked) return unpacked.error();
        *track = std::move(*unpacked);
    }
    const std::string form = request.form, school = request.school;
    auto bundle = makeBundle(data, std::move(request));
    if (!bundle) return bundle.error();
    Opened opened{std::move(*bundle), {}, hasSound(wish.file)};
    const ClipReading& reading = opened.bundle->student;
    if (!opened.bundle->reference) {
        // As half way through the form, since the opening may stand at one end of the way.
        const BodyPoints halfWay = reading.model.at(0.5 * reading.model.duration());
        opened.performer =
            filmPerformer(data, form, school, reading.lead(), reading.camera.azimuthFrom(halfWay));
    }
    return opened;
}

} // namespace jl
