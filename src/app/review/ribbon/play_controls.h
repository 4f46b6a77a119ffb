#pragma once
#include "app/review/model/open_review.h"
#include <QWidget>

class QComboBox;
class QLabel;
class QToolButton;

namespace jl
{

class SoundButton;

/// The row below the ribbon: steps and playing, the clock, sound, loop and speed.
class PlayControls : public QWidget
{
    Q_OBJECT

public:
    PlayControls(OpenReview& review, const Context& context, QWidget* parent = nullptr);

private:
    QToolButton* button(const QString& picture, const QString& tip, const QString& name);
    void addSteps();
    void addLoop();
    void addSpeed();
    void showTime();

    Playhead& m_playhead;
    Context m_context;
    QToolButton* m_play = nullptr;
    QLabel* m_clock = nullptr;
    QComboBox* m_speed = nullptr;
};

} // namespace jl
