#pragma once
#include "app/review/model/playhead.h"
#include "app/shell/context.h"
#include "review/slip.h"
#include <QWidget>

class QLabel;
class QUndoStack;
class QVBoxLayout;

namespace jl
{

class CardOrder;

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

    /// Acts on the first correction that waits for a decision, as the keys do.
    void decideNext(Decision decision);

signals:
    void message(const QString& text);
    /// The page for the student is to be looked at.
    void pageWanted();
    /// A fault was filed under another cause: the review must be made again.
    void causesChanged();
    /// A correction was set aside because the program measured wrongly.
    void measuredWrong();

private:
    void rebuild();
    void rebuildSoon();
    /// The corrections in the instructor's order.
    std::vector<Correction> ordered() const;
    void reorder(const QStringList& faults);
    QWidget* card(const Correction& correction);
    QLayout* decisions(const Correction& correction, const SlipChoice& choice, QWidget* card);
    QLayout* more(const Correction& correction, QWidget* card);
    void addActions(const Review& review, int accepted);
    void addOwn();
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
    QVBoxLayout* m_cards = nullptr;
    CardOrder* m_order = nullptr;
    qint64 m_review = 0;
    QString m_name, m_doubt;
    QString m_rewording; ///< the fault whose cue is being put in other words
};

} // namespace jl
