#include "app/review/slip/slip_actions.h"
#include "app/review/slip/practice_row.h"
#include <QHBoxLayout>
#include <QMenu>
#include <QPushButton>

namespace jl
{

SlipActions::SlipActions(const std::vector<Correction>& further, int accepted, bool teaches, Library& library,
                         QWidget* parent)
    : QWidget(parent)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* row = new QHBoxLayout;
    auto* own = new QPushButton(tr("add what you see…"), this);
    own->setObjectName("slip.own");
    own->setToolTip(tr("A finding of your own at this moment (Ctrl+N)"));
    own->setShortcut(Qt::CTRL | Qt::Key_N);
    connect(own, &QPushButton::clicked, this, &SlipActions::ownWanted);
    row->addWidget(own);
    auto* more = new QPushButton(tr("one more"), this);
    more->setObjectName("slip.further");
    more->setToolTip(tr("A correction beyond the three that are proposed"));
    auto* menu = new QMenu(more);
    for (const Correction& c : further)
        connect(menu->addAction(QString::fromStdString(c.title)), &QAction::triggered, this,
                [this, c] { emit furtherWanted(c); });
    more->setMenu(menu);
    more->setEnabled(!menu->isEmpty());
    row->addWidget(more);
    row->addStretch(1);
    layout->addLayout(row);
    if (teaches) {
        auto* practice = new PracticeRow(library, accepted > 0, this);
        connect(practice, &PracticeRow::saveWanted, this, &SlipActions::planWanted);
        layout->addWidget(practice);
    }
    auto* page = new QPushButton(tr("page for the student…"), this);
    page->setObjectName("slip.page");
    page->setProperty("accent", true);
    page->setShortcut(Qt::CTRL | Qt::Key_P);
    const bool ready = accepted > 0 || !teaches;
    page->setEnabled(ready);
    page->setToolTip(ready ? tr("Look at the slip as the student gets it, and save it (Ctrl+P)")
                           : tr("Accept a correction first"));
    connect(page, &QPushButton::clicked, this, &SlipActions::pageWanted);
    layout->addWidget(page, 0, Qt::AlignLeft);
}

} // namespace jl
