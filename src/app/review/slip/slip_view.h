#pragma once
#include "app/review/model/playhead.h"
#include "app/shell/context.h"
#include "review/slip.h"
#include <QWidget>
#include <set>

class QLabel;
class QScrollArea;
class QUndoStack;
class QVBoxLayout;

namespace jl
{

class CardOrder;
struct CardContent;

/// At most three corrections, each as chain, cue and drill. The instructor accepts, parks or sets aside with
/// a reason, puts the cue in own words, files a fault under another cause, and drags what matters most to the
/// top; all of it can be undone. What the student will read is what is shown.
class SlipView : public QWidget
{
    Q_OBJECT

public:
    SlipView(Playhead& playhead, const Context& context, QUndoStack& undo, QWidget* parent = nullptr);

    void setReview(qint64 review, const QString& studentName);

    /// Says above the slip that the clip may show another form; until the next review.
    void setDoubt(const QString& text);

    /// The slip as the student gets it: what was accepted, in the instructor's words. A review must be shown.
    Slip slip() const;

    /// Acts on the chosen correction, or where none is, on the first that waits for a decision; then shows
    /// the next that waits. As the keys do.
    void decideNext(Decision decision);
    /// What these keys act on; none where all is decided.
    std::optional<Correction> current() const;
    /// Chooses the next correction (1) or the one before (-1), and shows its moment.
    void step(int direction);
    /// Of the same correction: why it is set aside, what lies behind it, other words for it.
    void askWhyAside();
    void unfoldCurrent();
    void rewordCurrent();
    /// Keeps other words for a correction; empty: as proposed.
    void keepCue(const QString& fault, const QString& cue);
    /// Asks for a finding of the instructor's own at this moment.
    void addOwn();
    /// Whether there is something to send.
    bool isReady() const;

signals:
    void message(const QString& text);
    /// The page for the student, or a moving picture for it, is to be made.
    void pageWanted();
    void movingWanted();
    /// A fault was filed under another cause: the review must be made again.
    void causesChanged();
    /// A correction was set aside because the program measured wrongly.
    void measuredWrong();

private:
    void rebuild();
    void rebuildSoon();
    /// Whether nothing may be decided here; says so.
    bool refused();
    /// The corrections in the instructor's order.
    std::vector<Correction> ordered() const;
    void reorder(const QStringList& faults);
    QWidget* card(const Correction& correction, bool many);
    CardContent contentOf(const Correction& correction) const;
    void show(const Correction& correction);
    void reword(const Correction& correction);
    void unfold(const std::string& fault, bool open);
    void buildFooter(const Review& review);
    void clear();
    void removeOwn(const QString& fault);
    /// Whether the instructor has said something about it.
    bool isDecided(const Correction& correction) const;
    void showDoubt();
    void addOverview(const Review& review);
    QString progressOf(const std::string& fault) const;
    void decide(const Correction& correction, Decision decision, const QString& reason = {});
    void choose(const QString& fault, const SlipChoice& choice, const QString& what);
    void fileUnder(const QString& fault, const std::optional<QString>& cause);
    std::vector<ChosenCorrection> accepted() const;
    Result<std::vector<PlannedDay>> practice(int minutes) const;
    void savePlan(const QString& file, int minutes);

    Playhead& m_playhead;
    Context m_context;
    Library& m_library;
    const Theme& m_theme;
    QUndoStack& m_undo;
    QLabel* m_title = nullptr;
    QVBoxLayout *m_cards = nullptr, *m_footer = nullptr;
    QScrollArea* m_scroll = nullptr;
    CardOrder* m_order = nullptr;
    qint64 m_review = 0;
    QString m_name, m_doubt;
    QString m_rewording;              ///< the fault whose cue is being put in other words
    std::string m_chosen;             ///< the fault of the chosen card; empty: none
    std::set<std::string> m_unfolded; ///< faults whose cards show all
};

} // namespace jl
