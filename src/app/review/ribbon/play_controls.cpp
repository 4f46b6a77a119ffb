#include "app/review/ribbon/play_controls.h"
#include "app/review/paint/words.h"
#include "app/review/ribbon/sound_button.h"
#include "app/theme/icon.h"
#include "app/theme/label.h"
#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QToolButton>

namespace jl
{

PlayControls::PlayControls(OpenReview& review, const Context& context, QWidget* parent)
    : QWidget(parent), m_playhead(review.playhead()), m_context(context)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    addSteps();
    m_clock = label({}, 0.95, QFont::Normal, context.theme.quiet, this);
    m_clock->setObjectName("ribbon.clock");
    row->addSpacing(8);
    row->addWidget(m_clock);
    row->addStretch(1);
    auto* sound = new SoundButton(m_playhead, m_context, this);
    row->addWidget(sound);
    connect(&review, &OpenReview::shown, sound, [sound, &review](const MadeReview& made) {
        sound->setClip(made.hasSound ? review.clip().file : QString());
    });
    addLoop();
    addSpeed();
    connect(&m_playhead, &Playhead::moved, this, &PlayControls::showTime);
    connect(&m_playhead, &Playhead::loaded, this, &PlayControls::showTime);
}

QToolButton* PlayControls::button(const QString& picture, const QString& tip, const QString& name)
{
    auto* b = new QToolButton(this);
    b->setIcon(icon(picture, m_context.theme.ink));
    b->setIconSize({18, 18});
    b->setToolTip(tip);
    b->setAccessibleName(tip);
    b->setObjectName(name);
    layout()->addWidget(b);
    return b;
}

void PlayControls::addSteps()
{
    const auto step = [this](const char* picture, const QString& tip, const char* name, auto action) {
        connect(button(picture, tip, name), &QToolButton::clicked, this, action);
    };
    step("skip-back", tr("Key moment before (Up)"), "ribbon.previous",
         [this] { m_playhead.stepKeyMoment(-1); });
    step("step-back", tr("Frame before (comma)"), "ribbon.back", [this] { m_playhead.stepFrames(-1); });
    m_play = button("play", tr("Play (Space)"), "ribbon.play");
    connect(m_play, &QToolButton::clicked, this, [this] { m_playhead.setPlaying(!m_playhead.playing()); });
    step("step-forward", tr("Next frame (period)"), "ribbon.forward", [this] { m_playhead.stepFrames(1); });
    step("skip-forward", tr("Next key moment (Down)"), "ribbon.next",
         [this] { m_playhead.stepKeyMoment(1); });
    connect(&m_playhead, &Playhead::playingChanged, this, [this](bool playing) {
        m_play->setIcon(icon(playing ? "pause" : "play", m_context.theme.ink));
        m_play->setAccessibleName(playing ? tr("Pause (Space)") : tr("Play (Space)"));
    });
}

void PlayControls::addLoop()
{
    auto* loop = new QPushButton(tr("loop"), this);
    loop->setCheckable(true);
    loop->setToolTip(tr("Play the phase again and again (L)"));
    loop->setShortcut(QKeySequence(Qt::Key_L));
    loop->setObjectName("ribbon.loop");
    connect(loop, &QPushButton::toggled, &m_playhead, &Playhead::setLoop);
    layout()->addWidget(loop);
}

void PlayControls::addSpeed()
{
    m_speed = new QComboBox(this);
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
    layout()->addWidget(m_speed);
}

void PlayControls::showTime()
{
    const ReviewScene* scene = m_playhead.scene();
    if (!scene) return;
    const QString whole = timeText(scene->student.track.duration());
    // Of a fixed size: a label that may grow has the whole page laid out again with each picture.
    m_clock->setFixedSize(m_clock->fontMetrics().size(0, tr("%1 of %2").arg(whole, whole)) + QSize(8, 0));
    m_clock->setText(tr("%1 of %2").arg(timeText(m_playhead.time()), whole));
}

} // namespace jl
