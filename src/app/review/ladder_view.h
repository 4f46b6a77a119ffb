#pragma once
#include "app/review/measure_row.h"
#include "app/review/playhead.h"
#include <QWidget>
#include <array>

class QLabel;
class QToolButton;

namespace jl
{

/// The rungs from the ground up, feet at the bottom. One rung is open at a time and lists its measures at the
/// phase's key moment.
class LadderView : public QWidget
{
    Q_OBJECT

public:
    LadderView(Playhead& playhead, const Theme& theme, QWidget* parent = nullptr);

    void openRung(Rung rung);
    Rung openedRung() const { return m_open; }

signals:
    void rungOpened();

private:
    struct RungPart {
        QWidget* header = nullptr;
        QWidget* body = nullptr;
        std::vector<MeasureRow*> rows;
    };
    void refresh();
    void chooseMeasure();

    Playhead& m_playhead;
    const Theme& m_theme;
    std::array<RungPart, kRungCount> m_rungs;
    Rung m_open = Rung::Knees;
};

} // namespace jl
