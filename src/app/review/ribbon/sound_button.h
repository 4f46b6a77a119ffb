#pragma once
#include "app/jobs/sound_player.h"
#include "app/review/model/playhead.h"
#include "app/shell/context.h"
#include <QPushButton>

namespace jl
{

/// Turns the sound of the student's clip on and off, and plays it along with the pictures. What cannot be
/// heard, and why, is said in its tip. Remembered from one run to the next.
class SoundButton : public QPushButton
{
    Q_OBJECT

public:
    SoundButton(const Playhead& playhead, const Context& context, QWidget* parent = nullptr);

    /// Empty: the clip has no sound.
    void setClip(const QString& file);

private:
    void follow();

    const Playhead& m_playhead;
    SoundPlayer m_player;
};

} // namespace jl
