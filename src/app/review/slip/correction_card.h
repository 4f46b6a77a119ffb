#pragma once
#include "app/theme/theme.h"
#include "library/library.h"
#include "review/review.h"
#include <QWidget>

class QHBoxLayout;
class QMenu;
class QPushButton;
class QToolButton;
class QVBoxLayout;

namespace jl
{

class CardOrder;

constexpr int kParkedDays = 14; ///< after which a parked correction returns

/// What a card shows of one correction.
struct CardContent {
    Correction correction;
    SlipChoice choice;
    QString progress;                                   ///< since the last lesson; empty: nothing to say
    std::optional<QString> filedUnder;                  ///< the cause that the instructor filed it under
    std::vector<std::pair<QString, QString>> causes;    ///< other faults and their names, to file it under
    std::vector<std::pair<QString, QString>> followers; ///< what is filed under it, and their names
    bool rewording = false, unfolded = false, chosen = false;
};

/// One correction: title, cue and what to do with it. The chain, the reason, the drill and why it comes now
/// unfold on demand.
class CorrectionCard : public QWidget
{
    Q_OBJECT

public:
    /// `order` gives the card its handle; none where there is nothing to put in order.
    CorrectionCard(const CardContent& content, CardOrder* order, const Theme& theme, QWidget* parent);

    /// Opens the ways to set it aside, as the key does.
    void askWhyAside();

signals:
    void decided(jl::Decision decision, const QString& reason);
    void showWanted();
    void rewordWanted();
    void cueKept(const QString& cue); ///< empty: as proposed
    void removeWanted();              ///< an own finding is to be taken away
    void filed(const QString& fault, const std::optional<QString>& cause);
    void unfoldWanted(bool open);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    void addHead(CardOrder* order);
    void addCue();
    void addDecisions();
    void addReasons();
    void addFurther();
    void addAsideMenu(QPushButton& aside);
    QMenu* causeMenu(QWidget* parent);
    QPushButton* button(const QString& text, const char* name, QHBoxLayout* row);
    bool isQuiet() const;

    const CardContent m_content;
    const Theme& m_theme;
    const QString m_fault, m_name;
    QVBoxLayout* m_layout = nullptr;
    QPushButton* m_aside = nullptr;
};

} // namespace jl
