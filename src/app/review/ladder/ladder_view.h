#pragma once
#include "app/review/ladder/measure_row.h"
#include "app/review/model/playhead.h"
#include <QWidget>
#include <array>

class QLabel;
class QToolButton;

namespace jl
{

class MeasureDetail;
class PhaseMeasureRow;

/// The rungs from the ground up, feet at the bottom, timing at the top. One rung is open at a time and lists
/// its measures at the phase's key moment; or all rungs list what stands out there, and nothing else.
class LadderView : public QWidget
{
    Q_OBJECT

public:
    LadderView(Playhead& playhead, const Theme& theme, QWidget* parent = nullptr);

    void openRung(Rung rung);
    /// The rung above all others: measures of the phase as a whole.
    void openTiming();
    /// None while timing is open, or what stands out.
    std::optional<Rung> openedRung() const;

    /// Lists only what stands out, of all rungs; opening a rung ends it.
    void showOnlyOut(bool only);

signals:
    void rungOpened();
    void onlyOutChanged(bool only);
    /// What lies behind the chosen value has a new place, which should come into view.
    void detailPlaced(QWidget* detail);

private:
    struct RungPart {
        QWidget* header = nullptr;
        QWidget* body = nullptr;
        std::vector<MeasureRow*> rows;
        int out = 0; ///< of its rows stand out at this moment
    };
    static constexpr std::size_t kTiming = kRungCount; ///< its place in the ladder
    QWidget* addPart(std::size_t place, const QString& name);
    void openPart(std::size_t place);
    void refreshTiming();
    void refresh();
    void chooseMeasure();
    void placeDetail();
    void showRows();
    Mark markOfChosen() const;

    Playhead& m_playhead;
    const Theme& m_theme;
    std::array<RungPart, kRungCount + 1> m_rungs; ///< from the ground up, timing last
    std::vector<PhaseMeasureRow*> m_timingRows;
    MeasureDetail* m_detail = nullptr; ///< under the chosen row
    std::size_t m_open = static_cast<std::size_t>(Rung::Knees);
    bool m_onlyOut = false;
    QLabel* m_nothingOut = nullptr;
};

} // namespace jl
