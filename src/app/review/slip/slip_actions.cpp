#include "app/review/slip/slip_actions.h"
#include <QGridLayout>
#include <QMenu>
#include <QPushButton>

namespace jl
{

SlipActions::SlipActions(const std::vector<Correction>& further, bool ready, QWidget* parent)
    : QWidget(parent)
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 2, 0, 2);
    grid->setSpacing(6);
    // Their keys are the page's: these buttons are made anew after each decision.
    const auto button = [&](const QString& text, const char* name) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        return b;
    };
    auto* page = button(tr("page for the student…"), "slip.page");
    page->setProperty("accent", true);
    page->setEnabled(ready);
    page->setToolTip(ready ? tr("Look at the slip as the student gets it, and save it (Ctrl+P)")
                           : tr("Accept a correction first (Ctrl+P)"));
    connect(page, &QPushButton::clicked, this, &SlipActions::pageWanted);
    auto* moving = button(tr("moving picture…"), "slip.moving");
    moving->setToolTip(tr("Student and aim in step, as a clip for a phone (Ctrl+Shift+P)"));
    connect(moving, &QPushButton::clicked, this, &SlipActions::movingWanted);
    auto* own = button(tr("add what you see…"), "slip.own");
    own->setToolTip(tr("A finding of your own at this moment (Ctrl+N)"));
    connect(own, &QPushButton::clicked, this, &SlipActions::ownWanted);
    auto* more = button(tr("one more"), "slip.further");
    more->setToolTip(tr("A correction beyond the three that are proposed"));
    auto* menu = new QMenu(more);
    for (const Correction& c : further)
        connect(menu->addAction(QString::fromStdString(c.title)), &QAction::triggered, this,
                [this, c] { emit furtherWanted(c); });
    more->setMenu(menu);
    more->setEnabled(!menu->isEmpty());
    grid->addWidget(page, 0, 0);
    grid->addWidget(moving, 0, 1);
    grid->addWidget(own, 1, 0);
    grid->addWidget(more, 1, 1);
}

} // namespace jl
