#include "app/review/slip/caution_line.h"
#include "app/theme/label.h"
#include <QHBoxLayout>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>

namespace jl
{

CautionLine::CautionLine(const QStringList& lines, const Theme& theme, QWidget* parent) : QWidget(parent)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(2);
    auto* head = new QHBoxLayout;
    head->setSpacing(4);
    auto* unfold = new QToolButton(this);
    unfold->setObjectName("slip.cautions.unfold");
    unfold->setAccessibleName(tr("All cautions and notes"));
    unfold->setToolTip(tr("All cautions and notes"));
    unfold->setCheckable(true);
    unfold->setArrowType(Qt::RightArrow);
    head->addWidget(unfold);
    auto* first = new ElidedLabel(0.95, QFont::Normal, theme.ink, this);
    first->setText(lines.value(0));
    head->addWidget(first, 1);
    layout->addLayout(head);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFrameShape(QFrame::NoFrame);
    auto* all = paragraph(lines.join("\n"), 0.95, QFont::Normal, theme.ink, scroll);
    all->setObjectName("slip.cautions");
    all->setAlignment(Qt::AlignTop);
    scroll->setWidget(all);
    scroll->hide();
    layout->addWidget(scroll, 1);
    connect(unfold, &QToolButton::toggled, this, [unfold, scroll, first](bool open) {
        unfold->setArrowType(open ? Qt::DownArrow : Qt::RightArrow);
        scroll->setVisible(open);
        first->setVisible(!open);
    });
}

} // namespace jl
