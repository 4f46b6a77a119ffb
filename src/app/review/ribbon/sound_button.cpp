#include "app/review/ribbon/sound_button.h"
#include "app/theme/icon.h"

namespace jl
{

SoundButton::SoundButton(const Playhead& playhead, const Context& context, QWidget* parent)
    : QPushButton(parent), m_playhead(playhead)
{
    setObjectName("ribbon.sound");
    setAccessibleName(tr("Sound"));
    setCheckable(true);
    setChecked(context.library.setting("review.sound") == "on");
    setPictured(*this, "volume-2", context.theme);
    m_player.setOn(isChecked());
    setClip({});
    connect(this, &QPushButton::toggled, this, [this, &library = context.library](bool on) {
        library.setSetting("review.sound", on ? "on" : "off");
        m_player.setOn(on);
        follow();
    });
    connect(&playhead, &Playhead::moved, this, &SoundButton::follow);
    connect(&playhead, &Playhead::playingChanged, this, &SoundButton::follow);
}

void SoundButton::setClip(const QString& file)
{
    const bool loud = hasLoudspeaker();
    m_player.setClip(loud ? file : QString());
    setEnabled(loud && !file.isEmpty());
    setToolTip(file.isEmpty() ? tr("This clip has no sound")
               : !loud        ? tr("This computer has no loudspeaker that can be used")
                              : tr("Let the student's clip be heard, at its own pitch at any speed (S)"));
    setShortcut(QKeySequence(Qt::Key_S)); // a button's text would take it away
}

void SoundButton::follow()
{
    if (m_playhead.playing())
        m_player.follow(m_playhead.time(), m_playhead.speed());
    else
        m_player.stop();
}

} // namespace jl
